// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ClusterSolve.h"

#include "base/TextHash.h"
#include "io/AtomicFile.h"
#include "io/LinkedFiles.h"
#include "io/ProjectFile.h"
#include "model/ObjectKinds.h"
#include "model/Parameters.h"
#include "run/CaseRun.h"
#include "run/ResultIdentity.h"
#include "run/TakenFigures.h"

#include <algorithm>
#include <fstream>

namespace kiln::cli
{
namespace
{

/// Of the cases and all that they are solved from; what figures come in on the way does not count.
std::string purposeOf(Project project, const std::vector<Case>& cases, const std::filesystem::path& folder)
{
  for (Parameter& parameter : project.parameters)
    if (parameter.taken)
      parameter.value = Number{};
  applyParameters(project);
  std::string all;
  for (const Case& one : cases)
    all += one.id + " " + currentIdentity(project, one, folder).value_or("") + "\n";
  return textHash(all);
}

std::string idsOf(const std::vector<Case>& cases)
{
  std::string all;
  for (const Case& one : cases)
    all += one.id + "\n";
  return textHash(all);
}

} // namespace

ClusterSolve::ClusterSolve(const Request& request, const Project& project, std::vector<Case> cases,
                           ClusterJob::Said said)
    : request_(request), project_(project), open_(std::move(cases)), said_(said),
      results_(std::filesystem::absolute(folderOf(request))),
      job_(results_ / (".cluster-cases-" + idsOf(open_)), purposeOf(project_, open_, results_), std::move(said))
{
}

bool ClusterSolve::isSolved(const Case& one) const { return isUpToDate(project_, one, results_); }

/// Those that wait for nothing that is still to be solved.
std::vector<Case> ClusterSolve::next() const
{
  std::vector<Case> wave;
  for (const Case& one : open_) {
    const std::vector<std::string> before = waitsFor(project_, one);
    if (std::none_of(before.begin(), before.end(), [&](const auto& id) { return findById(open_, id) != nullptr; }))
      wave.push_back(one);
  }
  return wave;
}

Expected<void> ClusterSolve::handIn(const std::vector<Case>& wave)
{
  std::string command = "case $t in\n";
  for (std::size_t i = 0; i < wave.size(); ++i)
    command += std::to_string(i + 1) + ") one=" + shellWord(wave[i].id) + " ;;\n";
  command += "esac\n" + ownProgram() + " solve project.kiln --as-stored --if-needed --case \"$one\" --out " +
             shellWord(results_.string());
  return job_.handIn(wave.size() == 1 ? wave.front().id : "cases", static_cast<int>(wave.size()), command, [&] {
    std::string names; // for the window, when it is opened again
    for (const Case& one : wave)
      names += one.name + "\n";
    if (auto written = writeAtomically(job_.folder() / "cases", names); !written)
      return written;
    return saveProject(withAbsoluteLinks(project_, std::filesystem::absolute(request_.file).parent_path()),
                       job_.folder() / "project.kiln");
  });
}

Expected<std::vector<ClusterSolve::Lost>>
ClusterSolve::run(const std::function<bool()>& interrupted,
                  const std::function<void(const Project&, const Case&)>& solved)
{
  const auto takeSolved = [&]() -> Expected<void> {
    std::erase_if(open_, [&](const Case& one) {
      const bool is = isSolved(one);
      if (is)
        solved(project_, one);
      return is;
    });
    return {};
  };
  std::erase_if(open_, [&](const Case& one) { return isSolved(one); });
  std::vector<Lost> lost;
  bool waits = false;
  if (const auto job = job_.handedIn()) {
    said_("waits for job " + *job + ", which was handed in before");
    waits = true;
  }
  while (!interrupted()) {
    const std::vector<Case> wave = next();
    if (wave.empty()) // all are solved, or wait for what was not
      break;
    if (!std::exchange(waits, false))
      if (auto handed = handIn(wave); !handed)
        return tl::unexpected(handed.error());
    if (auto waited = job_.wait(interrupted, takeSolved); !waited)
      return tl::unexpected(waited.error());
    if (interrupted())
      break;
    static_cast<void>(takeSolved());
    takeFigures(project_, results_);
    for (const Case& tried : wave)
      if (std::erase_if(open_, [&](const Case& one) { return one.id == tried.id; }) > 0)
        lost.push_back({tried, job_.wordsOf(taskOf(tried))});
    leaveOutAfter(lost);
  }
  if (!interrupted())
    job_.forget();
  return lost;
}

/// Its number among those that were handed in, which may have been more.
int ClusterSolve::taskOf(const Case& one) const
{
  std::ifstream names(job_.folder() / "cases");
  int task = 1;
  for (std::string name; std::getline(names, name) && name != one.name;)
    ++task;
  return task;
}

/// What waits for a case that was not solved is not tried.
void ClusterSolve::leaveOutAfter(std::vector<Lost>& lost)
{
  for (std::size_t i = 0; i < lost.size(); ++i) // it grows
    std::erase_if(open_, [&](const Case& one) {
      const std::vector<std::string> before = waitsFor(project_, one);
      const bool waits = std::find(before.begin(), before.end(), lost[i].one.id) != before.end();
      if (waits)
        lost.push_back({one, "It waits for a case that was not solved: “" + lost[i].one.name + "”."});
      return waits;
    });
}

Expected<void> ClusterSolve::cancel()
{
  const auto job = job_.handedIn();
  if (auto cancelled = job_.cancel(open_.empty() ? "project" : objectWords(open_.front())); !cancelled)
    return cancelled;
  job_.forget();
  said_("job " + *job + " is cancelled");
  return {};
}

} // namespace kiln::cli
