// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ClusterAsk.h"

#include "io/LinkedFiles.h"
#include "io/ProjectFile.h"
#include "model/ObjectKinds.h"
#include "run/KeptFields.h"

#include <algorithm>

namespace kiln::cli
{

ClusterAsk::ClusterAsk(const Request& request, const PreparedQuestion& prepared, PointStore& store,
                       ClusterJob::Said said)
    : request_(request), prepared_(prepared), store_(store), said_(said),
      job_(std::filesystem::absolute(folderOf(request)) / (".cluster-" + prepared.question.id),
           questionHash(prepared.project, prepared.question), std::move(said))
{
}

Expected<void> ClusterAsk::handIn(std::size_t points)
{
  const int tasks =
      static_cast<int>(std::min<std::size_t>(points, static_cast<std::size_t>(std::max(1, request_.tasks))));
  const std::string share = std::to_string(points) + " / " + std::to_string(tasks);
  const std::string command = "from=$(( (t - 1) * " + share + " + 1 ))\nto=$(( t * " + share +
                              " ))\n[ $from -le $to ] || exit 0\n" + ownProgram() + " ask project.kiln --question " +
                              shellWord(prepared_.question.id) +
                              " --points $from..$to --keep-in points-$t.sqlite --out results-$t";
  return job_.handIn(prepared_.question.id, tasks, command, [&] {
    return saveProject(withAbsoluteLinks(prepared_.project, std::filesystem::absolute(request_.file).parent_path()),
                       job_.folder() / "project.kiln");
  });
}

/// Each task keeps its points in a file of its own, as not every shared disk can lock one for several machines.
Expected<void> ClusterAsk::takePoints()
{
  std::error_code ignored;
  for (const auto& entry : std::filesystem::directory_iterator(job_.folder(), ignored)) {
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
  if (const auto job = job_.handedIn())
    said_("waits for job " + *job + ", which was handed in before");
  else if (auto handed = handIn(points.size()); !handed)
    return handed;
  if (auto waited = job_.wait(interrupted, [&] { return takePoints(); }); !waited || interrupted())
    return waited;
  const std::string says = job_.wordsOf(1);
  if (store_.count() == 0)
    return failure(Failure::Kind::Solver, "workload manager",
                   "The job is over and left no points" + (says.empty() ? std::string(".") : ": " + says),
                   "See to it that all machines see the folder " + job_.folder().string() + " and have the program.");
  takeFields();
  job_.forget();
  return {};
}

/// Temperatures that the tasks have kept; what cannot be taken is solved again when it is wanted.
void ClusterAsk::takeFields() const
{
  const std::filesystem::path kept = keptIn(prepared_.question, folderOf(request_));
  std::error_code ignored;
  if (kept.empty())
    return;
  std::filesystem::create_directories(kept, ignored);
  for (const auto& task : std::filesystem::directory_iterator(job_.folder(), ignored))
    for (const auto& file : std::filesystem::directory_iterator(keptIn(prepared_.question, task.path()), ignored)) {
      std::error_code failed;
      std::filesystem::copy_file(file.path(), kept / file.path().filename(),
                                 std::filesystem::copy_options::overwrite_existing, failed);
    }
}

Expected<void> ClusterAsk::cancel()
{
  const auto job = job_.handedIn();
  if (auto cancelled = job_.cancel(objectWords(prepared_.question)); !cancelled)
    return cancelled;
  if (auto taken = takePoints(); !taken)
    return taken;
  job_.forget();
  said_("job " + *job + " is cancelled; points that were solved are kept");
  return {};
}

} // namespace kiln::cli
