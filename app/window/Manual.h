// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QDialog>

class QListWidget;
class QTextBrowser;

namespace kiln
{

/// Of the manual, beside the program; empty when it is not installed.
[[nodiscard]] QString manualFile();

/// The manual in a window of its own, its chapters at the left.
class Manual : public QDialog
{
  Q_OBJECT

public:
  explicit Manual(const QString& file, QWidget* parent);

  /// Brings a chapter into view. \return whether there is one of this name
  bool show(const QString& chapter);
  [[nodiscard]] QStringList chapters() const;

private:
  void fitPictures();

  QListWidget* list_;
  QTextBrowser* text_;
};

/// The chapter of what has the keyboard: the nearest widget around it that has the property "chapter".
[[nodiscard]] QString chapterAt(const QWidget* widget);

} // namespace kiln
