// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ClusterAsk.h"

#include "Cluster.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "model/ObjectKinds.h"

#include <algorithm>
#include <chrono>
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

} // namespace

ClusterAsk::ClusterAsk(const Request& request, const PreparedQuestion& prepared, PointStore& store,
                       std::function<void(const std::string&)> said)
    : request_(request), prepared_(prepared), store_(store), said_(std::move(said)),
      folder_(std::filesystem::absolute(folderOf(request)) / (".cluster-" + prepared.question.id))
{
}

std::filesystem::path ClusterAsk::exitFile(int task) const { return folder_ / ("exit-" + std::to_string(task)); }

/// Of the job that was handed in for the question as it is.
std::optional<std::string> ClusterAsk::handedIn() const
{
  if (firstLine(folder_ / "hash") != questionHash(prepared_.project, prepared_.question))
    return std::nullopt;
  const std::string job = firstLine(folder_ / "job");
  return job.empty() ? std::nullopt : std::optional(job);
}

int ClusterAsk::tasks() const { return std::atoi(firstLine(folder_ / "tasks").c_str()); }

/// Every task writes how it ended, whatever ends it: the manager forgets jobs that are over.
std::string ClusterAsk::script(std::size_t points, int tasks) const
{
  const std::string program = std::filesystem::read_symlink("/proc/self/exe").string();
  return "#!/bin/sh\n"
         "t=$SLURM_ARRAY_TASK_ID\n"
         "trap 'code=$?; echo $code > exit-$t.part; mv exit-$t.part exit-$t' EXIT\n"
         "trap 'exit 143' TERM INT\n"
         "from=$(( (t - 1) * " +
         std::to_string(points) + " / " + std::to_string(tasks) +
         " + 1 ))\n"
         "to=$(( t * " +
         std::to_string(points) + " / " + std::to_string(tasks) +
         " ))\n"
         "[ $from -le $to ] || exit 0\n" +
         shellWord(program) + " ask project.kiln --question " + shellWord(prepared_.question.id) +
         " --points $from..$to --keep-in points-$t.sqlite --out results-$t &\n"
         "wait $!\n";
}

Expected<void> ClusterAsk::handIn(std::size_t points)
{
  const auto cluster = Cluster::find();
  if (!cluster)
    return tl::unexpected(cluster.error());
  std::error_code ignored;
  std::filesystem::remove_all(folder_, ignored);
  std::filesystem::create_directories(folder_, ignored);
  const int tasks =
      static_cast<int>(std::min<std::size_t>(points, static_cast<std::size_t>(std::max(1, request_.tasks))));
  const std::filesystem::path file = folder_ / "points.sh";
  for (const auto& [name, text] : {std::pair<std::filesystem::path, std::string>{file, script(points, tasks)},
                                   {folder_ / "tasks", std::to_string(tasks)},
                                   {folder_ / "hash", questionHash(prepared_.project, prepared_.question)}})
    if (auto written = writeAtomically(name, text); !written)
      return written;
  if (auto saved = saveProject(prepared_.project, folder_ / "project.kiln"); !saved)
    return saved;
  const auto job = cluster->submit(file, folder_, prepared_.question.id, tasks);
  if (!job)
    return tl::unexpected(job.error());
  said_("handed in as job " + *job + ", " + std::to_string(tasks) + " tasks");
  return writeAtomically(folder_ / "job", *job);
}

/// Each task keeps its points in a file of its own, as not every shared disk can lock one for several machines.
Expected<void> ClusterAsk::takePoints()
{
  std::error_code ignored;
  for (const auto& entry : std::filesystem::directory_iterator(folder_, ignored)) {
    const std::string name = entry.path().filename().string();
    if (!name.starts_with("points-") || !name.ends_with(".sqlite"))
      continue;
    const auto own = PointStore::open(entry.path());
    if (!own)
      continue; // not written yet, or killed: its points are solved again
    for (const PointAnswer& answer : own->all())
      if (!store_.find(answer.key))
        if (auto kept = store_.keep(answer); !kept)
          return kept;
  }
  return {};
}

Expected<void> ClusterAsk::run(const std::vector<AskedPoint>& points, const std::function<bool()>& interrupted)
{
  std::optional<std::string> job = handedIn();
  if (job) {
    said_("waits for job " + *job + ", which was handed in before");
  } else {
    if (auto handed = handIn(points.size()); !handed)
      return handed;
    job = firstLine(folder_ / "job");
  }
  const auto cluster = Cluster::find();
  if (!cluster)
    return tl::unexpected(cluster.error());
  std::string before;
  for (int gone = 0; !interrupted();) {
    const std::map<int, std::string> states = cluster->states(*job);
    std::map<std::string, int> counts;
    int open = 0;
    int lost = 0;
    for (int task = 1; task <= tasks(); ++task) {
      const std::string code = firstLine(exitFile(task));
      const auto state = states.find(task);
      const bool alive = state != states.end() && (state->second == "PENDING" || state->second == "RUNNING" ||
                                                   state->second == "COMPLETING" || state->second == "CONFIGURING");
      ++counts[!code.empty() ? (code == "0" ? "done" : "failed") : alive ? state->second : "lost"];
      open += code.empty() && alive ? 1 : 0;
      lost += code.empty() && !alive ? 1 : 0;
    }
    if (auto taken = takePoints(); !taken)
      return taken;
    std::string words = "job " + *job + ":";
    for (const auto& [state, count] : counts)
      words += " " + std::to_string(count) + " " + state;
    if (std::exchange(before, words) != words)
      said_(words);
    if (open == 0 && (lost == 0 || ++gone > 3)) // its last words may come a little later over a shared disk
      break;
    std::this_thread::sleep_for(std::chrono::milliseconds(700));
  }
  if (interrupted())
    return {};
  std::error_code ignored;
  const std::string says = firstLine(folder_ / "said-1.txt");
  if (store_.count() == 0)
    return failure(Failure::Kind::Solver, "workload manager",
                   "The job is over and left no points" + (says.empty() ? std::string(".") : ": " + says),
                   "See to it that all machines see the folder " + folder_.string() + " and have the program.");
  std::filesystem::remove_all(folder_, ignored);
  return {};
}

Expected<void> ClusterAsk::cancel()
{
  const std::optional<std::string> job = handedIn();
  if (!job)
    return failure(Failure::Kind::NotReady, objectWords(prepared_.question), "No job was handed in for it.", "");
  const auto cluster = Cluster::find();
  if (!cluster)
    return tl::unexpected(cluster.error());
  cluster->cancel(*job);
  if (auto taken = takePoints(); !taken)
    return taken;
  std::error_code ignored;
  std::filesystem::remove_all(folder_, ignored);
  said_("job " + *job + " is cancelled; points that were solved are kept");
  return {};
}

} // namespace kiln::cli
