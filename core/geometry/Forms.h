// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>
#include <string>
#include <utility>
#include <vector>

namespace kiln
{

/// A body with the lasting names of its faces ("shell.top", "shell.cavity.bottom").
struct NamedBody {
  TopoDS_Shape shape;
  std::vector<std::pair<TopoDS_Face, std::string>> names;
};

/// The part's form with its steps joined and cut, placed. Fails naming the part and the dimension.
[[nodiscard]] Expected<NamedBody> buildPart(const Part& part);

} // namespace kiln
