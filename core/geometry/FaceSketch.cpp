// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/FaceSketch.h"

#include "geometry/Rotation.h"
#include "model/RoundNumber.h"

#include <cmath>
#include <numbers>

namespace kiln
{
namespace
{

constexpr double least = 1e-6; // m

Vec3 vectorOf(const Number3& numbers) { return {numbers.x.si, numbers.y.si, numbers.z.si}; }

Vec2 middleOf(const Sketch& sketch)
{
  return sketch.kind == Sketch::Kind::Rectangle ? Vec2((sketch.points[0] + sketch.points[1]) / 2) : sketch.points[0];
}

Vec2 sizeOf(const Sketch& sketch) { return (sketch.points[1] - sketch.points[0]).cwiseAbs(); }

double radiusOf(const Sketch& sketch) { return (sketch.points[1] - sketch.points[0]).norm(); }

/// \param up  −1: seen from behind
std::vector<OutlinePoint> outlineOf(const Sketch& sketch, const Vec2& from, double up = 1)
{
  std::vector<OutlinePoint> outline;
  for (const Vec2& point : sketch.points)
    outline.push_back({lengthNumber(point.x() - from.x()), lengthNumber(up * (point.y() - from.y())), {0, "0 mm"}});
  return outline;
}

} // namespace

std::optional<Vec3> DrawingPlane::hitBy(const Vec3& from, const Vec3& to) const
{
  const double towards = out.dot(to - from);
  constexpr double beside = 1e-9;
  if (std::abs(towards) < beside * (to - from).norm())
    return std::nullopt;
  return from + out.dot(origin - from) / towards * (to - from);
}

std::optional<DrawingPlane> drawingPlane(const Face& face, PartId side, const Part& part)
{
  if (!face.planar || !face.touches(side))
    return std::nullopt;
  const Eigen::Matrix3d turned = rotationOf(part.shape.placement.rotation);
  DrawingPlane plane;
  plane.origin = face.centroid;
  plane.out = face.parts[0] == side ? face.normal : Vec3(-face.normal);
  constexpr double alongX = 0.9; // it looks along the part's x
  const Vec3 wanted = turned.col(std::abs(plane.out.dot(turned.col(0))) > alongX ? 1 : 0);
  plane.along = (wanted - plane.out.dot(wanted) * plane.out).normalized();
  plane.across = plane.out.cross(plane.along);
  return plane;
}

bool Sketch::isSomething() const
{
  if (points.size() < 2)
    return false;
  if (kind == Kind::Rectangle)
    return (points[1] - points[0]).cwiseAbs().minCoeff() > least;
  if (kind == Kind::Circle)
    return radiusOf(*this) > least;
  return points.size() > 2;
}

std::vector<Vec2> Sketch::border() const
{
  std::vector<Vec2> places;
  if (points.size() < 2)
    return points;
  if (kind == Kind::Rectangle) {
    const Vec2& a = points[0];
    const Vec2& b = points[1];
    places = {a, {b.x(), a.y()}, b, {a.x(), b.y()}, a};
  } else if (kind == Kind::Circle) {
    constexpr int pieces = 48;
    for (int i = 0; i <= pieces; ++i) {
      const double angle = 2 * std::numbers::pi * i / pieces;
      places.emplace_back(points[0] + radiusOf(*this) * Vec2(std::cos(angle), std::sin(angle)));
    }
  } else {
    places = points;
    places.push_back(points.front());
  }
  return places;
}

Sketch Sketch::sized(const std::vector<double>& sizes) const
{
  Sketch other = *this;
  if (points.size() < 2 || sizes.empty())
    return other;
  const Vec2 way = points[1] - points[0];
  if (kind == Kind::Rectangle) { // towards where it was drawn
    const double second = sizes.size() > 1 ? sizes[1] : sizes[0];
    other.points[1] = points[0] + Vec2(way.x() < 0 ? -sizes[0] : sizes[0], way.y() < 0 ? -second : second);
  } else if (kind == Kind::Circle) {
    other.points[1] = points[0] + sizes[0] / 2 * (way.norm() > 0 ? Vec2(way.normalized()) : Vec2::UnitX());
  }
  return other;
}

ShapeStep stepOf(const Sketch& sketch, double height, const DrawingPlane& plane, const Part& part)
{
  PlacedForm shape;
  const double size = std::abs(height);
  const double up = height < 0 ? -1 : 1; // what is cut stands on its head, so that it reaches down to a face
  const Vec2 middle = middleOf(sketch);
  switch (sketch.kind) {
  case Sketch::Kind::Rectangle:
    shape.form = Block{lengthNumber(sizeOf(sketch).x()), lengthNumber(sizeOf(sketch).y()), lengthNumber(size), {}};
    break;
  case Sketch::Kind::Circle:
    shape.form = Cylinder{lengthNumber(radiusOf(sketch)), lengthNumber(size), {}};
    break;
  case Sketch::Kind::Outline:
    shape.form = Prism{outlineOf(sketch, middle, up), lengthNumber(size), {}};
  }
  const Eigen::Matrix3d part3 = rotationOf(part.shape.placement.rotation);
  Eigen::Matrix3d drawn;
  drawn << plane.along, up * plane.across, up * plane.out;
  const Vec3 base = plane.placeOf(middle);
  const Vec3 own = part3.transpose() * (base - vectorOf(part.shape.placement.position));
  shape.placement.position = {lengthNumber(own.x()), lengthNumber(own.y()), lengthNumber(own.z())};
  shape.placement.rotation = anglesOf(part3.transpose() * drawn);
  ShapeStep step;
  if (height > 0)
    step.action = Join{std::move(shape)};
  else
    step.action = Cut{std::move(shape)};
  return step;
}

ShapeStep divisionOf(const Sketch& sketch, const std::string& face)
{
  SplitFace split;
  split.face = face;
  const Vec2 middle = middleOf(sketch);
  switch (sketch.kind) {
  case Sketch::Kind::Rectangle:
    split.line = SplitByRectangle{lengthNumber(middle.x()), lengthNumber(middle.y()), lengthNumber(sizeOf(sketch).x()),
                                  lengthNumber(sizeOf(sketch).y())};
    break;
  case Sketch::Kind::Circle:
    split.line = SplitByCircle{lengthNumber(middle.x()), lengthNumber(middle.y()), lengthNumber(radiusOf(sketch))};
    break;
  case Sketch::Kind::Outline:
    split.line = SplitByOutline{outlineOf(sketch, Vec2::Zero())};
  }
  ShapeStep step;
  step.action = std::move(split);
  return step;
}

} // namespace kiln
