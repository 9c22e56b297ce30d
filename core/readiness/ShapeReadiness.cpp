// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TakenElements.h"
#include "model/Edit.h"
#include "readiness/NetworkReadiness.h"
#include "units/Quantity.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace kiln
{
namespace
{

using Severity = Finding::Severity;

class ShapeCheck
{
public:
  ShapeCheck(const Project& project, const FaceTable& geometry) : project_(project), geometry_(geometry) {}

  std::vector<Finding> run()
  {
    checkSizes();
    checkSlivers();
    checkSection();
    checkElements();
    return std::move(findings_);
  }

private:
  void add(Severity severity, const std::string& id, const std::string& object, const std::string& problem,
           const std::string& remedy, std::vector<FaceId> faces = {}, std::vector<Mend> mends = {})
  {
    findings_.push_back({severity, id, object, problem, remedy, std::move(faces), std::move(mends)});
  }

  /// Parts of a section model that its plane does not meet are left out of it.
  void checkSection()
  {
    if (!project_.section)
      return;
    for (const Part& part : project_.parts)
      if (!isMuted(project_, part) && geometry_.partIndex(part.id) == noPart)
        add(Severity::Hint, part.id, "part " + part.name,
            "The plane of the section does not meet it: it does not count.", "Move it or the plane, or switch it off.");
  }

  /// Faces that are all but a line: parts that nearly fit, one a hair larger than the other.
  void checkSlivers()
  {
    constexpr double narrow = 5e-5;   // m
    constexpr double slender = 0.005; // of its length
    for (std::size_t f = 0; f < geometry_.faces.size(); ++f) {
      const Face& face = geometry_.faces[f];
      if (face.width >= narrow || face.width * face.width >= slender * face.area)
        continue;
      const GeometryPart& part = geometry_.parts[at(face.parts[0])];
      add(Severity::Hint, part.id, "part " + part.name,
          "A face of it (" + (face.names.empty() ? std::string("without a name") : face.names.front()) + ") is only " +
              formatQuantity(face.width, Quantity::Length, {}, 2) + " wide: the mesh there gets needless fine cells.",
          "Make the parts fit exactly, or widen the tolerance within which they touch.", {FaceId(f)},
          {{Mend::Action::WidenTolerance,
            "Let parts closer than " + formatQuantity(face.width * 2, Quantity::Length, {}, 2) + " touch",
            {plainNumber(face.width * 2)}}});
      findings_.back().place = face.centroid;
    }
  }

  /// Parts that the fuse cannot tell from nothing.
  void checkSizes()
  {
    constexpr double smallest = 10 * 1e-6; // m, ten times the tolerance within which parts touch
    for (const GeometryPart& part : geometry_.parts) {
      double thinnest = std::numeric_limits<double>::infinity();
      for (int axis = 0; axis < 3; ++axis)
        if (axis != geometry_.section.across)
          thinnest = std::min(thinnest, part.high[axis] - part.low[axis]);
      if (thinnest < smallest)
        add(Severity::Error, part.id, "part " + part.name,
            "It is only " + formatQuantity(thinnest, Quantity::Length, {}, 3) +
                " thin, less than can be told from nothing.",
            "Check the unit of its size.");
    }
  }

  /// Parts from mesh files: what of their elements is used, and what of their sizes is not.
  void checkElements()
  {
    for (const Part& part : project_.parts) {
      if (isMuted(project_, part) || !hasElements(project_, part))
        continue;
      const bool keeps = keepsElements(project_, part);
      if (keeps && part.meshSize)
        add(Severity::Hint, part.id, "part " + part.name,
            "It keeps the elements of its file: its own mesh size is not used.", "Remove the size, or mesh it anew.");
      const auto* form = std::get_if<FileBody>(&part.shape.form);
      if (!keeps && !project_.section && form != nullptr && !form->meshAnew)
        add(Severity::Hint, part.id, "part " + part.name,
            "Its shape is not that of its file any more: it is meshed anew, not with the elements of the file.",
            "Take its steps away, or untick Keep the elements of the file.");
    }
  }

  const Project& project_;
  const FaceTable& geometry_;
  std::vector<Finding> findings_;
};

} // namespace

std::vector<Finding> checkShapes(const Project& project, const FaceTable& geometry)
{
  return ShapeCheck(project, geometry).run();
}

std::vector<Finding> checkVoids(const Project& project, const Mesh& mesh)
{
  std::set<FaceId> covered;
  for (const Enclosure& enclosure : project.enclosures)
    for (const std::string& surface : enclosure.surfaces)
      for (const FaceId face : facesOf(project, mesh.geometry, surface).faces)
        covered.insert(face);
  std::vector<Finding> findings;
  for (const Void& space : mesh.voids) {
    if (std::any_of(space.faces.begin(), space.faces.end(), [&](FaceId face) { return covered.contains(face); }))
      continue;
    std::vector<std::string> names;
    std::set<std::string> parts;
    for (const int f : space.faces) {
      const Face& face = mesh.geometry.faces[at(f)];
      parts.insert(mesh.geometry.parts[at(face.parts[0])].name);
      if (!face.names.empty())
        names.push_back(face.names.front());
    }
    std::string around;
    for (const std::string& part : parts)
      around += (around.empty() ? "" : ", ") + part;
    constexpr double cubicCentimetres = 1e6;
    Finding finding{Severity::Hint,
                    "",
                    "space inside " + around,
                    "Nothing crosses this closed space of " +
                        plainNumber(std::round(space.volume * cubicCentimetres * 10) / 10) + " cm³.",
                    "Make an enclosure of it, so that its surfaces radiate to each other.",
                    space.faces,
                    {{Mend::Action::MakeEnclosure, "Make an enclosure of it", names}}};
    finding.objectId = mesh.geometry.parts[at(mesh.geometry.faces[at(space.faces.front())].parts[0])].id;
    findings.push_back(std::move(finding));
  }
  return findings;
}

} // namespace kiln
