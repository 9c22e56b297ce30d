// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QList>

class QLineEdit;
class QListWidget;
class QTextBrowser;

namespace kiln
{

/// Of the manual, beside the program; empty when it is not installed.
[[nodiscard]] QString manualFile();

/// The manual in a window of its own: its chapters at the left, one of them, which is a task, as a page beside them.
class Manual : public QDialog
{
  Q_OBJECT

public:
  explicit Manual(const QString& file, QWidget* parent);

  /// Shows a chapter from its top. \return whether there is one of this name
  bool show(const QString& chapter);
  /// Those that are listed: all, or those that hold what is searched for.
  [[nodiscard]] QStringList chapters() const;

public slots:
  void search(const QString& text);
  void findNext();

  void follow(const QUrl& link);

private:
  struct Page {
    QString chapter, source; ///< source: Markdown
    QString words;           ///< as they are read
  };
  void readPages(const QString& file);
  void turnTo(qsizetype page);
  void mark();
  void fitPictures();

  QList<Page> pages_;
  qsizetype shown_ = -1;
  QLineEdit* search_;
  QListWidget* list_;
  QTextBrowser* text_;
};

/// The chapter of what has the keyboard: the nearest widget around it that has the property "chapter".
[[nodiscard]] QString chapterAt(const QWidget* widget);

} // namespace kiln
