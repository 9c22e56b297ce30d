// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "readiness/Effort.h"

#include "geometry/SurfaceFaces.h"
#include "mesh/CountEstimate.h"
#include "model/Edit.h"
#include "units/Quantity.h"

#include <cmath>
#include <unistd.h>

namespace kiln
{
namespace
{

constexpr double ofElement = 4000; // B, of first order at the height of a solve
constexpr double heavier = 3;      // one of second order

double copiesOf(const Repeat& repeat)
{
  return std::visit(
      [](const auto& kind) {
        if constexpr (requires { kind.count; })
          return kind.count.si;
        return 1.0;
      },
      repeat);
}

double bodiesOf(const Part& part)
{
  double bodies = 1;
  for (const ShapeStep& step : part.steps)
    std::visit(
        [&](const auto& kind) {
          if constexpr (requires { kind.repeat; })
            bodies += step.muted ? 0 : copiesOf(kind.repeat);
        },
        step.action);
  return bodies * copiesOf(part.repeat);
}

tl::unexpected<Failure> tooLarge(const std::string& object, const std::string& problem, const std::string& remedy)
{
  return failure(Failure::Kind::TooLarge, object, problem, remedy + " Or allow it (--allow-large).");
}

std::string rounded(double count)
{
  constexpr double million = 1e6;
  return count >= million ? formatQuantity(count / million, Quantity::Plain, {}, 2) + " million"
                          : formatQuantity(count, Quantity::Plain, {}, 2);
}

} // namespace

EffortLimits usualLimits()
{
  constexpr double share = 0.5;
  EffortLimits limits;
  limits.elements = share * static_cast<double>(::sysconf(_SC_PHYS_PAGES)) *
                    static_cast<double>(::sysconf(_SC_PAGE_SIZE)) / ofElement;
  return limits;
}

double memoryToSolve(double elements, bool secondOrder) { return elements * (secondOrder ? heavier : 1) * ofElement; }

std::string memoryWords(double bytes)
{
  constexpr double mega = 1e6, giga = 1e9;
  return bytes < giga ? formatQuantity(std::max(bytes / mega, 1.0), Quantity::Plain, {}, 2) + " MB"
                      : formatQuantity(bytes / giga, Quantity::Plain, {}, 2) + " GB";
}

Expected<void> checkCopies(const Project& project, const EffortLimits& limits)
{
  if (limits.allowed)
    return {};
  for (const Part& part : project.parts)
    if (const double bodies = isMuted(project, part) ? 0 : bodiesOf(part); bodies > limits.copies)
      return tooLarge("part " + part.name, "Its repeats make " + rounded(bodies) + " bodies; fusing them takes hours.",
                      "Repeat it fewer times.");
  return {};
}

Expected<void> checkEffort(const Project& project, const FaceTable& geometry, const EffortLimits& limits)
{
  if (limits.allowed)
    return {};
  const double elements = estimateCount(project, geometry).elements;
  const double weighed = elements * (project.mesh.secondOrder ? heavier : 1);
  if (!(weighed <= limits.elements))
    return tooLarge("mesh",
                    "It would have about " + rounded(elements) + " elements and take about " +
                        memoryWords(memoryToSolve(elements, project.mesh.secondOrder)) +
                        " of memory; without asking it may have " +
                        rounded(limits.elements / (project.mesh.secondOrder ? heavier : 1)) + ".",
                    "Choose larger sizes, or fewer elements through walls.");
  for (const Enclosure& enclosure : project.enclosures) {
    if (enclosure.muted || (!enclosure.patchSize && !enclosure.rays))
      continue;
    double area = 0;
    for (const std::string& surface : enclosure.surfaces)
      for (const FaceId face : facesOf(project, geometry, surface).faces)
        area += geometry.faces[static_cast<std::size_t>(face)].area;
    constexpr double usualPatches = 1000, usualRays = 1000, mostRays = 2e9; // half an hour
    const double patches = enclosure.patchSize ? area / std::pow(enclosure.patchSize->si, 2) : usualPatches;
    if (const double rays = patches * (enclosure.rays ? enclosure.rays->si : usualRays); rays > mostRays)
      return tooLarge("enclosure " + enclosure.name, "It would cast about " + rounded(rays) + " rays.",
                      "Choose fewer rays or larger patches.");
    if (patches > limits.patches)
      return tooLarge("enclosure " + enclosure.name, "It would have about " + rounded(patches) + " patches.",
                      "Choose a larger patch size.");
  }
  return {};
}

} // namespace kiln
