// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/Forms.h"

#include <functional>
#include <string>

namespace kiln
{

/// Why a step cannot be done.
struct StepProblem {
  std::string problem, remedy;
};

/// Makes a form that a step joins or cuts, its faces named "prefix.face".
using FormMaker = std::function<Expected<NamedBody>(const PlacedForm& form, const std::string& prefix)>;

/// The body after one step. Throws Standard_Failure when the kernel gives up.
/// \param prefix  "part.step", the start of the names of new faces
[[nodiscard]] tl::expected<NamedBody, StepProblem> afterStep(const NamedBody& body, const ShapeStep& step,
                                                             const std::string& prefix, const FormMaker& make);

/// Cylinders, tori and spheres of a smaller radius, m.
[[nodiscard]] TopTools_ListOfShape smallRoundFaces(const TopoDS_Shape& shape, double below);

/// The body with another one cut from it; new faces keep the other's names. Throws Standard_Failure.
[[nodiscard]] NamedBody cutBy(const NamedBody& body, const NamedBody& tool);

/// Where the copies of a body stand.
[[nodiscard]] std::vector<gp_Trsf> copiesOf(const Repeat& repeat);

/// All copies of a body as one; the faces of copy n are also called "prefix#n.face".
[[nodiscard]] NamedBody repeated(const NamedBody& body, const Repeat& repeat, const std::string& prefix);

} // namespace kiln
