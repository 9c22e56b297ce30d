// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/BoundedJson.h"

#include <algorithm>
#include <optional>

namespace kiln
{
namespace
{

/// Where brackets nest deeper than in any project; nothing when they do not.
std::optional<std::size_t> tooDeepAt(std::string_view text)
{
  constexpr int most = 64;
  int depth = 0;
  bool quoted = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (quoted) {
      i += c == '\\' ? 1 : 0;
      quoted = c != '"';
    } else if (c == '"') {
      quoted = true;
    } else if (c == '[' || c == '{') {
      if (++depth > most)
        return i;
    } else if (c == ']' || c == '}') {
      --depth;
    }
  }
  return std::nullopt;
}

} // namespace

Expected<Json> parseJson(std::string_view text, const std::string& file)
{
  const auto lineAt = [&](std::size_t at) {
    return file + ", line " +
           std::to_string(1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(at), '\n'));
  };
  if (const auto deep = tooDeepAt(text))
    return failure(Failure::Kind::Unreadable, lineAt(*deep), "Its brackets nest deeper than in any project.",
                   "Restore it from a copy.");
  try {
    return Json::parse(text);
  } catch (const Json::out_of_range& error) { // a number; the library quotes it but does not say where it stands
    const std::string words = error.what();
    const std::size_t from = words.find('\'');
    const std::size_t to = words.rfind('\'');
    const std::string number = from < to ? words.substr(from + 1, to - from - 1) : std::string();
    const std::size_t at = number.empty() ? 0 : text.find(number);
    return failure(Failure::Kind::Unreadable, lineAt(at < text.size() ? at : 0),
                   "The number " + number + " is too large to be one.", "Correct it.");
  } catch (const Json::parse_error& error) {
    const std::size_t at = std::min(error.byte, text.size());
    const bool truncated = error.byte >= text.size();
    return failure(Failure::Kind::Unreadable, lineAt(at),
                   truncated ? "The file ends too early; it is not complete." : "The text is not valid JSON here.",
                   truncated ? "Restore it from a copy, or complete the missing brackets."
                             : "Look for a missing comma, quote or bracket in this line or the one before.");
  }
}

} // namespace kiln
