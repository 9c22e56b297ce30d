// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/ObjectKinds.h"

namespace kiln
{

/// Watches that objects of one kind can be the subject of, named and ready to be added: of every kind of figure that
/// needs to name as many objects of this kind, one for each of its alternatives.
/// \param ids   one object, the two parts of a contact (in this order), or none
/// \param name  what stands for them in the names: "Lid", "Shell → Fibre"
[[nodiscard]] std::vector<Watch> watchesOf(const Project& project, const std::vector<std::string>& ids, Refers kind,
                                           const std::string& name);

} // namespace kiln
