// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "solve/TimedModel.h"

#include "heat/radiation/EnclosureExchange.h"
#include "model/Fields.h"
#include "model/Parameters.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Full power below the band, none above it, a line between: a table against the thermostat's watch.
void grade(HeatSource& source)
{
  const Thermostat& thermostat = *source.thermostat;
  const double half = thermostat.band.si / 2;
  const auto graded = [&](Property& heat) {
    heat.table = {{{thermostat.setPoint.si - half, {}}, {heat.si, {}}}, {{thermostat.setPoint.si + half, {}}, {0, {}}}};
  };
  std::visit(
      [&](auto& kind) {
        if constexpr (requires { kind.power; })
          graded(kind.power);
        else if constexpr (requires { kind.density; })
          graded(kind.density);
        else if constexpr (std::is_same_v<std::decay_t<decltype(kind)>, SurfaceFlux>)
          graded(kind.flux);
      },
      source.heat);
  source.follows = thermostat.watch;
}

} // namespace

Expected<std::unique_ptr<TimedModel>> TimedModel::make(Project project, const Mesh& mesh,
                                                       const ViewFactorSource& viewFactors, double time, bool monotone)
{
  std::unique_ptr<TimedModel> model(new TimedModel(std::move(project), mesh));
  model->varies_ = variesInTime(model->project_);
  model->time_ = time;
  Expected<Project> now = projectAt(model->project_, time);
  if (!now)
    return tl::unexpected(now.error());
  model->now_ = std::move(*now);
  model->applyThermostats(model->now_);
  Expected<Conditions> conditions = resolveConditions(model->now_, mesh, viewFactors);
  if (!conditions)
    return tl::unexpected(conditions.error());
  model->conditions_ = std::move(*conditions);
  Expected<HeatStore> store = HeatStore::make(model->now_, mesh, model->conditions_);
  if (!store)
    return tl::unexpected(store.error());
  model->store_ = std::make_unique<HeatStore>(std::move(*store));
  model->system_ = std::make_unique<ThermalSystem>(mesh, model->conditions_, monotone);
  return model;
}

Expected<TimedModel*> TimedModel::monotone()
{
  if (monotone_)
    return monotone_.get();
  if (mesh_.order == 2)
    piecesMesh_ = std::make_unique<Mesh>(linearPieces(mesh_));
  const auto exchanges = flowsOf<EnclosureExchange>(conditions_.flows);
  std::size_t next = 0; // enclosures come in their order, with the same patches
  const auto same = [&](const Mesh&, const Patches&, const Eigen::VectorXd&, int, bool) -> Expected<ViewFactors> {
    return exchanges[next++]->factors();
  };
  auto made = make(project_, mesh_.order == 2 ? *piecesMesh_ : mesh_, same, time_, true);
  if (!made)
    return tl::unexpected(made.error());
  monotone_ = std::move(*made);
  monotone_->off_ = off_;
  monotone_->dirty_ = true;
  if (auto moved = monotone_->moveTo(time_, moment_); !moved)
    return tl::unexpected(moved.error());
  return monotone_.get();
}

Expected<void> TimedModel::moveTo(double time, Moment moment)
{
  time_ = time;
  moment_ = moment;
  if (monotone_)
    if (auto moved = monotone_->moveTo(time, moment); !moved)
      return moved;
  if (!varies_ && !dirty_)
    return {};
  Expected<Project> now = projectAt(project_, time, moment);
  if (!now)
    return tl::unexpected(now.error());
  now_ = std::move(*now);
  applyThermostats(now_);
  Expected<Conditions> conditions = resolveAgain(now_, mesh_, conditions_);
  if (!conditions)
    return tl::unexpected(conditions.error());
  conditions_ = std::move(*conditions);
  system_->conditionsChanged();
  dirty_ = false;
  return {};
}

void TimedModel::applyThermostats(Project& project) const
{
  for (HeatSource& source : project.sources) {
    if (!source.thermostat)
      continue;
    if (source.thermostat->graded)
      grade(source);
    else if (off_.contains(source.id))
      source.muted = true;
  }
}

void TimedModel::turn(const std::string& source, bool on)
{
  if (on)
    off_.erase(source);
  else
    off_.insert(source);
  dirty_ = true;
  if (monotone_)
    monotone_->turn(source, on);
}

Expected<void> TimedModel::apply(const RunRule& rule)
{
  if (monotone_)
    if (auto applied = monotone_->apply(rule); !applied)
      return applied;
  for (const Change& change : rule.set) {
    const std::vector<Field> all = fields(project_);
    const Field* field = fieldAt(all, change.field);
    if (field == nullptr || !field->take(change.value))
      return failure(Failure::Kind::NotReady, "rule " + rule.id,
                     "It sets the field " + change.field + ", which does not exist.", "Name an existing field.");
  }
  if (const auto problems = applyParameters(project_); !problems.empty())
    return tl::unexpected(problems.front().failure);
  const auto mute = [&](const std::string& id, bool muted) {
    if (HeatSource* source = findById(project_.sources, id))
      source->muted = muted;
    if (Boundary* boundary = findById(project_.boundaries, id))
      boundary->muted = muted;
    if (Link* link = findById(project_.links, id))
      link->muted = muted;
  };
  for (const std::string& id : rule.mute)
    mute(id, true);
  for (const std::string& id : rule.unmute)
    mute(id, false);
  dirty_ = true;
  return {};
}

WatchGround TimedModel::watchGround() const
{
  return {project_, mesh_, conditions_.unknowns, lumpedOf(project_, conditions_)};
}

std::optional<WatchReader> TimedModel::reader(const std::string& watch) const
{
  const Watch* own = findById(project_.watches, watch);
  return own == nullptr ? std::nullopt : std::optional(WatchReader(watchGround(), *own));
}

} // namespace kiln
