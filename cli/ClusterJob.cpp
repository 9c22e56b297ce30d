// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ClusterJob.h"

#include "io/AtomicFile.h"

#include <chrono>
#include <csignal>
#include <fstream>
#include <thread>

namespace kiln::cli
{
namespace
{

std::string firstLine(const std::filesystem::path& file)
{
  std::string line;
  std::ifstream text(file);
  std::getline(text, line);
  return line;
}

/// Every task writes how it ended, whatever ends it: the manager forgets jobs that are over.
std::string scriptOf(const std::string& command)
{
  return "#!/bin/sh\n"
         "t=$SLURM_ARRAY_TASK_ID\n"
         "trap 'code=$?; echo $code > exit-$t.part; mv exit-$t.part exit-$t' EXIT\n"
         "trap 'exit 143' TERM INT\n" +
         command +
         " &\n"
         "wait $!\n";
}

volatile std::sig_atomic_t noted = 0;

bool isAlive(const std::string& state)
{
  return state == "PENDING" || state == "RUNNING" || state == "COMPLETING" || state == "CONFIGURING";
}

} // namespace

std::function<int()> notedSignals()
{
  noted = 0;
  for (const int signal : {SIGINT, SIGTERM})
    std::signal(signal, [](int which) { noted = which; });
  return [] { return static_cast<int>(noted); };
}

std::string ownProgram() { return shellWord(std::filesystem::read_symlink("/proc/self/exe").string()); }

ClusterJob::ClusterJob(std::filesystem::path folder, std::string purpose, Said said)
    : folder_(std::move(folder)), purpose_(std::move(purpose)), said_(std::move(said))
{
}

std::filesystem::path ClusterJob::exitFile(int task) const { return folder_ / ("exit-" + std::to_string(task)); }

std::optional<std::string> ClusterJob::handedIn() const
{
  if (firstLine(folder_ / "hash") != purpose_)
    return std::nullopt;
  const std::string job = firstLine(folder_ / "job");
  return job.empty() ? std::nullopt : std::optional(job);
}

int ClusterJob::tasks() const { return std::atoi(firstLine(folder_ / "tasks").c_str()); }

std::string ClusterJob::wordsOf(int task) const
{
  const std::filesystem::path file = folder_ / ("said-" + std::to_string(task) + ".txt");
  const std::string mark = "error: ";
  std::string words = firstLine(file);
  std::ifstream text(file);
  for (std::string line; std::getline(text, line);)
    if (const auto at = line.rfind(mark); at != std::string::npos)
      words = line.substr(at + mark.size());
  return words;
}

void ClusterJob::forget() const
{
  std::error_code ignored;
  std::filesystem::remove_all(folder_, ignored);
}

Expected<void> ClusterJob::handIn(const std::string& name, int tasks, const std::string& command,
                                  const std::function<Expected<void>()>& fill)
{
  const auto cluster = Cluster::find();
  if (!cluster)
    return tl::unexpected(cluster.error());
  forget();
  std::error_code ignored;
  std::filesystem::create_directories(folder_, ignored);
  const std::filesystem::path script = folder_ / "tasks.sh";
  for (const auto& [file, text] : {std::pair<std::filesystem::path, std::string>{script, scriptOf(command)},
                                   {folder_ / "tasks", std::to_string(tasks)},
                                   {folder_ / "hash", purpose_}})
    if (auto written = writeAtomically(file, text); !written)
      return written;
  if (auto filled = fill(); !filled)
    return filled;
  const auto job = cluster->submit(script, folder_, name, tasks);
  if (!job)
    return tl::unexpected(job.error());
  said_("handed in as job " + *job + ", " + std::to_string(tasks) + (tasks == 1 ? " task" : " tasks"));
  return writeAtomically(folder_ / "job", *job);
}

Expected<void> ClusterJob::wait(const std::function<bool()>& interrupted,
                                const std::function<Expected<void>()>& look) const
{
  const auto cluster = Cluster::find();
  if (!cluster)
    return tl::unexpected(cluster.error());
  const std::string job = firstLine(folder_ / "job");
  std::string before;
  for (int gone = 0; !interrupted();) {
    const std::map<int, std::string> states = cluster->states(job);
    std::map<std::string, int> counts;
    int open = 0;
    int lost = 0;
    for (int task = 1; task <= tasks(); ++task) {
      const std::string code = firstLine(exitFile(task));
      const auto state = states.find(task);
      const bool alive = state != states.end() && isAlive(state->second);
      ++counts[!code.empty() ? (code == "0" ? "done" : "failed") : alive ? state->second : "lost"];
      open += code.empty() && alive ? 1 : 0;
      lost += code.empty() && !alive ? 1 : 0;
    }
    if (auto looked = look(); !looked)
      return looked;
    std::string words = "job " + job + ":";
    for (const auto& [state, count] : counts)
      words += " " + std::to_string(count) + " " + state;
    if (std::exchange(before, words) != words)
      said_(words);
    if (open == 0 && (lost == 0 || ++gone > 3)) // its last words may come a little later over a shared disk
      break;
    std::this_thread::sleep_for(std::chrono::milliseconds(700));
  }
  return {};
}

Expected<void> ClusterJob::cancel(const std::string& what) const
{
  const std::optional<std::string> job = handedIn();
  if (!job)
    return failure(Failure::Kind::NotReady, what, "No job was handed in for it.", "");
  const auto cluster = Cluster::find();
  if (!cluster)
    return tl::unexpected(cluster.error());
  cluster->cancel(*job);
  return {};
}

} // namespace kiln::cli
