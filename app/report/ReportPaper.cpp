// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportPaper.h"

#include "io/AtomicFile.h"
#include "look/Theme.h"
#include "report/DrawingObject.h"
#include "report/ReportHtml.h"
#include "report/ReportWords.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPainter>
#include <QPdfWriter>
#include <QTextBlock>
#include <QTextCursor>
#include <QTextDocumentWriter>
#include <QTextLayout>
#include <QTextTable>
#include <algorithm>

namespace kiln
{

using telling::tr;

namespace
{

constexpr double perInch = 96, bodyPoints = 9.5, padding = 2.5;

QString textOf(const std::string& text) { return QString::fromStdString(text); }

QColor colorOf(ReportMark mark)
{
  const Theme paper = Theme::light();
  return mark == ReportMark::Good    ? paper.good
         : mark == ReportMark::Bad   ? paper.bad
         : mark == ReportMark::Doubt ? paper.warning
                                     : paper.text;
}

/// Writes blocks into a text document, one after the other.
class PaperWriter
{
public:
  PaperWriter(QTextDocument& document, double scale, bool vectors)
      : document_(document), cursor_(&document), scale_(scale), vectors_(vectors)
  {
    if (vectors)
      document.documentLayout()->registerHandler(DrawingObject::type, new DrawingObject(&document));
  }

  void title(const ReportContent& content)
  {
    if (!content.logo.empty()) {
      QImage logo;
      logo.loadFromData(QByteArray::fromStdString(content.logo), "PNG");
      constexpr int high = 56; // px
      if (!logo.isNull())
        image(logo, high * logo.width() / std::max(1, logo.height()), high);
    }
    constexpr double large = 18;
    paragraph(textOf(content.title), large, true, Theme::light().text, 0, 2);
    QStringList about;
    for (const std::string& said :
         {content.organisation, content.author, content.number, content.project, content.date})
      if (!said.empty())
        about << textOf(said);
    paragraph(about.join("  ·  "), bodyPoints, false, Theme::light().quiet, 0, 10);
    for (const std::string& warning : content.warnings)
      paragraph(textOf(warning), bodyPoints + 1, true, Theme::light().bad, 0, 6);
  }

  void operator()(const ReportHeading& heading)
  {
    const bool section = heading.level <= 1;
    paragraph(textOf(heading.text), section ? 13 : 11, true, Theme::light().text, section ? 14 : 8, 4, section ? 2 : 3);
  }

  void operator()(const ReportWords& words)
  {
    for (const QString& part : textOf(words.text).split("\n\n"))
      paragraph(QString(part).replace('\n', QChar::LineSeparator), bodyPoints, false, colorOf(words.mark), 0, 5);
  }

  void operator()(const ReportTable& table)
  {
    newBlock(2, 0);
    QTextTableFormat format;
    format.setBorder(0);
    format.setCellPadding(padding);
    format.setCellSpacing(0);
    format.setBorderCollapse(true);
    format.setHeaderRowCount(1);
    format.setWidth(QTextLength(QTextLength::PercentageLength, 100));
    const int columns = static_cast<int>(table.head.size());
    QTextTable* made = cursor_.insertTable(static_cast<int>(table.rows.size()) + 1, std::max(1, columns), format);
    for (int column = 0; column < columns; ++column)
      cell(*made, 0, column, {table.head[static_cast<std::size_t>(column)], ReportMark::None}, table.numeric, true);
    for (std::size_t row = 0; row < table.rows.size(); ++row)
      for (std::size_t column = 0; column < table.rows[row].size(); ++column)
        cell(*made, static_cast<int>(row) + 1, static_cast<int>(column), table.rows[row][column], table.numeric, false);
    cursor_.movePosition(QTextCursor::End);
    if (!table.caption.empty())
      paragraph(textOf(table.caption), bodyPoints - 1, false, Theme::light().quiet, 1, 8);
  }

  void operator()(const ReportPicture& picture)
  {
    newBlock(4, 0);
    // Never wider than the page.
    constexpr int most = 640; // px
    const double fits = std::min(1.0, double(most) / std::max(1, picture.width));
    const double wide = picture.width * fits;
    const double high = picture.height * fits;
    if (vectors_ && !picture.svg.empty()) {
      QTextCharFormat format;
      format.setObjectType(DrawingObject::type);
      format.setProperty(DrawingObject::svg, QByteArray::fromStdString(picture.svg));
      format.setProperty(QTextFormat::ImageWidth, wide * scale_);
      format.setProperty(QTextFormat::ImageHeight, high * scale_);
      cursor_.insertText(QString(QChar::ObjectReplacementCharacter), format);
    } else {
      QImage drawn;
      drawn.loadFromData(QByteArray::fromStdString(picture.png), "PNG");
      image(drawn, static_cast<int>(wide), static_cast<int>(high), true);
    }
    paragraph(textOf(picture.caption), bodyPoints - 1, false, Theme::light().quiet, 1, 8);
  }

private:
  void newBlock(double before, double after, int headingLevel = 0)
  {
    QTextBlockFormat format;
    format.setTopMargin(before); // the layout brings all but objects of our own to the device's pixels
    format.setBottomMargin(after);
    format.setHeadingLevel(headingLevel);
    if (std::exchange(begun_, true))
      cursor_.insertBlock(format);
    else
      cursor_.setBlockFormat(format);
  }

  void paragraph(const QString& text, double points, bool bold, const QColor& color, double before, double after,
                 int headingLevel = 0)
  {
    newBlock(before, after, headingLevel);
    cursor_.insertText(text, letters(points, bold, color));
  }

  static QTextCharFormat letters(double points, bool bold, const QColor& color)
  {
    QTextCharFormat format;
    format.setFontPointSize(points);
    format.setFontWeight(bold ? QFont::DemiBold : QFont::Normal);
    format.setForeground(color);
    return format;
  }

  void cell(QTextTable& table, int row, int column, const ReportCell& said, const std::vector<bool>& numeric, bool head)
  {
    QTextTableCell at = table.cellAt(row, column);
    QTextTableCellFormat format;
    format.setBorderStyle(QTextFrameFormat::BorderStyle_None);
    format.setBottomBorder(head ? 1.2 : 0.5);
    format.setBottomBorderStyle(QTextFrameFormat::BorderStyle_Solid);
    format.setBottomBorderBrush(head ? Theme::light().quiet : Theme::light().line);
    format.setPadding(padding);
    if (!head && row % 2 == 0)
      format.setBackground(QColor(0xf4, 0xf5, 0xf5)); // rows are told apart
    at.setFormat(format);
    QTextCursor cursor = at.firstCursorPosition();
    QTextBlockFormat aligned;
    aligned.setAlignment(numeric[static_cast<std::size_t>(column)] ? Qt::AlignRight : Qt::AlignLeft);
    cursor.setBlockFormat(aligned);
    cursor.insertText(textOf(said.text), letters(bodyPoints - 0.5, head, colorOf(said.mark)));
  }

  void image(const QImage& picture, int wide, int high, bool withinBlock = false)
  {
    if (!withinBlock)
      newBlock(0, 4);
    const QString name = QString("picture%1.png").arg(++pictures_);
    document_.addResource(QTextDocument::ImageResource, QUrl(name), picture);
    QTextImageFormat format;
    format.setName(name);
    format.setWidth(wide);
    format.setHeight(high);
    cursor_.insertImage(format);
  }

  QTextDocument& document_;
  QTextCursor cursor_;
  double scale_;
  bool vectors_, begun_ = false;
  int pictures_ = 0;
};

/// A heading goes to the next page with what follows it, and so does a heading before a heading.
void keepHeadings(QTextDocument& document)
{
  const double page = document.pageSize().height();
  const QAbstractTextDocumentLayout& layout = *document.documentLayout();
  const auto pageOf = [&](const QTextBlock& block) {
    // A line that does not fit goes to the next page, and its block begins before the break all the same.
    const QRectF box = layout.blockBoundingRect(block);
    const double top = block.layout()->lineCount() > 0 ? box.top() + block.layout()->lineAt(0).y() : box.top();
    return static_cast<int>(top / page);
  };
  const auto isHeading = [](const QTextBlock& block) {
    return block.isValid() && block.blockFormat().headingLevel() > 0;
  };
  for (QTextBlock block = document.begin(); block.isValid(); block = block.next()) {
    if (!isHeading(block) || isHeading(block.previous()))
      continue;
    QTextBlock after = block;
    while (isHeading(after))
      after = after.next();
    if (!after.isValid() || pageOf(block) == pageOf(after))
      continue;
    QTextCursor cursor(block);
    QTextBlockFormat format = block.blockFormat();
    format.setPageBreakPolicy(QTextFormat::PageBreak_AlwaysBefore);
    cursor.setBlockFormat(format);
    // All that follows stands elsewhere now. Laid out anew in part, blocks after a table would be lost: all of it.
    const QSizeF size = document.pageSize();
    document.setPageSize(size + QSizeF(1, 0));
    document.setPageSize(size);
  }
}

tl::unexpected<Failure> unwritable(const std::filesystem::path& file)
{
  return failure(Failure::Kind::Unwritable, "file " + file.string(), "The report could not be written there.",
                 "Choose another folder, or free some room.");
}

} // namespace

std::unique_ptr<QTextDocument> textDocument(const ReportContent& content, double scale, bool vectors)
{
  auto document = std::make_unique<QTextDocument>();
  document->setMetaInformation(QTextDocument::DocumentTitle, textOf(content.title));
  QFont font("Open Sans");
  font.setPointSizeF(bodyPoints);
  font.setHintingPreference(QFont::PreferNoHinting);
  document->setDefaultFont(font);
  document->setDocumentMargin(0);
  PaperWriter writer(*document, scale, vectors);
  QTextCursor whole(document.get());
  whole.beginEditBlock(); // laid out once, at the end
  writer.title(content);
  for (const ReportBlock& block : content.blocks)
    std::visit(writer, block);
  whole.endEditBlock();
  return document;
}

void paintPages(const ReportContent& content, QPagedPaintDevice& device)
{
  device.setPageSize(QPageSize(QPageSize::A4));
  device.setPageMargins(QMarginsF(0, 0, 0, 0));
  QPainter painter(&device);
  const double scale = device.logicalDpiX() / perInch;
  const std::unique_ptr<QTextDocument> document = textDocument(content, scale, true);
  document->documentLayout()->setPaintDevice(&device);
  constexpr double side = 60, top = 72, foot = 64; // px at 96 to the inch
  const QRectF page(0, 0, device.width(), device.height());
  const QRectF body = page.adjusted(side * scale, top * scale, -side * scale, -foot * scale);
  document->setPageSize(body.size());
  keepHeadings(*document);
  QFont small = document->defaultFont();
  small.setPointSizeF(bodyPoints - 1.5);
  const int pages = document->pageCount();
  for (int i = 0; i < pages; ++i) {
    if (i > 0)
      device.newPage();
    painter.save();
    painter.translate(body.left(), body.top() - i * body.height());
    QAbstractTextDocumentLayout::PaintContext context;
    context.clip = QRectF(0, i * body.height(), body.width(), body.height());
    context.palette.setColor(QPalette::Text, Theme::light().text);
    painter.setClipRect(context.clip);
    document->documentLayout()->draw(&painter, context);
    painter.restore();
    painter.setFont(small);
    painter.setPen(Theme::light().quiet);
    const double margin = 24 * scale; // from the body to what stands above and below it
    painter.drawText(QRectF(body.left(), body.top() - margin, body.width(), margin), Qt::AlignLeft | Qt::AlignTop,
                     textOf(content.title));
    painter.drawText(QRectF(body.left(), body.bottom() + margin / 3, body.width(), margin),
                     Qt::AlignRight | Qt::AlignTop, tr("%1 of %2").arg(i + 1).arg(pages));
    painter.drawText(QRectF(body.left(), body.bottom() + margin / 3, body.width(), margin),
                     Qt::AlignLeft | Qt::AlignTop, textOf(content.date));
    if (content.warnings.empty())
      continue;
    painter.setPen(Theme::light().bad);
    painter.drawText(QRectF(body.left(), body.top() - margin, body.width(), margin), Qt::AlignRight | Qt::AlignTop,
                     tr("OUT OF DATE: see the first page"));
  }
}

Expected<void> writeReport(const ReportContent& content, const std::filesystem::path& file)
{
  std::string ending = file.extension().string();
  std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return std::tolower(c); });
  if (ending == ".html" || ending == ".htm")
    return writeAtomically(file, reportHtml(content));
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  if (ending == ".pdf") {
    QPdfWriter writer(&buffer);
    writer.setTitle(textOf(content.title));
    writer.setCreator("Usual Kiln");
    constexpr int fine = 300;
    writer.setResolution(fine);
    paintPages(content, writer);
  } else if (ending == ".odt") {
    QTextDocumentWriter writer(&buffer, "ODF");
    if (!writer.write(textDocument(content, 1, false).get()))
      return unwritable(file);
  } else {
    return failure(Failure::Kind::Unwritable, "file " + file.string(), "A report is no file of this kind.",
                   "Let its name end in .html, .pdf or .odt.");
  }
  buffer.close();
  return writeAtomically(file, bytes.toStdString());
}

} // namespace kiln
