// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/WatchOffers.h"

#include "model/Alternatives.h"
#include "model/Edit.h"

#include <algorithm>
#include <functional>
#include <span>

namespace kiln
{
namespace
{

/// Archive that gives a figure its subjects, and notes what it can be of them.
class Subjects : public Walk<Subjects>
{
public:
  Subjects(const std::vector<std::string>& ids, Refers kind) : ids_(ids), kind_(kind) {}

  std::span<const KindSpec> alternatives;
  std::function<void(std::size_t)> choose;

  /// Has every reference found its subject, and every subject a reference?
  [[nodiscard]] bool fits() const { return fits_ && named_ == ids_.size(); }

  using Walk::choice;
  template <class Enum, std::size_t N>
  requires std::is_enum_v<Enum>
  void choice(const KeySpec&, Enum& value, const KindSpecs<N>& kinds)
  {
    alternatives = kinds;
    choose = [&value](std::size_t index) { value = static_cast<Enum>(index); };
  }
  void reference(const ReferenceSpec& spec, std::string& value)
  {
    fits_ = fits_ && spec.to & kind_ && named_ < ids_.size();
    if (fits_)
      value = ids_[named_++];
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& values)
  {
    fits_ = fits_ && spec.to & kind_ && ids_.size() == 1;
    values = ids_;
    named_ = ids_.size();
  }

private:
  const std::vector<std::string>& ids_;
  Refers kind_;
  std::size_t named_ = 0;
  bool fits_ = true;
};

std::string filled(std::string pattern, const std::string& mark, std::string_view with)
{
  if (const std::size_t at = pattern.find(mark); at != std::string::npos)
    pattern.replace(at, mark.size(), with);
  return pattern;
}

/// Does any of these parts melt?
bool melts(const Project& project, const std::vector<std::string>& ids)
{
  const std::vector<std::string> parts = expandGroups(project, ids);
  return std::any_of(parts.begin(), parts.end(), [&](const std::string& id) {
    const Part* part = findById(project.parts, id);
    const Material* material = part != nullptr ? findById(project.materials, part->material) : nullptr;
    return material != nullptr && material->latentHeat;
  });
}

} // namespace

std::vector<Watch> watchesOf(const Project& project, const std::vector<std::string>& ids, Refers kind,
                             const std::string& name)
{
  std::vector<Watch> offers;
  for (std::size_t i = 0; i < describing::figureKinds.size(); ++i) {
    Watch watch;
    emplaceAt(watch.figure, i);
    if (std::holds_alternative<MoltenShare>(watch.figure) && !melts(project, ids))
      continue;
    StartingValues starting;
    Subjects subjects(ids, kind);
    std::visit([&](auto& figure) { describe(starting, figure), describe(subjects, figure); }, watch.figure);
    if (!subjects.fits())
      continue;
    if (auto* formula = std::get_if<FormulaFigure>(&watch.figure))
      formula->formula = "a"; // to begin with
    if (describing::figureKinds[i].named.find("{figure}") == std::string_view::npos)
      subjects.choose = {}; // its choice is none between figures
    const std::string pattern = filled(std::string(describing::figureKinds[i].named), "{of}", name);
    const std::size_t alternatives = subjects.choose ? std::max<std::size_t>(1, subjects.alternatives.size()) : 1;
    for (std::size_t chosen = 0; chosen < alternatives; ++chosen) {
      if (subjects.choose)
        subjects.choose(chosen);
      offers.push_back(watch);
      offers.back().name = subjects.choose ? filled(pattern, "{figure}", subjects.alternatives[chosen].label) : pattern;
    }
  }
  return offers;
}

} // namespace kiln
