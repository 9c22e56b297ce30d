// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/SteadyModel.h"

#include "model/Fields.h"

namespace kiln
{
namespace
{

/// What decides which places exchange heat with which: all but how much it is.
Project coupled(const Project& project)
{
  Project bare;
  bare.sources = project.sources;
  bare.boundaries = project.boundaries;
  bare.nodes = project.nodes;
  bare.links = project.links;
  for (const Field& field : fields(bare))
    if (field.quantity != Quantity::Length &&
        (field.value() != nullptr || field.table() != nullptr)) // lengths say where
      field.assign(Number{});
  return bare;
}

/// What conducts, and what sees what.
bool sameMakeUp(const Project& a, const Project& b)
{
  return a.parts == b.parts && a.materials == b.materials && a.finishes == b.finishes && a.contacts == b.contacts &&
         a.enclosures == b.enclosures && a.surfaces == b.surfaces && coupled(a) == coupled(b);
}

} // namespace

Expected<void> SteadyModel::take(const Project& project, const ViewFactorSource& viewFactors)
{
  const bool again = system_ != nullptr && sameMakeUp(project_, project);
  Expected<Conditions> conditions =
      again ? resolveAgain(project, mesh_, conditions_) : resolveConditions(project, mesh_, viewFactors);
  if (!conditions)
    return tl::unexpected(conditions.error());
  if (again) {
    conditions_ = std::move(*conditions);
    system_->conditionsChanged();
  } else {
    system_.reset();
    conditions_ = std::move(*conditions);
    system_ = std::make_unique<ThermalSystem>(mesh_, conditions_);
  }
  project_ = project;
  return {};
}

} // namespace kiln
