// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Points of a question over solves of their own; two workers over one; an estimate while a slider is dragged. On the
// studio kiln's Hold and the controller box. Run: build/release/bench/bench_questions [points] [workers] [linear]
// [whatif] [bound] [bound]
#include "io/ProjectFile.h"
#include "model/OwnValues.h"
#include "questions/PointSolver.h"
#include "questions/QuestionAnswer.h"
#include "run/WhatIf.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <stdexcept>
#include <string>
#include <vector>

using namespace kiln;

namespace
{

Project demo(const std::string& name)
{
  auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/" + name + ".kiln");
  if (!project)
    throw std::runtime_error(project.error().sentence());
  if (name == "studio-kiln")
    project->mesh = {}; // a quick look
  return std::move(*project);
}

double now() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

/// A folder of its own, gone at the end.
struct Folder {
  std::filesystem::path path =
      std::filesystem::temp_directory_path() / ("bench-questions-" + std::to_string(static_cast<long>(now() * 1e6)));
  Folder() { std::filesystem::create_directories(path); }
  ~Folder() { std::filesystem::remove_all(path); }
  Folder(const Folder&) = delete;
  Folder& operator=(const Folder&) = delete;
};

Question powersOf(const Project& project, const std::string& field, const char* from, const char* to, int count)
{
  Question question;
  question.id = question.name = "powers";
  question.base = project.cases.front().id;
  Varied varied;
  varied.id = "v1";
  varied.field = field;
  VariedRange range;
  range.from = from;
  range.to = to;
  range.count = Number{static_cast<double>(count), {}, false};
  varied.over = range;
  question.varies = {varied};
  return question;
}

/// \param alone  so many solves of their own, each from nothing, as their mean counts
void benchPoints(const char* name, const std::string& field, const char* from, const char* to, int points, int alone)
{
  const Project project = demo(name);
  const auto prepared = prepareQuestion(project, powersOf(project, field, from, to, points));
  const auto asked = sweptPoints(*prepared);
  double separate = 0;
  for (int i = 0; i < alone; ++i) {
    const Folder folder;
    const double began = now();
    const auto result = runCase(project, project.cases.front(), folder.path, noProgress);
    separate += (now() - began) / alone;
    if (!result)
      throw std::runtime_error("not solved");
  }
  const Folder folder;
  PointSolver solver(prepared->project, prepared->question, prepared->axes, folder.path);
  const double began = now();
  for (const AskedPoint& point : *asked)
    if (const PointAnswer answer = solver.solve(point, noProgress); !answer.solved())
      throw std::runtime_error(answer.failure);
  const double all = now() - began;
  std::printf("%-16s %3d points %7.2f s, one by itself %6.2f s: %.3f of as many separate solves\n", name, points, all,
              separate, all / (points * separate));
}

void benchWorkers(const char* name, const std::string& field, const char* from, const char* to, int points)
{
  Project project = demo(name);
  project.questions = {powersOf(project, field, from, to, points)};
  const std::string ukiln = UKILN;
  double one = 0;
  for (const int jobs : {1, 2}) {
    const Folder folder;
    const std::filesystem::path file = folder.path / "p.kiln";
    if (!saveProject(project, file))
      return;
    const double began = now();
    const std::string command =
        ukiln + " ask " + file.string() + " --question powers --jobs " + std::to_string(jobs) + " > /dev/null";
    if (std::system(command.c_str()) != 0)
      throw std::runtime_error("not asked");
    const double took = now() - began;
    if (jobs == 1)
      one = took;
    std::uintmax_t bytes = 0;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder.path / "p.results"))
      if (entry.is_regular_file())
        bytes += entry.file_size();
    std::printf("%-16s %4d points, %d at a time %7.2f s, %.1f ms a point, %.2f kB a point kept%s\n", name, points, jobs,
                took, 1e3 * took / points, static_cast<double>(bytes) / 1e3 / points,
                jobs == 2 ? (", throughput " + std::to_string(one / took) + " of one").c_str() : "");
  }
}

void benchWhatIf(const char* name, const std::string& field, double from, double fineness)
{
  Project project = demo(name);
  project.mesh.fineness = Number{fineness, {}, false};
  const Folder folder;
  const Case& one = project.cases.front();
  const auto solved = runCase(project, one, folder.path, noProgress);
  if (!solved)
    throw std::runtime_error("not solved");
  double began = now();
  auto whatIf = WhatIf::begin(project, one, *solved, folder.path);
  if (!whatIf)
    throw std::runtime_error(whatIf.error().sentence());
  const double begin = now() - began;
  double first = 0;
  double rest = 0;
  bool exact = false;
  double error = 0;
  constexpr int moves = 8;
  for (int i = 0; i < moves; ++i) {
    Project other = project;
    std::vector<Field> all = fields(other);
    fieldAt(all, field)->assign(Number{from * (0.8 + 0.05 * i), {}, false});
    began = now();
    const auto estimate = (*whatIf)->at(other, other.cases.front());
    if (!estimate)
      throw std::runtime_error(estimate.error().sentence());
    (i == 0 ? first : rest) += now() - began;
    exact = estimate->exact;
    error = std::max(error, estimate->error);
  }
  std::printf("%-16s %7zu unknowns: begin %.2f s, first %4.0f ms, then %4.0f ms, %s, at most %.2f K\n", name,
              solved->temperature.size(), begin, 1e3 * first, 1e3 * rest / (moves - 1), exact ? "exact" : "corrected",
              error);
}

/// How far estimates are off, against what they say, on a model that is not linear.
void benchBound(const char* name, const std::string& field, double from)
{
  const Project project = demo(name);
  const Folder folder;
  const auto solved = runCase(project, project.cases.front(), folder.path, noProgress);
  auto whatIf = WhatIf::begin(project, project.cases.front(), *solved, folder.path);
  for (const double share : {0.7, 0.85, 1.15, 1.3}) {
    Project other = project;
    fieldAt(fields(other), field)->assign(Number{from * share, {}, false});
    const auto estimate = (*whatIf)->at(other, other.cases.front());
    const auto full = runCase(other, other.cases.front(), folder.path, noProgress);
    double off = 0;
    for (std::size_t i = 0; i < full->temperature.size(); ++i)
      off = std::max(off, std::abs(full->temperature[i] - estimate->result.temperature[i]));
    std::printf("%-16s %s x %.2f: off by %.3f K, said %.3f K\n", name, field.c_str(), share, off, estimate->error);
  }
}

} // namespace

int main(int argc, char** argv)
{
  const std::vector<std::string> asked(argv + 1, argv + argc);
  const auto wants = [&](const char* what) {
    return asked.empty() || std::find(asked.begin(), asked.end(), what) != asked.end();
  };
  if (wants("points")) {
    benchPoints("controller-box", "switch.power", "8 W", "20 W", 100, 10);
    benchPoints("studio-kiln", "coil-power.power", "1.2 kW", "1.6 kW", 100, 2);
  }
  if (wants("workers"))
    benchWorkers("controller-box", "switch.power", "8 W", "20 W", 200);
  if (wants("linear"))
    benchWhatIf("examples/lid-handle", "lid.temperature", 413.15, 2.15);
  if (wants("whatif")) {
    benchWhatIf("controller-box", "switch.power", 14, 3.5);
    benchWhatIf("studio-kiln", "coil-power.power", 1440, 1.3);
  }
  if (wants("bound"))
    for (const auto& [field, from] :
         {std::pair("coil-power.power", 1440.0), {"ceramic-fibre.conductivity", 0.15}, {"outer-air.coefficient", 8.0}})
      benchBound("studio-kiln", field, from);
  return 0;
}
