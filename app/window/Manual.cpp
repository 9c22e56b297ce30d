// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/Manual.h"

#include <QCoreApplication>
#include <QFile>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QListWidget>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextDocument>

namespace kiln
{

QString manualFile()
{
  for (const char* place : {"/../../../docs/manual.md", "/../share/usual-kiln/manual.md"})
    if (const QFileInfo file(QCoreApplication::applicationDirPath() + place); file.exists())
      return file.canonicalFilePath();
  return {};
}

QString chapterAt(const QWidget* widget)
{
  for (; widget != nullptr; widget = widget->parentWidget())
    if (const QString chapter = widget->property("chapter").toString(); !chapter.isEmpty())
      return chapter;
  return {};
}

Manual::Manual(const QString& file, QWidget* parent) : QDialog(parent), list_(new QListWidget), text_(new QTextBrowser)
{
  setObjectName("manual");
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("Manual"));
  constexpr QSize size(980, 700);
  resize(size);
  auto* layout = new QHBoxLayout(this);
  layout->addWidget(list_);
  layout->addWidget(text_, 1);
  list_->setObjectName("manualChapters");
  list_->setAccessibleName(tr("Chapters"));
  list_->setFixedWidth(fontMetrics().averageCharWidth() * 36);
  text_->setObjectName("manualText");
  text_->setOpenExternalLinks(true);
  text_->setSearchPaths({QFileInfo(file).path()});
  QFile source(file);
  if (source.open(QIODevice::ReadOnly))
    text_->setMarkdown(QString::fromUtf8(source.readAll()));
  for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next())
    if (block.blockFormat().headingLevel() == 2)
      list_->addItem(block.text());
  fitPictures();
  connect(list_, &QListWidget::currentTextChanged, this, &Manual::show);
}

/// They are as wide as a window: here they take half of it.
void Manual::fitPictures()
{
  constexpr int widest = 640; // px
  for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next())
    for (auto part = block.begin(); !part.atEnd(); ++part)
      if (QTextImageFormat format = part.fragment().charFormat().toImageFormat(); format.isValid()) {
        QTextCursor cursor(text_->document());
        cursor.setPosition(part.fragment().position());
        cursor.setPosition(part.fragment().position() + part.fragment().length(), QTextCursor::KeepAnchor);
        format.setWidth(widest);
        cursor.setCharFormat(format);
        break; // the block is another one now
      }
}

bool Manual::show(const QString& chapter)
{
  for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next())
    if (block.blockFormat().headingLevel() > 0 && block.text() == chapter) {
      QTextCursor cursor(text_->document());
      cursor.movePosition(QTextCursor::End); // then the chapter comes to the top
      text_->setTextCursor(cursor);
      cursor.setPosition(block.position());
      text_->setTextCursor(cursor);
      for (QListWidgetItem* item : list_->findItems(chapter, Qt::MatchExactly))
        list_->setCurrentItem(item);
      return true;
    }
  return false;
}

QStringList Manual::chapters() const
{
  QStringList all;
  for (int i = 0; i < list_->count(); ++i)
    all << list_->item(i)->text();
  return all;
}

} // namespace kiln
