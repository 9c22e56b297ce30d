// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportHtml.h"

#include "base/PackedText.h"

#include <algorithm>

namespace kiln
{
namespace
{

constexpr const char* style = R"(
  body { font: 10.5pt/1.45 "Open Sans", "Noto Sans", sans-serif; color: #222; background: #fff; margin: 2em auto; max-width: 62em; padding: 0 1.5em; }
  header { border-bottom: 2px solid #1f7a86; padding-bottom: 0.8em; margin-bottom: 1em; overflow: hidden; }
  header img { float: right; max-height: 5em; max-width: 16em; }
  h1 { font-size: 1.7em; margin: 0 0 0.2em 0; } h2 { font-size: 1.25em; margin: 1.8em 0 0.5em 0; border-bottom: 1px solid #ccc; }
  h3 { font-size: 1.05em; margin: 1.2em 0 0.4em 0; }
  .about { color: #555; } .about span { margin-right: 1.6em; }
  .warning { border: 2px solid #a33; padding: 0.5em 0.8em; margin: 1em 0; }
  table { border-collapse: collapse; margin: 0.6em 0 0.2em 0; max-width: 100%; }
  th { text-align: left; border-bottom: 1.5px solid #555; padding: 0.15em 0.7em 0.15em 0; vertical-align: bottom; }
  td { border-bottom: 1px solid #ddd; padding: 0.15em 0.7em 0.15em 0; vertical-align: top; overflow-wrap: anywhere; }
  th.number, td.number { text-align: right; font-variant-numeric: tabular-nums; overflow-wrap: normal; }
  .good { color: #1b6b3a; } .bad { color: #a31515; font-weight: 600; } .doubt { color: #8a5a00; }
  figure { margin: 1em 0; } figure img { max-width: 100%; height: auto; border: 1px solid #ddd; }
  figcaption, .caption { color: #555; font-size: 0.92em; margin-bottom: 1em; }
  nav ol { columns: 2; padding-left: 1.4em; } nav a { color: inherit; }
  @page { size: A4; margin: 18mm 16mm; }
  @media print { body { margin: 0; max-width: none; padding: 0; font-size: 9.5pt; } h2, h3 { break-after: avoid; } figure, tr { break-inside: avoid; } thead { display: table-header-group; } }
)";

std::string classOf(ReportMark mark)
{
  switch (mark) {
  case ReportMark::Good:
    return "good";
  case ReportMark::Bad:
    return "bad";
  case ReportMark::Doubt:
    return "doubt";
  case ReportMark::None:
    break;
  }
  return {};
}

/// " class=\"good number\""
std::string classes(const std::string& first, bool number)
{
  const std::string both = first + (!first.empty() && number ? " " : "") + (number ? "number" : "");
  return both.empty() ? both : " class=\"" + both + "\"";
}

std::string dataOf(const std::string& kind, const std::string& bytes)
{
  return "data:" + kind + ";base64," + base64Text(bytes);
}

/// Writes one block after the other, and remembers the headings of the first level.
class BlockWriter
{
public:
  std::string html;
  std::vector<std::string> headings;

  void operator()(const ReportHeading& heading)
  {
    const bool section = heading.level <= 1;
    const std::string name = section ? "h2" : "h3";
    std::string id;
    if (section) {
      headings.push_back(heading.text);
      id = " id=\"s" + std::to_string(headings.size()) + "\"";
    }
    html += "<" + name + id + ">" + htmlEscaped(heading.text) + "</" + name + ">\n";
  }

  void operator()(const ReportWords& words)
  {
    std::size_t from = 0;
    while (from < words.text.size()) { // paragraphs
      const std::size_t to = std::min(words.text.find("\n\n", from), words.text.size());
      std::string lines;
      for (const char c : htmlEscaped(words.text.substr(from, to - from)))
        lines += c == '\n' ? std::string("<br/>") : std::string(1, c);
      html += "<p dir=\"auto\"" + classes(classOf(words.mark), false) + ">" + lines + "</p>\n";
      from = to + 2;
    }
  }

  void operator()(const ReportTable& table)
  {
    html += "<table>\n<thead><tr>";
    for (std::size_t i = 0; i < table.head.size(); ++i)
      html += "<th" + classes({}, table.numeric[i]) + ">" + htmlEscaped(table.head[i]) + "</th>";
    html += "</tr></thead>\n<tbody>\n";
    for (const auto& row : table.rows) {
      html += "<tr>";
      for (std::size_t i = 0; i < row.size(); ++i)
        html += "<td dir=\"auto\"" + classes(classOf(row[i].mark), table.numeric[i]) + ">" + htmlEscaped(row[i].text) +
                "</td>";
      html += "</tr>\n";
    }
    html += "</tbody></table>\n";
    if (!table.caption.empty())
      html += "<div class=\"caption\">" + htmlEscaped(table.caption) + "</div>\n";
  }

  void operator()(const ReportPicture& picture)
  {
    const std::string data =
        picture.svg.empty() ? dataOf("image/png", picture.png) : dataOf("image/svg+xml", picture.svg);
    html += "<figure><img src=\"" + data + "\" width=\"" + std::to_string(picture.width) + "\" height=\"" +
            std::to_string(picture.height) + "\" alt=\"" + htmlEscaped(picture.caption) + "\"/><figcaption>" +
            htmlEscaped(picture.caption) + "</figcaption></figure>\n";
  }
};

std::string headerOf(const ReportContent& content)
{
  std::string html = "<header>\n";
  if (!content.logo.empty())
    html +=
        "<img src=\"" + dataOf("image/png", content.logo) + "\" alt=\"" + htmlEscaped(content.organisation) + "\"/>\n";
  html += "<h1>" + htmlEscaped(content.title) + "</h1>\n<div class=\"about\">";
  for (const std::string& said : {content.organisation, content.author, content.number, content.project, content.date})
    if (!said.empty())
      html += "<span>" + htmlEscaped(said) + "</span>";
  html += "</div>\n</header>\n";
  for (const std::string& warning : content.warnings)
    html += "<p class=\"warning bad\">" + htmlEscaped(warning) + "</p>\n";
  return html;
}

} // namespace

std::string htmlEscaped(const std::string& text)
{
  std::string escaped;
  for (const char c : text)
    switch (c) {
    case '&':
      escaped += "&amp;";
      break;
    case '<':
      escaped += "&lt;";
      break;
    case '>':
      escaped += "&gt;";
      break;
    case '"':
      escaped += "&quot;";
      break;
    default:
      if (static_cast<unsigned char>(c) >= ' ' || c == '\n' || c == '\t')
        escaped += c;
    }
  return escaped;
}

std::string reportHtml(const ReportContent& content)
{
  BlockWriter writer;
  for (const ReportBlock& block : content.blocks)
    std::visit(writer, block);
  std::string html =
      "<!DOCTYPE html>\n<html xmlns=\"http://www.w3.org/1999/xhtml\" lang=\"" + htmlEscaped(content.language) +
      "\">\n<head>\n"
      "<meta charset=\"utf-8\"/>\n<meta name=\"generator\" content=\"Usual Kiln\"/>\n<title>" +
      htmlEscaped(content.title) + "</title>\n<style>" + style + "</style>\n</head>\n<body>\n" + headerOf(content);
  if (writer.headings.size() > 2) {
    html += "<nav><ol>\n";
    for (std::size_t i = 0; i < writer.headings.size(); ++i)
      html += "<li><a href=\"#s" + std::to_string(i + 1) + "\">" + htmlEscaped(writer.headings[i]) + "</a></li>\n";
    html += "</ol></nav>\n";
  }
  return html + writer.html + "</body>\n</html>\n";
}

} // namespace kiln
