// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

#include <TopTools_ListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Trsf.hxx>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace kiln
{

/// A body with the lasting names of its faces ("shell.top", "shell.cavity.bottom"); a face may have several.
struct NamedBody {
  TopoDS_Shape shape;
  std::vector<std::pair<TopoDS_Face, std::string>> names;
};

/// Why a form cannot be a body, beyond numbers that are out of range by themselves.
[[nodiscard]] std::optional<std::string> problemOf(const Form& form);

/// Only for section models.
[[nodiscard]] bool isFlat(const Form& form);

/// The form with its faces named "prefix.face", placed. Throws Standard_Failure when the kernel cannot build it.
[[nodiscard]] NamedBody makePlaced(const PlacedForm& form, const std::string& prefix);

[[nodiscard]] gp_Trsf transformOf(const Placement& placement);

/// The body moved.
[[nodiscard]] NamedBody moved(NamedBody body, const gp_Trsf& transform);

/// Closed outline in the plane z = 0 (or y = 0 when turned), straight edges and arcs.
[[nodiscard]] TopoDS_Face outlineFace(const std::vector<OutlinePoint>& outline, bool turned);

/// Takes names over from a body that an operation of the kernel changed.
template <class Operation>
void carryNames(Operation& operation, const NamedBody& from, NamedBody& to)
{
  for (const auto& [face, name] : from.names) {
    if (operation.IsDeleted(face))
      continue;
    const TopTools_ListOfShape& modified = operation.Modified(face);
    if (modified.IsEmpty())
      to.names.emplace_back(face, name);
    for (const TopoDS_Shape& piece : modified)
      to.names.emplace_back(TopoDS::Face(piece), name);
  }
}

} // namespace kiln
