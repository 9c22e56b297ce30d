// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Runs the fuzz target for some seconds on damaged copies of the seed files.
//   fuzz_check SECONDS SEED FILE…
// Every text is kept in last-fuzzed.kiln before it is tried, so that a crash leaves its cause behind.
#include <array>
#include <chrono>
#include <cstdint>
#include <cstdio>
#include <fstream>
#include <iterator>
#include <random>
#include <string>
#include <vector>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace
{

using Random = std::mt19937;

std::size_t below(Random& random, std::size_t end)
{
  return std::uniform_int_distribution<std::size_t>(0, end > 0 ? end - 1 : 0)(random);
}

std::vector<std::string> linesOf(const std::string& text)
{
  std::vector<std::string> lines(1);
  for (const char c : text) {
    lines.back() += c;
    if (c == '\n')
      lines.emplace_back();
  }
  return lines;
}

/// Puts another number, or another word, where one stands.
void changeValue(std::string& line, Random& random)
{
  static constexpr std::array<const char*, 16> values{"0",    "-1", "1e300",   "-1e300", "1e-300", "null",
                                                      "true", "[]", "{}",      "\"\"",   "\"x\"",  "0.001",
                                                      "1e-9", "17", "\"2*a\"", "6.3"};
  const std::size_t colon = line.find(": ");
  if (colon == std::string::npos)
    return;
  const std::size_t end = line.find_last_not_of("\n,");
  const char last = end != std::string::npos ? line[end] : ' ';
  if (last == '{' || last == '[')
    return;
  line = line.substr(0, colon + 2) + values[below(random, values.size())] +
         (line.find(',', end) != std::string::npos ? ",\n" : "\n");
}

std::string damaged(const std::string& seed, Random& random)
{
  std::vector<std::string> lines = linesOf(seed);
  const std::size_t changes = 1 + below(random, 4);
  for (std::size_t i = 0; i < changes; ++i) {
    std::string& line = lines[below(random, lines.size())];
    switch (below(random, 8)) {
    case 0: // a byte
      if (!line.empty())
        line[below(random, line.size())] = static_cast<char>(below(random, 256));
      break;
    case 1: // a line twice, or not at all
      line = below(random, 2) == 0 ? line + line : std::string();
      break;
    case 2: // lines change places
      std::swap(line, lines[below(random, lines.size())]);
      break;
    default:
      changeValue(line, random);
    }
  }
  std::string text;
  for (const std::string& line : lines)
    text += line;
  return text;
}

} // namespace

int main(int argc, char** argv)
{
  if (argc < 4) {
    std::fprintf(stderr, "usage: fuzz_check SECONDS SEED FILE…\n");
    return 2;
  }
  const auto end = std::chrono::steady_clock::now() + std::chrono::seconds(std::stol(argv[1]));
  Random random(static_cast<unsigned>(std::stoul(argv[2])));
  std::vector<std::string> seeds;
  for (int i = 3; i < argc; ++i) {
    std::ifstream file(argv[i], std::ios::binary);
    seeds.emplace_back(std::istreambuf_iterator<char>(file), std::istreambuf_iterator<char>());
  }
  long tried = 0;
  std::chrono::duration<double> slowest{};
  while (std::chrono::steady_clock::now() < end) {
    const std::string text = damaged(seeds[below(random, seeds.size())], random);
    std::ofstream("last-fuzzed.kiln", std::ios::binary) << text;
    const auto start = std::chrono::steady_clock::now();
    (void)LLVMFuzzerTestOneInput(reinterpret_cast<const std::uint8_t*>(text.data()), text.size());
    if (const std::chrono::duration<double> took = std::chrono::steady_clock::now() - start; took > slowest) {
      slowest = took;
      std::ofstream("slowest-fuzzed.kiln", std::ios::binary) << text;
    }
    ++tried;
  }
  constexpr double patience = 30; // s
  std::printf("%ld texts tried, the slowest in %.2f s (slowest-fuzzed.kiln)\n", tried, slowest.count());
  return tried > 0 && slowest.count() < patience ? 0 : 1;
}
