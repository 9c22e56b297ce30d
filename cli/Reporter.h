// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "readiness/Readiness.h"

#include <chrono>
#include <filesystem>
#include <fstream>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace kiln::cli
{

/// Text without control codes, fit for a terminal.
[[nodiscard]] std::string printable(std::string text);

enum class ExitCode { Solved = 0, NotReady = 1, Unreadable = 2, SolverFailure = 3, WriteFailure = 4, Cancelled = 130 };

[[nodiscard]] ExitCode exitCodeFor(Failure::Kind kind);

/// Says what happens: JSON lines on standard output, or sentences and a progress bar for people.
class Reporter
{
public:
  explicit Reporter(bool json);

  void progress(std::string_view stage, double fraction, std::string_view message);
  void failure(const Failure& failure);
  void findings(const std::vector<Finding>& findings);
  /// From now on all of it is written to a file too, with the seconds since then. A file that cannot be written is no
  /// reason not to solve.
  void logTo(const std::filesystem::path& file);
  /// A line for people; in JSON a message object.
  void say(const std::string& line);
  /// What stood in the way last, as a sentence.
  [[nodiscard]] const std::string& lastProblem() const { return lastProblem_; }
  [[nodiscard]] bool isJson() const { return json_; }

private:
  void endBar();
  void log(const std::string& line);

  bool json_;
  bool terminal_;
  bool barShown_ = false;
  std::ofstream log_;
  std::chrono::steady_clock::time_point logBegin_;
  std::string logged_; ///< the last line
  std::string lastProblem_;
};

/// Does it; what it throws is said with what to do about it.
[[nodiscard]] ExitCode orSaysWhy(Reporter& reporter, const std::function<ExitCode()>& work);

} // namespace kiln::cli
