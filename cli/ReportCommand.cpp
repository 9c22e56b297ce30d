// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Reports are made by the window's program, for its pictures and letters. Nobody sees it: it draws on a display of its
// own that has no screen.
#include "Commands.h"
#include "io/ProjectFile.h"

#include <algorithm>
#include <array>
#include <csignal>
#include <cstdlib>
#include <fcntl.h>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

namespace kiln::cli
{
namespace
{

/// An absolute path of the program beside this one, or in the path; empty: it is not there.
std::string programPath(const std::string& name)
{
  std::error_code none;
  const std::filesystem::path beside = std::filesystem::read_symlink("/proc/self/exe", none).parent_path() / name;
  if (::access(beside.c_str(), X_OK) == 0)
    return beside.string();
  const char* path = std::getenv("PATH");
  std::string rest = path != nullptr ? path : "/usr/bin:/bin";
  while (!rest.empty()) {
    const std::size_t end = std::min(rest.find(':'), rest.size());
    const std::filesystem::path there = std::filesystem::path(rest.substr(0, end)) / name;
    if (::access(there.c_str(), X_OK) == 0)
      return there.string();
    rest.erase(0, end + 1);
  }
  return {};
}

/// \param handed  a file of this process that it keeps open under the same number; −1: none
pid_t start(const std::vector<std::string>& words, const std::vector<std::string>& environment, int handed = -1)
{
  const auto pointers = [](const std::vector<std::string>& texts) {
    std::vector<char*> all;
    for (const std::string& text : texts)
      all.push_back(const_cast<char*>(text.c_str()));
    all.push_back(nullptr);
    return all;
  };
  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  if (handed >= 0) { // what a display server has to say is of no use to anybody
    posix_spawn_file_actions_addopen(&actions, STDOUT_FILENO, "/dev/null", O_WRONLY, 0);
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
  }
  pid_t process = -1;
  const int failed = ::posix_spawn(&process, words.front().c_str(), &actions, nullptr, pointers(words).data(),
                                   pointers(environment).data());
  posix_spawn_file_actions_destroy(&actions);
  return failed == 0 ? process : -1;
}

std::vector<std::string> environmentWith(const std::vector<std::string>& more)
{
  std::vector<std::string> all = more;
  for (char** one = environ; *one != nullptr; ++one) {
    const std::string text = *one;
    const auto sets = [&](const std::string& other) { return other.starts_with(text.substr(0, text.find('=') + 1)); };
    if (std::none_of(more.begin(), more.end(), sets))
      all.push_back(text);
  }
  return all;
}

/// A display without a screen, for as long as this lives.
class OwnDisplay
{
public:
  OwnDisplay()
  {
    const std::string server = programPath("Xvfb");
    std::array<int, 2> pipe{};
    if (server.empty() || ::pipe(pipe.data()) != 0)
      return;
    process_ =
        start({server, "-displayfd", std::to_string(pipe[1]), "-screen", "0", "2800x1800x24", "-nolisten", "tcp"},
              environmentWith({}), pipe[1]);
    ::close(pipe[1]);
    pollfd waits{pipe[0], POLLIN, 0};
    constexpr int patience = 10'000; // ms
    std::array<char, 16> number{};
    if (process_ > 0 && ::poll(&waits, 1, patience) > 0 && ::read(pipe[0], number.data(), number.size() - 1) > 0)
      name_ = ":" + std::to_string(std::atoi(number.data()));
    ::close(pipe[0]);
  }
  ~OwnDisplay()
  {
    if (process_ <= 0)
      return;
    ::kill(process_, SIGTERM);
    ::waitpid(process_, nullptr, 0);
  }
  OwnDisplay(const OwnDisplay&) = delete;
  OwnDisplay& operator=(const OwnDisplay&) = delete;

  /// ":99"; empty: there is none.
  [[nodiscard]] const std::string& name() const { return name_; }

private:
  pid_t process_ = -1;
  std::string name_;
};

/// Ids of the cases that are named.
Expected<std::vector<std::string>> idsOfCases(const Project& project, const std::vector<std::string>& names)
{
  std::vector<std::string> ids;
  for (const std::string& name : names) {
    const auto is = [&](const Case& one) { return one.id == name || one.name == name; };
    const auto found = std::find_if(project.cases.begin(), project.cases.end(), is);
    if (found == project.cases.end())
      return failure(Failure::Kind::NotReady, "case " + name, "The project has no such case.",
                     "List them with “ukiln cases list”.");
    ids.push_back(found->id);
  }
  return ids;
}

/// Those that the report names, else the first one of the project.
std::vector<std::string> casesOf(const Project& project, const std::string& name)
{
  for (const Report& report : project.reports)
    if ((name.empty() || report.id == name || report.name == name) && !report.cases.empty())
      return report.cases;
  return project.cases.empty() ? std::vector<std::string>{} : std::vector<std::string>{project.cases.front().id};
}

ExitCode refuse(const Failure& failure, Reporter& reporter)
{
  reporter.failure(failure);
  return exitCodeFor(failure.kind);
}

} // namespace

ExitCode report(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = loadProject(request.file);
  if (!project)
    return refuse(project.error(), reporter);
  const auto cases = idsOfCases(*project, request.caseNames);
  if (!cases)
    return refuse(cases.error(), reporter);
  if (request.onlyIfNeeded) { // brought up to date first
    Request solving = request;
    if (solving.caseNames.empty())
      solving.caseNames = casesOf(*project, request.report);
    if (const ExitCode solved = solve(solving, reporter); solved != ExitCode::Solved)
      return solved;
  }
  const std::string window = programPath("usual-kiln");
  if (window.empty())
    return refuse({Failure::Kind::NotReady, "program usual-kiln", "It is not there, and it draws the report.",
                   "Install the package usual-kiln whole."},
                  reporter);
  const OwnDisplay display;
  const char* given = std::getenv("DISPLAY");
  const std::string shown = !display.name().empty() ? display.name() : given != nullptr ? given : "";
  if (shown.empty())
    return refuse({Failure::Kind::NotReady, "display", "There is none, and no program to do without.",
                   "Install the package xvfb."},
                  reporter);
  std::vector<std::string> words{window, "--look", "light", "--report-to", std::filesystem::absolute(request.output)};
  const auto add = [&](const std::string& option, const std::string& value) {
    if (!value.empty())
      words.insert(words.end(), {option, value});
  };
  add("--report", request.report);
  add("--report-template", request.source.string());
  for (const std::string& id : *cases)
    add("--report-case", id);
  words.push_back(request.file.string());
  const pid_t process =
      start(words, environmentWith({"DISPLAY=" + shown, "QT_QPA_PLATFORM=xcb", "QT_LOGGING_RULES=qt.qpa.*=false",
                                    "LIBGL_ALWAYS_SOFTWARE=1", "QT_SCALE_FACTOR=2"}));
  int status = 0;
  if (process < 0 || ::waitpid(process, &status, 0) != process || !WIFEXITED(status))
    return refuse({Failure::Kind::Solver, "program usual-kiln", "It ended before the report was made.",
                   "Make it from the window, and tell us of it."},
                  reporter);
  if (WEXITSTATUS(status) == 0)
    reporter.say("Report: " + request.output.string());
  return static_cast<ExitCode>(WEXITSTATUS(status));
}

} // namespace kiln::cli
