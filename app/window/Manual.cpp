// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/Manual.h"

#include "look/Theme.h"

#include <QCoreApplication>
#include <QDesktopServices>
#include <QFile>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QRegularExpression>
#include <QScrollBar>
#include <QStyle>
#include <QTextBrowser>
#include <QTextDocument>
#include <QUrl>
#include <QVBoxLayout>

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
    if (QString chapter = widget->property("chapter").toString(); !chapter.isEmpty())
      return chapter;
  return {};
}

Manual::Manual(const QString& file, QWidget* parent)
    : QDialog(parent), search_(new QLineEdit), list_(new QListWidget), text_(new QTextBrowser)
{
  setObjectName("manual");
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("Manual"));
  constexpr QSize size(1060, 700);
  resize(size);
  auto* layout = new QHBoxLayout(this);
  auto* side = new QVBoxLayout;
  search_->setObjectName("manualSearch");
  search_->setPlaceholderText(tr("Search the manual"));
  search_->setAccessibleName(search_->placeholderText());
  search_->setClearButtonEnabled(true);
  side->addWidget(search_);
  side->addWidget(list_, 1);
  layout->addLayout(side);
  layout->addWidget(text_, 1);
  list_->setObjectName("manualChapters");
  list_->setAccessibleName(tr("Chapters"));
  text_->setObjectName("manualText");
  text_->setOpenLinks(false); // within the manual they lead to chapters
  connect(text_, &QTextBrowser::anchorClicked, this, &Manual::follow);
  text_->setSearchPaths({QFileInfo(file).path()});
  QFile source(file);
  if (source.open(QIODevice::ReadOnly))
    text_->setMarkdown(QString::fromUtf8(source.readAll()));
  for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next())
    if (block.blockFormat().headingLevel() == 2)
      list_->addItem(block.text());
  list_->setFixedWidth(list_->sizeHintForColumn(0) + 2 * fontMetrics().averageCharWidth() +
                       style()->pixelMetric(QStyle::PM_ScrollBarExtent));
  fitPictures();
  connect(list_, &QListWidget::currentTextChanged, this, [this](const QString& chapter) {
    show(chapter);
    if (const QString words = search_->text().trimmed(); !words.isEmpty())
      text_->find(words); // the first one in the chapter
  });
  connect(search_, &QLineEdit::textChanged, this, &Manual::search);
  connect(search_, &QLineEdit::returnPressed, this, &Manual::findNext);
  search_->setFocus();
}

/// "#take-results-along" is a chapter of the manual; whatever else is for the system to open.
void Manual::follow(const QUrl& link)
{
  if (!link.path().isEmpty()) {
    const QString folder = text_->searchPaths().value(0);
    QDesktopServices::openUrl(link.isRelative() ? QUrl::fromLocalFile(folder + "/" + link.path()) : link);
    return;
  }
  static const QRegularExpression signs("[^\\w\\- ]", QRegularExpression::UseUnicodePropertiesOption);
  for (int i = 0; i < list_->count(); ++i) {
    const QString chapter = list_->item(i)->text();
    if (chapter.toLower().remove(signs).replace(' ', '-') == link.fragment()) {
      search_->clear(); // it may have hidden the chapter
      show(chapter);
    }
  }
}

/// Chapters in which the words stand; they are marked wherever they do.
void Manual::search(const QString& text)
{
  const QString words = text.trimmed();
  QStringList holding;
  QList<QTextEdit::ExtraSelection> marks;
  if (!words.isEmpty()) {
    QColor wash = theme().accent;
    constexpr int light = 70;
    wash.setAlpha(light);
    for (QTextCursor at = text_->document()->find(words); !at.isNull(); at = text_->document()->find(words, at)) {
      QTextEdit::ExtraSelection mark;
      mark.cursor = at;
      mark.format.setBackground(wash);
      marks << mark;
      if (const QString chapter = chapterOf(at.block()); !holding.contains(chapter))
        holding << chapter;
    }
  }
  text_->setExtraSelections(marks);
  for (int i = 0; i < list_->count(); ++i)
    list_->item(i)->setHidden(!words.isEmpty() && !holding.contains(list_->item(i)->text()));
}

/// From the one that is shown to the next, and from the last to the first.
void Manual::findNext()
{
  const QString words = search_->text().trimmed();
  if (words.isEmpty() || text_->find(words))
    return;
  text_->moveCursor(QTextCursor::Start);
  text_->find(words);
}

QString Manual::chapterOf(QTextBlock block)
{
  while (block.isValid() && block.blockFormat().headingLevel() != 2)
    block = block.previous();
  return block.isValid() ? block.text() : QString();
}

/// They are as wide as a window: here they take half of it.
void Manual::fitPictures()
{
  constexpr int widest = 640; // px
  const QString folder = text_->searchPaths().value(0);
  for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next())
    for (auto part = block.begin(); !part.atEnd(); ++part)
      if (QTextImageFormat format = part.fragment().charFormat().toImageFormat(); format.isValid()) {
        QTextCursor cursor(text_->document());
        cursor.setPosition(part.fragment().position());
        cursor.setPosition(part.fragment().position() + part.fragment().length(), QTextCursor::KeepAnchor);
        format.setWidth(widest);
        const double ratio = devicePixelRatioF();
        if (QImage picture(QFileInfo(folder + "/" + format.name()).filePath()); !picture.isNull()) {
          picture = picture.scaledToWidth(qRound(widest * ratio), Qt::SmoothTransformation);
          text_->document()->addResource(QTextDocument::ImageResource, QUrl(format.name()), picture);
        }
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
    if (!list_->item(i)->isHidden())
      all << list_->item(i)->text();
  return all;
}

} // namespace kiln
