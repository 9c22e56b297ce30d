// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/JsonText.h"

#include <algorithm>
#include <iterator>
#include <vector>

namespace kiln
{
namespace
{

/// Input iterator that counts the lines it has passed. A line counts once its first character is taken: the parser
/// reads one character beyond a number.
struct LineCountingIterator {
  using iterator_category = std::input_iterator_tag;
  using value_type = char;
  using difference_type = std::ptrdiff_t;
  using pointer = const char*;
  using reference = const char&;

  const char* at = nullptr;
  int* line = nullptr;
  bool* ended = nullptr; ///< a line end was passed and not counted yet

  reference operator*() const { return *at; }
  LineCountingIterator& operator++()
  {
    *line += *ended ? 1 : 0;
    *ended = *at == '\n';
    ++at;
    return *this;
  }
  LineCountingIterator operator++(int)
  {
    LineCountingIterator before = *this;
    ++*this;
    return before;
  }
  bool operator==(const LineCountingIterator& other) const { return at == other.at; }
};

/// Follows the parser's events, keeping the path of the current value.
class LineRecorder : public nlohmann::json_sax<Json>
{
public:
  LineRecorder(const int& line, LineMap& lines) : line_(line), lines_(lines) {}

  bool null() override { return value(); }
  bool boolean(bool) override { return value(); }
  bool number_integer(number_integer_t) override { return value(); }
  bool number_unsigned(number_unsigned_t) override { return value(); }
  bool number_float(number_float_t, const string_t&) override { return value(); }
  bool string(string_t&) override { return value(); }
  bool binary(binary_t&) override { return value(); }
  bool start_object(std::size_t) override { return open(false); }
  bool start_array(std::size_t) override { return open(true); }
  bool end_object() override { return close(); }
  bool end_array() override { return close(); }
  bool key(string_t& name) override
  {
    levels_.back().key = name;
    return true;
  }
  bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) override { return false; }

private:
  struct Level {
    bool array = false;
    int index = 0;
    std::string key;
  };

  std::string path() const
  {
    std::string text;
    for (const Level& level : levels_)
      text += "/" + (level.array ? std::to_string(level.index) : level.key);
    return text;
  }
  bool value()
  {
    lines_.emplace(path(), line_);
    if (!levels_.empty() && levels_.back().array)
      ++levels_.back().index;
    return true;
  }
  bool open(bool array)
  {
    lines_.emplace(path(), line_);
    levels_.push_back({array, 0, {}});
    return true;
  }
  bool close()
  {
    levels_.pop_back();
    if (!levels_.empty() && levels_.back().array)
      ++levels_.back().index;
    return true;
  }

  const int& line_;
  LineMap& lines_;
  std::vector<Level> levels_;
};

bool fitsOneLine(const Json& json)
{
  constexpr std::size_t longestLine = 100;
  const auto plain = [](const Json& item) { return item.is_primitive(); };
  const auto shallow = [&](const Json& item) {
    return item.is_primitive() || (std::all_of(item.begin(), item.end(), plain) && !item.contains("id"));
  };
  return std::all_of(json.begin(), json.end(), shallow) && json.dump().size() <= longestLine &&
         !(json.is_object() && json.contains("id"));
}

void writeIndented(const Json& json, int depth, std::string& out)
{
  if (json.is_primitive() || json.empty() || fitsOneLine(json)) {
    out += json.dump();
    return;
  }
  const std::string indent(static_cast<std::size_t>(depth + 1) * 2, ' ');
  out += json.is_object() ? "{" : "[";
  bool first = true;
  for (const auto& item : json.items()) {
    out += first ? "\n" : ",\n";
    first = false;
    out += indent;
    if (json.is_object())
      out += Json(item.key()).dump() + ": ";
    writeIndented(item.value(), depth + 1, out);
  }
  out += "\n" + std::string(static_cast<std::size_t>(depth) * 2, ' ') + (json.is_object() ? "}" : "]");
}

} // namespace

LineMap linesOf(std::string_view text)
{
  LineMap lines;
  int line = 1;
  bool ended = false;
  LineRecorder recorder(line, lines);
  const LineCountingIterator begin{text.data(), &line, &ended};
  const LineCountingIterator end{text.data() + text.size(), &line, &ended};
  Json::sax_parse(begin, end, &recorder);
  return lines;
}

std::string prettyJson(const Json& json)
{
  std::string out;
  writeIndented(json, 0, out);
  return out + "\n";
}

} // namespace kiln
