// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Reporter.h"

#include <array>
#include <cstdio>
#include <iostream>
#include <new>
#include <nlohmann/json.hpp>
#include <unistd.h>

namespace kiln::cli
{
namespace
{

void writeLine(const nlohmann::ordered_json& json)
{
  // Names may hold any bytes; a strange one must not stop the report.
  std::cout << json.dump(-1, ' ', false, nlohmann::ordered_json::error_handler_t::replace) << std::endl;
}

nlohmann::ordered_json findingJson(const Finding& finding)
{
  return {{"severity", finding.severity == Finding::Severity::Error ? "error" : "hint"},
          {"id", finding.objectId},
          {"object", finding.object},
          {"problem", finding.problem},
          {"remedy", finding.remedy}};
}

} // namespace

ExitCode exitCodeFor(Failure::Kind kind)
{
  switch (kind) {
  case Failure::Kind::NotReady:
  case Failure::Kind::TooLarge:
    return ExitCode::NotReady;
  case Failure::Kind::Unreadable:
    return ExitCode::Unreadable;
  case Failure::Kind::Unwritable:
    return ExitCode::WriteFailure;
  case Failure::Kind::Solver:
    break;
  }
  return ExitCode::SolverFailure;
}

/// Names come from files: what a terminal would obey is shown as a question mark.
std::string printable(std::string text)
{
  for (std::size_t i = 0; i < text.size(); ++i) {
    const auto c = static_cast<unsigned char>(text[i]);
    constexpr unsigned char first = 0x20, del = 0x7f, lead = 0xc2, lastC1 = 0x9f;
    const bool c1 = c == lead && i + 1 < text.size() && static_cast<unsigned char>(text[i + 1]) <= lastC1;
    if ((c < first && c != '\n') || c == del)
      text[i] = '?';
    else if (c1)
      text.replace(i, 2, "?");
  }
  return text;
}

Reporter::Reporter(bool json) : json_(json), terminal_(isatty(STDERR_FILENO) != 0) {}

void Reporter::logTo(const std::filesystem::path& file)
{
  log_ = std::ofstream(file);
  logBegin_ = std::chrono::steady_clock::now();
  logged_.clear();
}

void Reporter::log(const std::string& line)
{
  if (!log_.is_open() || line == logged_)
    return;
  const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - logBegin_).count();
  std::array<char, 32> time{};
  std::snprintf(time.data(), time.size(), "%10.2f s  ", seconds);
  log_ << time.data() << printable(line) << std::endl;
  logged_ = line;
}

void Reporter::progress(std::string_view stage, double fraction, std::string_view message)
{
  log(std::string(stage) + ": " + std::string(message));
  if (json_) {
    writeLine({{"stage", stage}, {"fraction", fraction}, {"message", message}});
    return;
  }
  if (!terminal_)
    return;
  constexpr int width = 30;
  const int filled = static_cast<int>(fraction * width);
  std::string bar(static_cast<std::size_t>(filled), '#');
  bar.resize(width, '.');
  std::fprintf(stderr, "\r\033[K[%s] %3.0f %%  %s: %s", bar.c_str(), fraction * 100, std::string(stage).c_str(),
               printable(std::string(message)).c_str());
  barShown_ = true;
}

void Reporter::endBar()
{
  if (barShown_)
    std::fprintf(stderr, "\r\033[K");
  barShown_ = false;
}

void Reporter::failure(const Failure& failure)
{
  endBar();
  if (json_)
    writeLine({{"stage", "failed"},
               {"object", failure.object},
               {"problem", failure.problem},
               {"remedy", failure.remedy},
               {"tooLarge", failure.kind == Failure::Kind::TooLarge}});
  lastProblem_ = failure.sentence();
  log("failed: " + lastProblem_);
  std::cerr << "error: " << printable(lastProblem_) << std::endl;
}

void Reporter::findings(const std::vector<Finding>& findings)
{
  endBar();
  for (const Finding& finding : findings) {
    log((finding.severity == Finding::Severity::Error ? "error: " : "hint: ") + finding.sentence());
    if (finding.severity == Finding::Severity::Error)
      lastProblem_ = finding.sentence();
    if (json_)
      writeLine({{"stage", "check"}, {"message", finding.sentence()}, {"finding", findingJson(finding)}});
    else
      std::cerr << (finding.severity == Finding::Severity::Error ? "error: " : "hint:  ")
                << printable(finding.sentence()) << std::endl;
  }
}

void Reporter::say(const std::string& line)
{
  log(line);
  endBar();
  if (json_)
    writeLine({{"stage", "say"}, {"message", line}});
  else
    std::cout << printable(line) << std::endl;
}

ExitCode orSaysWhy(Reporter& reporter, const std::function<ExitCode()>& work)
{
  try {
    return work();
  } catch (const std::bad_alloc&) {
    reporter.failure({Failure::Kind::Solver, "memory", "The machine has too little memory for this mesh.",
                      "Use a larger mesh size."});
  } catch (const std::exception& error) {
    reporter.failure({Failure::Kind::Solver, "solver", std::string("It stopped unexpectedly: ") + error.what() + ".",
                      "The project is unchanged. Check the file that was named; if it is sound, a slightly different "
                      "mesh size may get by."});
  }
  return ExitCode::SolverFailure;
}

} // namespace kiln::cli
