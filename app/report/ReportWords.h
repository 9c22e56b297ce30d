// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "report/ReportContent.h"

#include <QCoreApplication>
#include <initializer_list>
#include <utility>

/// Words and tables as all who tell of something in a report write them.
namespace kiln::telling
{

inline QString tr(const char* text) { return QCoreApplication::translate("Report", text); }
inline std::string words(const char* text) { return tr(text).toStdString(); }

/// Columns by name; true: of numbers.
inline ReportTable tableWith(std::initializer_list<std::pair<const char*, bool>> columns)
{
  ReportTable table;
  for (const auto& [name, number] : columns)
    table.addColumn(words(name), number);
  return table;
}

inline constexpr const char* noResult = "Not solved yet.";

} // namespace kiln::telling
