// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Holds every text of the program against the glossary: one word for one thing.
#include <QTest>

#include <algorithm>
#include <cctype>
#include <filesystem>
#include <fstream>
#include <regex>
#include <sstream>
#include <string>
#include <vector>

namespace
{

std::string contents(const std::filesystem::path& file)
{
  std::stringstream text;
  text << std::ifstream(file).rdbuf();
  return text.str();
}

std::string trimmed(const std::string& text)
{
  const auto from = text.find_first_not_of(' ');
  return from == std::string::npos ? std::string() : text.substr(from, text.find_last_not_of(' ') - from + 1);
}

std::vector<std::string> pieces(const std::string& text, char between)
{
  std::vector<std::string> all;
  std::stringstream stream(text);
  for (std::string piece; std::getline(stream, piece, between);)
    all.push_back(trimmed(piece));
  return all;
}

/// What is not written, from the last column of the table.
std::vector<std::string> unwanted()
{
  std::vector<std::string> all;
  std::stringstream lines(contents(KILN_SOURCE_DIR "/docs/words.md"));
  for (std::string line; std::getline(lines, line);) {
    const std::vector<std::string> cells = pieces(line, '|');
    if (cells.size() < 4 || cells[3] == "Not" || cells[3].starts_with("-"))
      continue;
    for (const std::string& word : pieces(cells[3], ','))
      all.push_back(word);
  }
  return all;
}

/// A literal that a person reads: it has a space, a capital or is a word of a key table; names of widgets, keys of
/// files and paths are none.
bool isRead(const std::string& literal)
{
  const bool path = literal.find('/') != std::string::npos && literal.find(' ') == std::string::npos;
  return !path && (literal.find(' ') != std::string::npos || (!literal.empty() && std::isupper(literal[0]) != 0));
}

/// String literals of a source, with the numbers of their lines; comments are no text.
std::vector<std::pair<int, std::string>> literals(const std::filesystem::path& file)
{
  static const std::regex literal("\"((?:[^\"\\\\]|\\\\.)*)\"");
  std::vector<std::pair<int, std::string>> found;
  std::stringstream lines(contents(file));
  int number = 0;
  for (std::string line; std::getline(lines, line);) {
    ++number;
    const auto code = line.find_first_not_of(' ');
    if (code == std::string::npos || line.compare(code, 2, "//") == 0 || line.compare(code, 8, "#include") == 0)
      continue;
    for (auto at = std::sregex_iterator(line.begin(), line.end(), literal); at != std::sregex_iterator(); ++at)
      if (isRead((*at)[1].str()))
        found.emplace_back(number, (*at)[1].str());
  }
  return found;
}

/// As a word of its own, in small letters or not.
bool saysOne(const std::string& text, const std::string& word)
{
  const auto same = [](char a, char b) { return std::tolower(a) == std::tolower(b); };
  const auto isLetter = [](char c) { return std::isalpha(static_cast<unsigned char>(c)) != 0; };
  for (auto at = text.begin(); at != text.end(); ++at) {
    at = std::search(at, text.end(), word.begin(), word.end(), same);
    if (at == text.end())
      return false;
    const auto end = at + static_cast<std::ptrdiff_t>(word.size());
    if ((at == text.begin() || !isLetter(*(at - 1))) && (end == text.end() || !isLetter(*end)))
      return true;
  }
  return false;
}

} // namespace

class WordsTest : public QObject
{
  Q_OBJECT

private slots:
  void theTableIsRead()
  {
    const std::vector<std::string> words = unwanted();
    QVERIFY(words.size() > 20);
    QVERIFY(std::find(words.begin(), words.end(), "film") != words.end());
    QVERIFY(saysOne("Save a film", "film") && !saysOne("filming", "film"));
  }

  void everyTextOfTheProgram()
  {
    namespace fs = std::filesystem;
    const std::vector<std::string> words = unwanted();
    std::size_t read = 0;
    std::string wrong;
    for (const char* folder : {"app", "cli", "core"})
      for (const auto& entry : fs::recursive_directory_iterator(std::string(KILN_SOURCE_DIR) + "/" + folder)) {
        const fs::path& file = entry.path();
        if ((file.extension() != ".cpp" && file.extension() != ".h") || file.filename() == "KeyTables.cpp")
          continue; // that one writes the description of the file
        for (const auto& [line, text] : literals(file)) {
          ++read;
          for (const std::string& word : words)
            if (saysOne(text, word))
              wrong += "\n" + file.filename().string() + ":" + std::to_string(line) + " says “" + word + "”: " + text;
        }
      }
    QVERIFY2(read > 3000, std::to_string(read).c_str());
    QVERIFY2(wrong.empty(), wrong.c_str());
  }

  /// The manual follows the words.
  void theManual()
  {
    std::string wrong;
    std::stringstream lines(contents(KILN_SOURCE_DIR "/docs/manual.md"));
    int number = 0;
    for (std::string line; std::getline(lines, line);) {
      ++number;
      line = std::regex_replace(line, std::regex("`[^`]*`"), ""); // keys of files are as they are
      for (const std::string& word : unwanted())
        if (saysOne(line, word))
          wrong += "\nmanual.md:" + std::to_string(number) + " says “" + word + "”: " + line;
    }
    QVERIFY2(wrong.empty(), wrong.c_str());
  }
};

QTEST_GUILESS_MAIN(WordsTest)
#include "tst_words.moc"
