// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/InProcesses.h"

#include "base/Processors.h"

#include <array>
#include <cerrno>
#include <csignal>
#include <fcntl.h>
#include <poll.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <unistd.h>

namespace kiln
{
namespace
{

struct Child {
  std::size_t piece = 0;
  pid_t process = -1;
  int answers = -1;
  std::string bytes;
};

[[noreturn]] void answer(const std::function<std::string(std::size_t)>& work, std::size_t piece, pid_t parent, int to)
{
  ::prctl(PR_SET_PDEATHSIG, SIGKILL);
  if (::getppid() != parent)
    ::_exit(1);
  try {
    const std::string bytes = work(piece);
    for (std::size_t done = 0; done < bytes.size();) {
      const ssize_t written = ::write(to, bytes.data() + done, bytes.size() - done);
      if (written < 0 && errno == EINTR)
        continue;
      if (written <= 0)
        ::_exit(1);
      done += static_cast<std::size_t>(written);
    }
  } catch (...) {
    ::_exit(1);
  }
  ::_exit(0);
}

std::optional<Child> started(const std::function<std::string(std::size_t)>& work, std::size_t piece)
{
  std::array<int, 2> ends{};
  if (::pipe2(ends.data(), O_CLOEXEC) != 0)
    return std::nullopt;
  const pid_t parent = ::getpid();
  const pid_t process = ::fork();
  if (process == 0)
    answer(work, piece, parent, ends[1]);
  ::close(ends[1]);
  if (process < 0) {
    ::close(ends[0]);
    return std::nullopt;
  }
  return Child{piece, process, ends[0], {}};
}

/// Takes what a child has written. \return false where nothing more comes
bool takeSome(Child& child)
{
  std::array<char, 1U << 16U> some{};
  const ssize_t count = ::read(child.answers, some.data(), some.size());
  if (count > 0)
    child.bytes.append(some.data(), static_cast<std::size_t>(count));
  return count > 0 || (count < 0 && errno == EINTR);
}

/// What a child that writes no more has answered.
std::optional<std::string> ended(Child& child)
{
  ::close(child.answers);
  int status = 0;
  while (::waitpid(child.process, &status, 0) < 0 && errno == EINTR)
    ;
  if (!WIFEXITED(status) || WEXITSTATUS(status) != 0)
    return std::nullopt;
  return std::move(child.bytes);
}

} // namespace

std::vector<std::optional<std::string>> inProcesses(std::size_t count,
                                                    const std::function<std::string(std::size_t)>& work)
{
  std::vector<std::optional<std::string>> answers(count);
  std::vector<Child> running;
  const auto most = static_cast<std::size_t>(processors());
  for (std::size_t next = 0; next < count || !running.empty();) {
    while (next < count && running.size() < most) {
      if (auto child = started(work, next))
        running.push_back(std::move(*child));
      else
        answers[next] = work(next); // no process is to be had: then in this one
      ++next;
    }
    if (running.empty())
      continue; // all that was left was done here
    std::vector<pollfd> waiting;
    for (const Child& child : running)
      waiting.push_back({child.answers, POLLIN, 0});
    if (::poll(waiting.data(), waiting.size(), -1) < 0 && errno != EINTR)
      break;
    for (std::size_t i = running.size(); i-- > 0;)
      if (waiting[i].revents != 0 && !takeSome(running[i])) {
        answers[running[i].piece] = ended(running[i]);
        running.erase(running.begin() + static_cast<std::ptrdiff_t>(i));
      }
  }
  for (Child& child : running) {
    ::kill(child.process, SIGKILL);
    (void)ended(child);
  }
  return answers;
}

} // namespace kiln
