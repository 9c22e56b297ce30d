// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

/// Rows of text with columns separated by commas, semicolons, tabs or blanks.
namespace kiln::texttable
{

[[nodiscard]] std::string trimmed(const std::string& text);
/// The separator a line uses: the strongest one in it.
[[nodiscard]] char separatorOf(std::string_view line);
[[nodiscard]] std::vector<std::string> cellsOf(const std::string& line, char separator);
/// Units in brackets, in order.
[[nodiscard]] std::vector<std::string> unitsOf(const std::string& header);

} // namespace kiln::texttable
