// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "AtOnce.h"

#include "Asked.h"
#include "base/ProcessMemory.h"
#include "base/Processors.h"

#include <algorithm>
#include <array>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <ctime>
#include <fcntl.h>
#include <fstream>
#include <iostream>
#include <list>
#include <sstream>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

namespace kiln::cli
{
namespace
{

/// A process that solves one case; what it says goes to a file until it is over.
struct Child {
  const Case* solves;
  std::filesystem::path said;
  pid_t process;
};

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

/// While it lives, an interrupt is noted instead of ending the process at once, as there are others to end first; and
/// the end of a child can be waited for.
class NotedSignals
{
public:
  NotedSignals()
  {
    interrupted = 0;
    for (std::size_t i = 0; i < signals.size(); ++i)
      before_[i] = std::signal(signals[i], [](int signal) { interrupted = signal; });
    ::sigemptyset(&ended_);
    ::sigaddset(&ended_, SIGCHLD);
    ::sigprocmask(SIG_BLOCK, &ended_, &unblocked_);
  }
  ~NotedSignals() { restore(); }
  NotedSignals(const NotedSignals&) = delete;
  NotedSignals& operator=(const NotedSignals&) = delete;

  /// As they were: in a child, which leaves as every other process does.
  void restore() const
  {
    for (std::size_t i = 0; i < signals.size(); ++i)
      std::signal(signals[i], before_[i]);
    ::sigprocmask(SIG_SETMASK, &unblocked_, nullptr);
  }

  /// Until a child ends or a signal comes, or for a moment.
  void wait() const
  {
    constexpr timespec moment{0, 100'000'000};
    ::sigtimedwait(&ended_, nullptr, &moment);
  }

private:
  static constexpr std::array<int, 2> signals{SIGINT, SIGTERM};
  std::array<void (*)(int), signals.size()> before_{};
  sigset_t ended_{}, unblocked_{};
};

/// What it says goes there; nothing is read from anywhere.
bool speakInto(const std::filesystem::path& file)
{
  const int out = ::open(file.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0666);
  const int in = ::open("/dev/null", O_RDONLY | O_CLOEXEC);
  return out >= 0 && in >= 0 && ::dup2(out, STDOUT_FILENO) >= 0 && ::dup2(out, STDERR_FILENO) >= 0 &&
         ::dup2(in, STDIN_FILENO) >= 0;
}

class AtOnce
{
public:
  AtOnce(const Request& request, const Project& project, JobQueue& queue, Reporter& reporter, const SolveAlone& solve,
         const CaseOver& over)
      : request_(request), project_(project), queue_(queue), reporter_(reporter), solve_(solve), over_(over)
  {
  }

  void run()
  {
    while (queue_.isBusy()) {
      if (interrupted != 0)
        return cancel();
      while (const auto id = queue_.startNext({request_.jobs, availableMemory()}))
        start(*findById(project_.cases, *id));
      if (!endOthers())
        signals_.wait();
    }
  }

private:
  /// \return whether any was over
  bool endOthers()
  {
    bool any = false;
    for (auto child = children_.begin(); child != children_.end();) {
      queue_.measure(child->solves->id, peakMemory(child->process));
      int status = 0;
      if (::waitpid(child->process, &status, WNOHANG) == 0) {
        ++child;
        continue;
      }
      end(*child, status);
      child = children_.erase(child);
      any = true;
    }
    return any;
  }

  /// Those that run leave as they do when they are interrupted themselves: nothing half-written stays.
  void cancel()
  {
    for (const Child& child : children_)
      ::kill(child.process, SIGTERM);
    std::string names;
    for (const Child& child : children_) {
      ::waitpid(child.process, nullptr, 0);
      std::error_code ignored;
      std::filesystem::remove(child.said, ignored);
      names += (names.empty() ? "" : ", ") + child.solves->name;
    }
    children_.clear();
    reporter_.say("cancelled: " + names + "; what was stored before is unchanged");
  }

  void start(const Case& one)
  {
    const std::filesystem::path said = folderOf(request_) / ("." + one.id + ".said");
    std::cout.flush();
    std::fflush(nullptr); // else the child would say it again
    const pid_t parent = ::getpid();
    sigset_t leaving, before;
    ::sigemptyset(&leaving);
    for (const int signal : {SIGINT, SIGTERM})
      ::sigaddset(&leaving, signal);
    ::sigprocmask(SIG_BLOCK, &leaving, &before); // none gets lost before the child obeys them
    const pid_t process = ::fork();
    if (process == 0)
      beChild(one, said, parent);
    const int why = errno;
    ::sigprocmask(SIG_SETMASK, &before, nullptr);
    if (process < 0)
      return fail(one, std::string("The solver could not be started: ") + std::strerror(why) + ".",
                  ExitCode::SolverFailure);
    children_.push_back({&one, said, process});
  }

  [[noreturn]] void beChild(const Case& one, const std::filesystem::path& said, pid_t parent)
  {
    signals_.restore();
    ::prctl(PR_SET_PDEATHSIG, SIGTERM);
    ::prctl(PR_SET_NAME, one.id.c_str()); // how lists of processes call it
    ExitCode code = ExitCode::WriteFailure;
    if (::getppid() == parent && speakInto(said)) {
      limitProcessors(static_cast<int>(std::thread::hardware_concurrency()) / request_.jobs);
      Reporter own(false);
      code = orSaysWhy(own, [&] { return solve_(one, own); });
    }
    std::cout.flush();
    std::fflush(nullptr);
    ::_exit(static_cast<int>(code));
  }

  void end(const Child& child, int status)
  {
    const std::string said = textOf(child.said);
    std::error_code ignored;
    std::filesystem::remove(child.said, ignored);
    for (std::istringstream lines(said); lines;)
      if (std::string line; std::getline(lines, line))
        reporter_.say(line);
    const int code = WIFEXITED(status) ? WEXITSTATUS(status) : static_cast<int>(ExitCode::SolverFailure);
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
  const SolveAlone& solve_;
  const CaseOver& over_;
  const NotedSignals signals_;
  std::list<Child> children_;
};

} // namespace

void solveAtOnce(const Request& request, const Project& project, JobQueue& queue, Reporter& reporter,
                 const SolveAlone& solve, const CaseOver& over)
{
  AtOnce(request, project, queue, reporter, solve, over).run();
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
