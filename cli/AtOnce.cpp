// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "AtOnce.h"

#include "Asked.h"
#include "base/ProcessMemory.h"
#include "io/CaseStore.h"

#include <algorithm>
#include <array>
#include <boost/process.hpp>
#include <boost/process/extend.hpp>
#include <chrono>
#include <csignal>
#include <fstream>
#include <list>
#include <sstream>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <thread>
#include <unistd.h>

namespace kiln::cli
{
namespace
{

namespace bp = boost::process;

/// A process that solves one case; what it says goes to a file until it is over.
struct Child {
  const Case* solves;
  std::filesystem::path said;
  bp::child process;
};

std::vector<std::string> argumentsFor(const Request& request, const Case& one)
{
  std::vector<std::string> arguments{"solve", request.file.string(),     "--case", one.id, "--as-stored",
                                     "--out", folderOf(request).string()};
  for (const std::string& setting : request.settings)
    arguments.insert(arguments.end(), {"--set", setting});
  if (request.goesOn)
    arguments.emplace_back("--continue");
  if (request.allowLarge)
    arguments.emplace_back("--allow-large");
  if (request.mostElements > 0)
    arguments.insert(arguments.end(), {"--most-elements", std::to_string(request.mostElements)});
  return arguments;
}

/// Workers share the processors.
bp::environment environmentFor(int jobs)
{
  bp::environment variables = boost::this_process::environment();
  const int threads = std::max(1, static_cast<int>(std::thread::hardware_concurrency()) / jobs);
  for (const char* name : {"OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS"})
    variables[name] = std::to_string(threads);
  return variables;
}

std::string textOf(const std::filesystem::path& file)
{
  std::ostringstream text;
  text << std::ifstream(file).rdbuf();
  return text.str();
}

/// The last sentence that names an error.
std::string problemIn(const std::string& said)
{
  const std::string mark = "error: ";
  const auto at = said.rfind(mark);
  if (at == std::string::npos)
    return "It was killed or crashed half-way; older results are unchanged.";
  return said.substr(at + mark.size(), said.find('\n', at) - at - mark.size());
}

volatile std::sig_atomic_t interrupted = 0;

/// While it lives, an interrupt is noted instead of ending the process at once, as there are others to end first.
class NotedInterrupts
{
public:
  NotedInterrupts()
  {
    interrupted = 0;
    for (std::size_t i = 0; i < signals.size(); ++i)
      before_[i] = std::signal(signals[i], [](int signal) { interrupted = signal; });
  }
  ~NotedInterrupts()
  {
    for (std::size_t i = 0; i < signals.size(); ++i)
      std::signal(signals[i], before_[i]);
  }
  NotedInterrupts(const NotedInterrupts&) = delete;
  NotedInterrupts& operator=(const NotedInterrupts&) = delete;

private:
  static constexpr std::array<int, 2> signals{SIGINT, SIGTERM};
  std::array<void (*)(int), signals.size()> before_{};
};

class AtOnce
{
public:
  AtOnce(const Request& request, const Project& project, JobQueue& queue, Reporter& reporter, const CaseOver& over)
      : request_(request), project_(project), queue_(queue), reporter_(reporter), over_(over)
  {
  }

  void run()
  {
    constexpr auto between = std::chrono::milliseconds(20);
    while (queue_.isBusy()) {
      if (interrupted != 0)
        return cancel();
      while (const auto id = queue_.startNext({request_.jobs, availableMemory()}))
        start(*findById(project_.cases, *id));
      for (auto child = children_.begin(); child != children_.end();) {
        queue_.measure(child->solves->id, peakMemory(child->process.id()));
        if (child->process.running()) {
          ++child;
          continue;
        }
        end(*child);
        child = children_.erase(child);
      }
      std::this_thread::sleep_for(between);
    }
  }

private:
  /// Those that run leave as they do when they are interrupted themselves: nothing half-written stays.
  void cancel()
  {
    for (const Child& child : children_)
      ::kill(child.process.id(), SIGTERM);
    std::string names;
    for (Child& child : children_) {
      std::error_code ignored;
      child.process.wait(ignored);
      std::filesystem::remove(child.said, ignored);
      names += (names.empty() ? "" : ", ") + child.solves->name;
    }
    children_.clear();
    reporter_.say("cancelled: " + names + "; what was stored before is unchanged");
  }

  void start(const Case& one)
  {
    const std::filesystem::path said = folderOf(request_) / ("." + one.id + ".said");
    std::error_code failed;
    bp::child process(
        std::filesystem::read_symlink("/proc/self/exe").string(), bp::args(argumentsFor(request_, one)),
        environmentFor(request_.jobs), (bp::std_out & bp::std_err) > said.string(), bp::std_in < bp::null,
        bp::extend::on_exec_setup = [](auto&) { ::prctl(PR_SET_PDEATHSIG, SIGTERM); }, failed);
    if (failed)
      return fail(one, "The solver could not be started: " + failed.message() + ".", ExitCode::SolverFailure);
    children_.push_back({&one, said, std::move(process)});
  }

  void end(Child& child)
  {
    child.process.wait();
    const int code = child.process.exit_code();
    const std::string said = textOf(child.said);
    std::error_code ignored;
    std::filesystem::remove(child.said, ignored);
    for (std::istringstream lines(said); lines;)
      if (std::string line; std::getline(lines, line))
        reporter_.say(line);
    if (code != 0)
      return fail(*child.solves, problemIn(said), static_cast<ExitCode>(code));
    queue_.finish(child.solves->id);
    over_(*child.solves, {}, ExitCode::Solved);
  }

  void fail(const Case& one, const std::string& reason, ExitCode code)
  {
    const bool known = code == ExitCode::NotReady || code == ExitCode::Unreadable || code == ExitCode::WriteFailure;
    queue_.fail(one.id, reason, one.name);
    over_(one, reason, known ? code : ExitCode::SolverFailure);
  }

  const Request& request_;
  const Project& project_;
  JobQueue& queue_;
  Reporter& reporter_;
  const CaseOver& over_;
  std::list<Child> children_;
};

} // namespace

void solveAtOnce(const Request& request, const Project& project, JobQueue& queue, Reporter& reporter,
                 const CaseOver& over)
{
  {
    const NotedInterrupts noted;
    AtOnce(request, project, queue, reporter, over).run();
  }
  if (interrupted != 0) // now it ends as every other command does
    std::raise(interrupted);
}

void giveWay()
{
  constexpr int lowest = 19;
  constexpr int ofProcess = 1;      // IOPRIO_WHO_PROCESS
  constexpr int whenIdle = 3 << 13; // IOPRIO_CLASS_IDLE
  ::setpriority(PRIO_PROCESS, 0, lowest);
  ::syscall(SYS_ioprio_set, ofProcess, 0, whenIdle);
}

} // namespace kiln::cli
