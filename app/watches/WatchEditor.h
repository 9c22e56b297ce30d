// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QDialog>

class QVBoxLayout;

namespace kiln
{

/// All that is set of a watch: what it watches, limits, what it is compared with.
class WatchEditor : public QDialog
{
  Q_OBJECT

public:
  WatchEditor(Document& document, Preferences& preferences, std::string watchId, QWidget* parent);

private:
  void rebuild();

  Document& document_;
  Preferences& preferences_;
  std::string id_;
  QVBoxLayout* layout_;
  QWidget* body_ = nullptr;
};

/// "a − b, where a is Shell, hottest and b is Room": what the letters of a watch's formula stand for; else empty.
[[nodiscard]] QString formulaWords(const Project& project, const Watch& watch);

} // namespace kiln
