// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Edits of the document that work on whole rows.
#include "document/Document.h"
#include "io/Clipboard.h"
#include "model/Edit.h"

namespace kiln
{

void Document::removeSelected()
{
  const std::vector<std::string> ids = selection_.ids();
  const Object* first = ids.empty() ? nullptr : findObject(project_, ids.front());
  if (first == nullptr)
    return;
  const QString name = ids.size() == 1 ? tr("Remove %1").arg(QString::fromStdString(first->name))
                                       : tr("Remove %n rows", nullptr, static_cast<int>(ids.size()));
  edit(name, [&](Project& project) {
    for (const std::string& id : ids)
      removeObject(project, id);
  });
  select({});
}

void Document::duplicateSelected()
{
  const std::vector<std::string> ids = selection_.ids();
  std::vector<std::string> made;
  edit(tr("Duplicate"), [&](Project& project) {
    for (const std::string& id : ids)
      if (const std::string copy = duplicateObject(project, id); !copy.empty())
        made.push_back(copy);
  });
  if (!made.empty())
    select(made.front());
}

std::string Document::copySelected() const
{
  std::vector<std::string> ids;
  for (const std::string& id : selection_.ids())
    if (findObject(project_, id) != nullptr)
      ids.push_back(id);
  return ids.empty() ? std::string() : copyObjects(project_, ids);
}

Expected<void> Document::paste(const std::string& text)
{
  Project after = project_;
  const Expected<std::vector<std::string>> pasted = pasteObjects(after, text);
  if (!pasted)
    return tl::unexpected(pasted.error());
  edit(tr("Paste"), [&](Project& project) { project = after; });
  if (!pasted->empty())
    select(pasted->front());
  return {};
}

void Document::moveBefore(const std::string& objectId, const std::string& before)
{
  edit(tr("Reorder"), [&](Project& project) { moveObject(project, objectId, before); });
}

} // namespace kiln
