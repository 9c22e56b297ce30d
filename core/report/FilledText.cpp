// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/FilledText.h"

namespace kiln
{

FilledText filledText(const std::string& text, const PlaceholderValue& valueOf)
{
  FilledText filled;
  std::size_t from = 0;
  while (from < text.size()) {
    const std::size_t open = text.find('{', from);
    filled.text += text.substr(from, open - from);
    if (open == std::string::npos)
      break;
    if (open + 1 < text.size() && text[open + 1] == '{') {
      filled.text += '{';
      from = open + 2;
      continue;
    }
    const std::size_t close = text.find('}', open);
    const std::string name = text.substr(open + 1, close == std::string::npos ? close : close - open - 1);
    if (const auto value = close == std::string::npos ? std::nullopt : valueOf(name)) {
      filled.text += *value;
    } else {
      filled.unknown.push_back(name);
      filled.text += "[not known: " + name + "]";
    }
    from = close == std::string::npos ? text.size() : close + 1;
  }
  return filled;
}

} // namespace kiln
