// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>
#include <variant>
#include <vector>

/// A report as it is told, before it is a page of any kind.
namespace kiln
{

/// What a cell or a paragraph says of what it stands for. It is always in its words too, never in colour alone.
enum class ReportMark { None, Good, Bad, Doubt };

struct ReportHeading {
  std::string text;
  int level = 1; ///< 1: a section, 2: within it
};

struct ReportWords {
  std::string text; ///< an empty line parts paragraphs
  ReportMark mark = ReportMark::None;
};

struct ReportCell {
  std::string text;
  ReportMark mark = ReportMark::None;
};

struct ReportTable {
  std::vector<std::string> head;
  std::vector<bool> numeric; ///< by column: numbers, that end in line
  std::vector<std::vector<ReportCell>> rows;
  std::string caption; ///< says case and instant

  /// A column is added. \param number  its cells end in line
  void addColumn(const std::string& name, bool number = false)
  {
    head.push_back(name);
    numeric.push_back(number);
  }
};

/// A picture of pixels, or one of lines and letters, which has both.
struct ReportPicture {
  std::string png;           ///< bytes
  std::string svg;           ///< text; empty where it is pixels only
  int width = 0, height = 0; ///< px as it is meant to be seen
  std::string caption;       ///< says case, instant and unit
};

using ReportBlock = std::variant<ReportHeading, ReportWords, ReportTable, ReportPicture>;

struct ReportContent {
  std::string title, project, author, organisation, number, date;
  std::string logo;                  ///< bytes of a PNG picture; empty: none
  std::string language = "en";       ///< that it is written in, as pages name it
  std::vector<std::string> warnings; ///< that are marked on its pages: what is out of date
  std::vector<ReportBlock> blocks;
};

} // namespace kiln
