// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QTextBlock>

class QLineEdit;
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
  /// Those that are listed: all, or those that hold what is searched for.
  [[nodiscard]] QStringList chapters() const;

public slots:
  void search(const QString& text);
  void findNext();

  void follow(const QUrl& link);

private:
  void fitPictures();
  [[nodiscard]] static QString chapterOf(QTextBlock block);

  QLineEdit* search_;
  QListWidget* list_;
  QTextBrowser* text_;
};

/// The chapter of what has the keyboard: the nearest widget around it that has the property "chapter".
[[nodiscard]] QString chapterAt(const QWidget* widget);

} // namespace kiln
