// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/ChosenInstants.h"

#include <algorithm>
#include <charconv>
#include <sstream>

namespace kiln
{
namespace
{

std::string trimmed(const std::string& text)
{
  const auto first = text.find_first_not_of(" \t");
  return first == std::string::npos ? std::string() : text.substr(first, text.find_last_not_of(" \t") + 1 - first);
}

Failure refused(const std::string& word, const std::string& problem, const std::string& remedy)
{
  return {Failure::Kind::Unreadable, "instants", "“" + word + "” " + problem, remedy};
}

} // namespace

Expected<std::vector<double>> chosenInstants(const std::string& text, const RunRecord& record)
{
  const std::string every = "every ";
  std::vector<double> times;
  std::istringstream words(text);
  for (std::string word; std::getline(words, word, ',');) {
    word = trimmed(word);
    if (word.empty())
      continue;
    if (word == "marks") {
      for (const RunMark& mark : record.marks)
        times.push_back(mark.time);
    } else if (word.starts_with(every)) {
      std::size_t step = 0;
      const char* from = word.data() + every.size();
      const auto [end, error] = std::from_chars(from, word.data() + word.size(), step);
      if (error != std::errc() || end != word.data() + word.size() || step == 0)
        return tl::unexpected(refused(word, "names no number of instants.", "Write for example “every 5”."));
      for (std::size_t i = 0; i < record.instants.size(); i += step)
        times.push_back(record.instants[i]);
    } else {
      const auto parsed = parseQuantity(word, Quantity::Time);
      if (!parsed)
        return tl::unexpected(parsed.error());
      if (record.times.empty() || parsed->si < record.times.front() || parsed->si > record.times.back())
        return tl::unexpected(
            refused(word, "lies outside the run.",
                    "It goes from " + formatQuantity(record.times.empty() ? 0 : record.times.front(), Quantity::Time) +
                        " to " + formatQuantity(record.times.empty() ? 0 : record.times.back(), Quantity::Time) + "."));
      times.push_back(parsed->si);
    }
  }
  std::sort(times.begin(), times.end());
  times.erase(std::unique(times.begin(), times.end()), times.end());
  return times;
}

} // namespace kiln
