// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/ObjectKinds.h"

namespace kiln
{

Refers kindOfObject(const Project& project, const std::string& id)
{
  Refers found{};
  forEachObjectList(project, [&](const auto& list) {
    if (const auto* object = findById(list, id); object != nullptr)
      found = found | kindOf(object).kind;
  });
  return found;
}

std::vector<std::string> idsOf(const Project& project, Refers kinds)
{
  std::vector<std::string> ids;
  forEachObjectList(project, [&](const auto& list) {
    for (const auto& object : list)
      if (kindOf(&object).kind & kinds)
        ids.push_back(object.id);
  });
  return ids;
}

std::string kindWords(Refers kinds)
{
  std::vector<std::string> words;
  forEachObjectList(Project{}, [&](const auto& list) {
    if (const ObjectKind kind = kindOf(list.data()); kind.kind & kinds)
      words.emplace_back(kind.word);
  });
  if (kinds & Refers::Part) // a group stands for its parts
    std::erase(words, std::string(kindOf(static_cast<const PartGroup*>(nullptr)).word));
  std::string text;
  for (std::size_t i = 0; i < words.size(); ++i)
    text += (i == 0 ? "" : i + 1 < words.size() ? ", " : " or ") + words[i];
  return text;
}

} // namespace kiln
