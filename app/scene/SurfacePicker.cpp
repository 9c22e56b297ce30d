// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SurfacePicker.h"

#include "scene/DrawnPolyData.h"

#include <vtkNew.h>
#include <vtkPolyData.h>
#include <vtkSmartPointer.h>
#include <vtkStaticCellLocator.h>

namespace kiln
{
namespace
{

/// \param values  by point of the surface
double valueAt(const DrawnSurface& surface, const std::vector<double>& values, std::size_t triangle, const Vec3& place)
{
  const Triangle& t = surface.triangles[triangle];
  const auto point = [&](std::size_t i) -> const Vec3& { return surface.points[static_cast<std::size_t>(t[i])]; };
  const Vec3 e1 = point(1) - point(0);
  const Vec3 e2 = point(2) - point(0);
  const Vec3 normal = e1.cross(e2);
  const double size = std::max(normal.squaredNorm(), 1e-300);
  const double w1 = (place - point(0)).cross(e2).dot(normal) / size;
  const double w2 = e1.cross(place - point(0)).dot(normal) / size;
  const auto value = [&](std::size_t i) { return values[static_cast<std::size_t>(t[i])]; };
  return value(0) + w1 * (value(1) - value(0)) + w2 * (value(2) - value(0));
}

} // namespace

struct SurfacePicker::State {
  const DrawnSurface* surface = nullptr;
  vtkSmartPointer<vtkPolyData> data;
  vtkNew<vtkStaticCellLocator> locator;

  /// When it is first asked: a surface that is dragged is drawn far more often than it is picked.
  void build()
  {
    if (data)
      return;
    data = trianglesAsPolyData(*surface);
    locator->SetDataSet(data);
    locator->BuildLocator();
  }
};

SurfacePicker::SurfacePicker() : state_(std::make_unique<State>()) {}
SurfacePicker::~SurfacePicker() = default;
SurfacePicker::SurfacePicker(SurfacePicker&&) noexcept = default;
SurfacePicker& SurfacePicker::operator=(SurfacePicker&&) noexcept = default;

void SurfacePicker::setSurface(const DrawnSurface& surface)
{
  state_->surface = &surface;
  state_->data = nullptr;
}

std::optional<PickedPoint> SurfacePicker::pick(const Vec3& from, const Vec3& to, const SectionPlanes& sections) const
{
  if (state_->surface == nullptr || state_->surface->triangles.empty())
    return std::nullopt;
  state_->build();
  const Vec3 way = to - from;
  const double step = 1e-7 * way.norm(); // beyond a triangle that the section removes
  Vec3 start = from;
  for (int passed = 0; passed < 1000; ++passed) {
    double share = 0;
    Vec3 place;
    Vec3 local;
    int part = 0;
    vtkIdType cell = -1;
    if (state_->locator->IntersectWithLine(start.data(), to.data(), 0.0, share, place.data(), local.data(), part,
                                           cell) == 0)
      return std::nullopt;
    const auto triangle = static_cast<std::size_t>(cell);
    constexpr double slack = 1e-9; // m; a section's own triangles lie on its plane
    if (removes(sections, place, slack)) {
      start = place + way.normalized() * step;
      continue;
    }
    PickedPoint hit{place, (place - from).norm(), state_->surface->part[triangle], state_->surface->face[triangle], {}};
    if (triangle < state_->surface->tet.size())
      hit.tet = state_->surface->tet[triangle];
    if (const auto& kelvin = state_->surface->temperatures; !kelvin.empty())
      hit.temperature = valueAt(*state_->surface, kelvin, triangle, place);
    if (const auto& values = state_->surface->values; !values.empty())
      hit.value = valueAt(*state_->surface, values, triangle, place);
    return hit;
  }
  return std::nullopt;
}

} // namespace kiln
