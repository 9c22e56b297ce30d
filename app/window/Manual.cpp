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
#include <QStyle>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextDocument>
#include <QUrl>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

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
  readPages(file);
  for (const Page& page : pages_)
    list_->addItem(page.chapter);
  list_->setFixedWidth(list_->sizeHintForColumn(0) + 2 * fontMetrics().averageCharWidth() +
                       style()->pixelMetric(QStyle::PM_ScrollBarExtent));
  connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
    turnTo(row);
    if (const QString words = search_->text().trimmed(); !words.isEmpty())
      text_->find(words); // the first one in the chapter
  });
  list_->setCurrentRow(0);
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

/// A chapter each; what stands before the first one goes with it.
void Manual::readPages(const QString& file)
{
  QFile source(file);
  if (!source.open(QIODevice::ReadOnly))
    return;
  QString before;
  for (const QString& line : QString::fromUtf8(source.readAll()).split('\n')) {
    if (line.startsWith("## "))
      pages_ << Page{line.mid(3).trimmed(), std::exchange(before, {}), {}};
    (pages_.isEmpty() ? before : pages_.back().source) += line + '\n';
  }
  for (Page& page : pages_) {
    QTextDocument read;
    read.setMarkdown(page.source);
    page.words = read.toPlainText();
  }
}

void Manual::turnTo(qsizetype page)
{
  if (page == shown_ || page < 0 || page >= pages_.size())
    return;
  shown_ = page;
  text_->setMarkdown(pages_[page].source);
  fitPictures();
  mark();
}

/// Words that are searched for are marked wherever they stand on the page.
void Manual::mark()
{
  const QString words = search_->text().trimmed();
  QList<QTextEdit::ExtraSelection> marks;
  QColor wash = theme().accent;
  constexpr int light = 70;
  wash.setAlpha(light);
  for (QTextCursor at = words.isEmpty() ? QTextCursor() : text_->document()->find(words); !at.isNull();
       at = text_->document()->find(words, at)) {
    QTextEdit::ExtraSelection one;
    one.cursor = at;
    one.format.setBackground(wash);
    marks << one;
  }
  text_->setExtraSelections(marks);
}

/// Lists the chapters in which the words stand, and shows the first of them where the shown one has none.
void Manual::search(const QString& text)
{
  const QString words = text.trimmed();
  const auto holds = [&](qsizetype page) { return pages_[page].words.contains(words, Qt::CaseInsensitive); };
  for (int i = 0; i < list_->count(); ++i)
    list_->item(i)->setHidden(!words.isEmpty() && !holds(i));
  if (!words.isEmpty() && shown_ >= 0 && !holds(shown_))
    for (int i = 0; i < list_->count(); ++i)
      if (holds(i)) {
        list_->setCurrentRow(i);
        break;
      }
  mark();
}

/// From the one that is shown to the next, from chapter to chapter, and from the last to the first.
void Manual::findNext()
{
  const QString words = search_->text().trimmed();
  if (words.isEmpty() || text_->find(words))
    return;
  for (int ahead = 1; ahead <= list_->count(); ++ahead) {
    const int row = static_cast<int>((shown_ + ahead) % list_->count());
    if (list_->item(row)->isHidden())
      continue;
    if (row != shown_)
      return list_->setCurrentRow(row); // which finds the first one there
    text_->moveCursor(QTextCursor::Start);
    text_->find(words);
    return;
  }
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
  const auto page = std::find_if(pages_.begin(), pages_.end(), [&](const Page& one) { return one.chapter == chapter; });
  if (page == pages_.end())
    return false;
  list_->setCurrentRow(static_cast<int>(page - pages_.begin()));
  text_->moveCursor(QTextCursor::Start);
  return true;
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
