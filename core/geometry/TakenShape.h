// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/Forms.h"
#include "model/Project.h"

namespace kiln
{

/// A body as the project embeds it: the kernel's binary form, compressed, as text; its faces named "f1", "f2", … .
[[nodiscard]] TakenBody takeBody(const TopoDS_Shape& shape, const std::string& id, const std::string& name);

/// Faces of a shape in the order in which TakenBody names them.
[[nodiscard]] std::vector<TopoDS_Face> facesInOrder(const TopoDS_Shape& shape);

/// The shape of an embedded body; decoded once and kept. Fails when the text is damaged.
[[nodiscard]] Expected<TopoDS_Shape> shapeOf(const TakenBody& body);

/// The body a part is made of, its faces named "prefix.f1", … . Fails naming the file and the body.
[[nodiscard]] Expected<NamedBody> makeFileBody(const Project& project, const FileBody& form, const std::string& prefix);

/// The bodies of files that a part is made of: its own, and those that are joined to it or cut from it.
[[nodiscard]] std::vector<FileBody> fileBodiesOf(const Part& part);

/// The embedded body, or nullptr when the project does not have it.
[[nodiscard]] const TakenBody* findBody(const Project& project, const FileBody& form);

} // namespace kiln
