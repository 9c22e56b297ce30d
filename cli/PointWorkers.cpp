// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "PointWorkers.h"

#include "base/Processors.h"
#include "questions/PointStore.h"
#include "run/KeptFields.h"

#include <algorithm>
#include <array>
#include <csignal>
#include <cstdio>
#include <fcntl.h>
#include <iostream>
#include <poll.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

namespace kiln::cli
{
namespace
{

volatile std::sig_atomic_t stopped = 0;

/// All of a line, however often it is interrupted. \return false where nobody reads it
bool writeLine(int to, const std::string& text)
{
  const std::string line = text + "\n";
  for (std::size_t done = 0; done < line.size();) {
    const ssize_t written = ::write(to, line.data() + done, line.size() - done);
    if (written < 0 && errno == EINTR)
      continue;
    if (written <= 0)
      return false;
    done += static_cast<std::size_t>(written);
  }
  return true;
}

/// Collects what comes until a line is whole.
class LineReader
{
public:
  /// \return false where nothing more will come
  bool readSome(int from)
  {
    std::array<char, 1U << 16U> some{};
    ssize_t count = 0;
    do
      count = ::read(from, some.data(), some.size());
    while (count < 0 && errno == EINTR);
    if (count <= 0)
      return false;
    text_.append(some.data(), static_cast<std::size_t>(count));
    return true;
  }
  std::optional<std::string> line()
  {
    const auto end = text_.find('\n');
    if (end == std::string::npos)
      return std::nullopt;
    std::string first = text_.substr(0, end);
    text_.erase(0, end + 1);
    return first;
  }

private:
  std::string text_;
};

/// Meshes and view factors are written once and then replaced as a whole: another name for them is as good as a copy.
void shareStored(const std::filesystem::path& from, const std::filesystem::path& to)
{
  std::error_code ignored;
  std::filesystem::create_directories(to, ignored);
  for (const auto& entry : std::filesystem::directory_iterator(from, ignored)) {
    const std::string name = entry.path().filename().string();
    const bool draft = name.starts_with(".draft") || name.starts_with(".loose");
    if (!name.starts_with(".") || !name.ends_with(".h5") || draft)
      continue;
    std::filesystem::create_hard_link(entry.path(), to / name, ignored);
    if (ignored)
      std::filesystem::copy_file(entry.path(), to / name, ignored);
  }
}

} // namespace

struct PointWorkers::Worker {
  std::size_t index = 0;
  pid_t process = -1;
  int in = -1, out = -1; ///< its answers; what it is asked
  LineReader said;
  std::optional<std::size_t> place; ///< of the point that it solves
};

PointWorkers::PointWorkers(const PreparedQuestion& prepared, std::filesystem::path folder, int count)
    : prepared_(prepared), folder_(std::move(folder))
{
  stopped = 0;
  std::signal(SIGPIPE, SIG_IGN);
  for (const int signal : {SIGINT, SIGTERM})
    std::signal(signal, [](int which) { stopped = which; });
  for (int i = 0; i < count; ++i) {
    workers_.push_back(std::make_unique<Worker>());
    workers_.back()->index = static_cast<std::size_t>(i);
  }
}

PointWorkers::~PointWorkers()
{
  for (const auto& worker : workers_) {
    end(*worker);
    std::error_code ignored;
    std::filesystem::remove_all(folderFor(worker->index), ignored);
  }
}

bool PointWorkers::interrupted() const { return stopped != 0; }

std::filesystem::path PointWorkers::folderFor(std::size_t index) const
{
  return folder_ /
         (".points-" + prepared_.question.id + "-" + std::to_string(::getpid()) + "-" + std::to_string(index));
}

void PointWorkers::start(Worker& worker)
{
  std::array<int, 2> asks{}, says{};
  if (::pipe2(asks.data(), O_CLOEXEC) != 0)
    return;
  if (::pipe2(says.data(), O_CLOEXEC) != 0) {
    ::close(asks[0]);
    ::close(asks[1]);
    return;
  }
  const std::filesystem::path own = folderFor(worker.index);
  shareStored(folder_, own);
  std::cout.flush();
  std::fflush(nullptr);
  const pid_t parent = ::getpid();
  const pid_t process = ::fork();
  if (process == 0) {
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    ::prctl(PR_SET_NAME, "ukiln-point");
    for (const int signal : {SIGINT, SIGTERM})
      std::signal(signal, SIG_DFL);
    for (const auto& other : workers_) // else they would not see their ends close
      for (const int end : {other->in, other->out})
        if (end >= 0)
          ::close(end);
    ::close(asks[1]);
    ::close(says[0]);
    if (::getppid() != parent)
      ::_exit(1);
    limitProcessors(static_cast<int>(std::thread::hardware_concurrency() / workers_.size()));
    beWorker(asks[0], says[1], own);
  }
  ::close(asks[0]);
  ::close(says[1]);
  if (process < 0) {
    ::close(asks[1]);
    ::close(says[0]);
    return;
  }
  worker.process = process;
  worker.out = asks[1];
  worker.in = says[0];
  worker.said = {};
}

void PointWorkers::beWorker(int in, int out, const std::filesystem::path& own) const
{
  const int nowhere = ::open("/dev/null", O_RDWR | O_CLOEXEC);
  for (const int standard : {STDIN_FILENO, STDOUT_FILENO, STDERR_FILENO}) // libraries may talk
    ::dup2(nowhere, standard);
  PointSolver solver(prepared_.project, prepared_.question, prepared_.axes, own, keptIn(prepared_.question, folder_));
  LineReader asked;
  for (bool more = true; more;) {
    const auto line = asked.line();
    if (!line) {
      more = asked.readSome(in);
      continue;
    }
    PointAnswer answer;
    try {
      const auto point = pointFrom(*line);
      answer = point ? solver.solve(*point, [](auto...) {}) : PointAnswer{{}, {}, "The point could not be read."};
    } catch (const std::bad_alloc&) {
      answer.failure = "The machine has too little memory for this point.";
    } catch (const std::exception& error) {
      answer.failure = std::string("It stopped unexpectedly: ") + error.what() + ".";
    }
    more = writeLine(out, answerText(answer));
  }
  ::_exit(0);
}

void PointWorkers::end(Worker& worker)
{
  if (worker.process < 0)
    return;
  ::close(worker.out);
  ::close(worker.in);
  ::kill(worker.process, SIGKILL);
  ::waitpid(worker.process, nullptr, 0);
  worker.process = -1;
  worker.in = worker.out = -1;
}

void PointWorkers::give(Worker& worker, const AskedPoint& point, std::size_t place)
{
  if (worker.process < 0)
    start(worker);
  worker.place = place;
  if (worker.process < 0 || !writeLine(worker.out, pointText(point)))
    end(worker); // take() says so
}

std::optional<PointAnswer> PointWorkers::take(Worker& worker)
{
  const bool alive = worker.process >= 0 && worker.said.readSome(worker.in);
  if (const auto line = worker.said.line())
    return answerFrom(*line).value_or(PointAnswer{{}, {}, "What the solver said could not be read."});
  if (alive)
    return std::nullopt;
  end(worker);
  return PointAnswer{{}, {}, "The solver was killed or crashed at this point."};
}

std::vector<PointAnswer> PointWorkers::solve(const std::vector<AskedPoint>& points, const PointOver& over)
{
  std::vector<std::optional<PointAnswer>> answers(points.size());
  std::size_t next = 0;
  std::size_t done = 0;
  while (done < points.size() && !interrupted()) {
    std::vector<pollfd> waiting;
    std::vector<Worker*> busy;
    for (const auto& worker : workers_) {
      if (!worker->place && next < points.size()) {
        give(*worker, points[next], next);
        ++next;
      }
      if (worker->place) {
        busy.push_back(worker.get());
        waiting.push_back({worker->in, POLLIN, 0});
      }
    }
    constexpr int moment = 200; // ms: to see that it was interrupted
    ::poll(waiting.data(), waiting.size(), moment);
    for (std::size_t i = 0; i < busy.size(); ++i) {
      if (busy[i]->process >= 0 && waiting[i].revents == 0)
        continue;
      if (auto answer = take(*busy[i])) {
        const std::size_t place = *std::exchange(busy[i]->place, std::nullopt);
        over(place, *answer);
        answers[place] = std::move(*answer);
        ++done;
      }
    }
  }
  for (const auto& worker : workers_) // an interrupted point is nobody's any more
    if (std::exchange(worker->place, std::nullopt))
      end(*worker);
  std::vector<PointAnswer> all;
  for (std::optional<PointAnswer>& answer : answers) {
    if (!answer)
      break;
    all.push_back(std::move(*answer));
  }
  return all;
}

} // namespace kiln::cli
