// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Commands.h"
#include "base/Versions.h"
#include "io/AtomicFile.h"
#include "io/ExportFormats.h"

#include <CLI/CLI.hpp>
#include <csignal>
#include <cstdlib>
#include <iostream>
#include <new>
#include <string_view>
#include <unistd.h>

namespace
{

/// Every result is written to a temporary file and renamed, so leaving at once is safe once that file is gone.
void leaveOnSignal(int /*signal*/)
{
  const char* unfinished = kiln::unfinishedFile();
  if (unfinished[0] != '\0')
    ::unlink(unfinished);
  ::_exit(static_cast<int>(kiln::cli::ExitCode::Cancelled));
}

volatile std::sig_atomic_t tellsInJson = 0;

#ifdef __SANITIZE_ADDRESS__ // which tells more of a fault
constexpr bool catchesFaults = false;
#else
constexpr bool catchesFaults = true;
#endif

/// The geometry and meshing libraries can fault on spoiled input: say so instead of dying without a word.
void sayFault(int /*signal*/)
{
  static constexpr std::string_view people =
      "error: input: The geometry or meshing library failed on it. Check the shapes, or the file in the program that "
      "wrote it; the project is unchanged.\n";
  static constexpr std::string_view machines =
      "{\"stage\":\"failed\",\"object\":\"input\",\"problem\":\"The geometry or meshing library failed on it.\","
      "\"remedy\":\"Check the shapes, or the file in the program that wrote it; the project is unchanged.\"}\n";
  if (const char* unfinished = kiln::unfinishedFile(); unfinished[0] != '\0')
    ::unlink(unfinished);
  if (tellsInJson != 0)
    static_cast<void>(!::write(STDOUT_FILENO, machines.data(), machines.size()));
  static_cast<void>(!::write(STDERR_FILENO, people.data(), people.size()));
  ::_exit(static_cast<int>(kiln::cli::ExitCode::SolverFailure));
}

void prepareProcess()
{
  if (catchesFaults)
    for (const int fault : {SIGSEGV, SIGBUS, SIGFPE, SIGILL, SIGABRT})
      std::signal(fault, sayFault);
  std::signal(SIGINT, leaveOnSignal);
  std::signal(SIGTERM, leaveOnSignal);
  std::signal(SIGXFSZ, SIG_IGN); // a file over the limit is then an ordinary write error
  std::signal(SIGPIPE, SIG_IGN);
  // Spinning worker threads slow a factorisation down tenfold on a busy machine.
  ::setenv("OMP_WAIT_POLICY", "passive", 0);
}

constexpr const char* exitCodes = "Exit codes: 0 solved, 1 not ready (every reason is listed), 2 unreadable input, "
                                  "3 solver failure, 4 write failure, 130 cancelled.";

} // namespace

int main(int argc, char** argv)
{
  using namespace kiln::cli;
  prepareProcess();
  CLI::App app{"Usual Kiln's solver: checks, meshes and solves a thermal project without a window."};
  app.footer(exitCodes);
  app.require_subcommand(1);
  app.set_version_flag("--version", [] { return "ukiln " + kiln::ownVersion() + "\n" + kiln::libraryVersions(); });
  Request request;
  std::string progress = "bar";

  const auto common = [&](CLI::App* command) {
    command->add_option("FILE", request.file, "the project, a *.kiln file")->required();
    command
        ->add_option("--progress", progress, "bar: a line for people; json: one JSON object a line on standard output")
        ->check(CLI::IsMember({"bar", "json"}));
    command->add_option(
        "--set", request.settings,
        "object.key=value: another value for this run, e.g. --set \"coil-power.power=1.3 kW\"; repeatable");
    command->footer(exitCodes);
    return command;
  };
  const auto withFolder = [&](CLI::App* command) {
    command->add_option("--out", request.folder, "folder of results; beside the project (NAME.results) if not given");
    return command;
  };
  CLI::App* check = common(app.add_subcommand("check", "Lists what is missing or doubtful; solves nothing."));
  CLI::App* mesh = withFolder(common(app.add_subcommand("mesh", "Fuses and meshes the parts and stores the mesh.")));
  CLI::App* solve = withFolder(common(app.add_subcommand(
      "solve", "Solves a case; writes CASE.h5 (mesh and fields) and CASE.figures.json (hot spots, watches, ledger).")));
  auto* oneCase =
      solve->add_option("--case", request.caseNames,
                        "name or id of a case, * and ? stand for letters; repeatable; the first one if not given");
  solve->add_flag("--all", request.allCases, "solve every case")->excludes(oneCase);
  solve->add_flag("--if-needed", request.onlyIfNeeded, "skip cases whose stored result still matches its inputs");
  solve->add_flag("--continue", request.goesOn, "a transient case goes on from where its last run stopped");
  solve->add_flag("--as-stored", request.asStored,
                  "start from results as they are stored, without solving what is out of date first");
  solve
      ->add_option("--jobs", request.jobs,
                   "how many cases are solved at a time, as far as memory allows; 1 if not given")
      ->check(CLI::Range(1, 64));
  solve->add_flag("--nice", request.nice, "leave processors and disks to other programs while they want them");
  solve->add_flag("--steady", request.onlySteady, "only steady cases");
  solve->add_flag(
      "--cluster", request.cluster,
      "cases are solved by a workload manager (Slurm); the folder of results is on a disk that all machines "
      "see; a job handed in before is waited for");
  solve->add_flag("--cancel-cluster", request.cancelCluster, "end the job that was handed in for these cases");
  CLI::App* exporting = withFolder(common(app.add_subcommand("export", "Writes a solved case for other programs.")));
  exporting->add_option("--case", request.caseNames, "name of the case")->required();
  std::vector<std::string> formatNames;
  std::string formatWords;
  for (const kiln::ExportFormat& format : kiln::exportFormats) {
    formatNames.emplace_back(format.name);
    formatWords += (formatWords.empty() ? "" : "; ") + formatNames.back() + ": " + std::string(format.words);
  }
  exporting->add_option("--format", request.format, formatWords)->required()->check(CLI::IsMember(formatNames));
  exporting->add_option("--places", request.source, "a table whose first line is like x [mm]; y [mm]; z [mm]");
  exporting->add_option("--to", request.output, "file to write; in the folder of results if not given");

  CLI::App* ofMaterials =
      app.add_subcommand("materials", "Writes materials as a table or a project file, or takes such into a project.");
  auto* materialsOf = ofMaterials->add_option("FILE", request.file, "the project; without one, those of the library");
  auto* materialsTo = ofMaterials->add_option("--to", request.output, "file to write: *.csv or *.json");
  ofMaterials->add_option("--from", request.source, "file to take into the project: *.csv, *.json or *.kiln")
      ->excludes(materialsTo)
      ->needs(materialsOf);
  ofMaterials->require_option(1, 2);
  CLI::App* packing = withFolder(app.add_subcommand("pack", "Makes one file of a project with its results."));
  packing->add_option("FILE", request.file, "the project, a *.kiln file")->required();
  packing->add_option("--to", request.output, "the *.kilnpack file to write, a zip archive")->required();
  packing->add_option("--progress", progress, "bar or json")->check(CLI::IsMember({"bar", "json"}));
  CLI::App* unpacking = app.add_subcommand("unpack", "Takes a project with its results out of one file.");
  unpacking->add_option("FILE", request.file, "the *.kilnpack file")->required();
  unpacking->add_option("--to", request.output, "folder to unpack into; the present one if not given");
  unpacking->add_option("--progress", progress, "bar or json")->check(CLI::IsMember({"bar", "json"}));
  CLI::App* picturing = app.add_subcommand("picture", "Writes the picture that a project was saved with.");
  picturing->add_option("FILE", request.file, "the project, a *.kiln file")->required();
  picturing->add_option("--to", request.output, "the PNG file to write")->required();
  CLI::App* reporting = app.add_subcommand("report", "Makes a report of cases and questions; needs no display.");
  reporting->add_option("FILE", request.file, "the project, a *.kiln file")->required();
  reporting->add_option("--progress", progress, "bar or json")->check(CLI::IsMember({"bar", "json"}));
  reporting->add_option("--to", request.output, "file to write: *.html, *.pdf or *.odt")->required();
  reporting->add_option("--report", request.report, "name or id of a report of the project; the first, or a usual one");
  reporting->add_option("--template", request.source, "a report kept as a template instead");
  reporting->add_option("--case", request.caseNames, "name or id of a case instead of its own; repeatable");
  reporting->add_flag("--bring-up-to-date", request.onlyIfNeeded, "solve first what is missing or out of date");
  reporting->footer(exitCodes);

  CLI::App* asking = withFolder(common(app.add_subcommand(
      "sure",
      "Solves a steady case on a coarser and a finer mesh too, a case in time with a coarser twin, and says how far "
      "its watches may be off.")));
  asking->add_option("--case", request.caseNames, "name of the case; the first one if not given");

  CLI::App* refining = withFolder(common(app.add_subcommand(
      "refine", "Solves a steady case again with smaller elements where it matters, until figures stay.")));
  refining->add_option("--case", request.caseNames, "name of the case; the first one if not given");
  refining
      ->add_option("--within", request.within,
                   "how far temperatures may still move (heat by its share): \"2 K\" or \"1 %\"")
      ->required();
  refining->add_flag("--keep", request.keep, "write the refined mesh sizes into the project file");

  for (CLI::App* command : {mesh, solve, asking, refining}) {
    command->add_flag("--allow-large", request.allowLarge,
                      "mesh and solve even what is foretold to be too large for this machine");
    command
        ->add_option("--most-elements", request.mostElements,
                     "how many elements of first order are made without --allow-large (one of second order counts as "
                     "three); what fits into half of the memory if not given")
        ->check(CLI::PositiveNumber);
  }

  ImportRequest taken;
  CLI::App* importing =
      app.add_subcommand("import", "Makes a project of the bodies of a STEP, STL, OBJ, PLY, VTU or VTK file.");
  importing->add_option("FILE", taken.file, "the geometry")->required();
  importing->add_option("--to", taken.to, "the project to write, a *.kiln file")->required();
  importing->add_option("--unit", taken.unit, "length of a unit of an STL, OBJ or PLY file; mm if not given");
  importing->add_option("--angle", taken.angle, "triangles that meet at less make one face; 30 deg if not given");
  importing->add_option("--remove-below", taken.removeBelow, "remove round faces of a smaller radius, e.g. \"1 mm\"");
  importing->add_option("--again", taken.again, "a project that has this file: its bodies and faces are matched");
  importing->add_option("--drawing", taken.drawing, "writes a picture of the bodies for the window");
  importing->add_option("--id", taken.fileId, "of the file in that project");
  importing->add_option("--progress", progress, "bar or json")->check(CLI::IsMember({"bar", "json"}));
  CLI::App* shapes = common(app.add_subcommand("shapes", "Writes the parts of a project as STEP or STL."));
  shapes->add_option("--to", request.output, "*.step or *.stl")->required();

  CLI::App* listing = common(app.add_subcommand(
      "faces", "Lists the faces of the parts by their lasting names, with area, place and what they touch."));
  listing->add_option("--part", request.part, "id or name of the part; all if not given");

  CLI::App* fieldList = common(app.add_subcommand(
      "fields", "Lists what --set can set: every field with its value, what it may hold and what it is for."));
  fieldList->add_option("--of", request.part, "id or name of one object; all if not given");

  CLI::App* comparing = withFolder(common(app.add_subcommand(
      "compare", "Says what differs between two cases: what was set, and what came out. The second may be a case of "
                 "another project, OTHER.kiln:CASE; of a run at an instant, CASE@TIME.")));
  comparing->add_option("CASES", request.caseNames, "the two cases")->required()->expected(2);
  comparing->add_flag("--all", request.all, "list what is equal, too");
  comparing->add_option("--csv", request.output, "write it as comma-separated text to this file");
  comparing->add_option("--vtu", request.vtu, "write the difference of their temperatures as a VTU file");

  CLI::App* questioning = withFolder(common(app.add_subcommand(
      "ask", "Asks a question of the project: a JSON line for every point on the way, then the answer.")));
  questioning->add_option("--question", request.question, "name or id of the question")->required();
  questioning->add_option("--points", request.points,
                          "only these points of a sweep, 1..20; they are kept, not summed up");
  questioning->add_option("--jobs", request.jobs, "how many points are solved at a time; 1 if not given")
      ->check(CLI::Range(1, 64));
  questioning->add_option("--keep-in", request.keepIn,
                          "file for the figures of these points, for who puts them together");
  questioning->add_flag("--cluster", request.cluster,
                        "the points of a sweep are solved by a workload manager (Slurm); the folder of results is on a "
                        "disk that all machines see; a job handed in before is waited for");
  questioning->add_flag("--cancel-cluster", request.cancelCluster, "end the job that was handed in for the question");
  questioning->add_option("--tasks", request.tasks, "how many tasks it is handed in as; 16 if not given")
      ->check(CLI::Range(1, 1000));
  questioning->add_option("--csv", request.output, "write all points as comma-separated text to this file");
  questioning->add_flag("--lines", request.lines, "a JSON line for every point on standard output");
  questioning->add_flag("--nice", request.nice, "leave processors and disks to other programs while they want them");

  CLI::App* ofCases = app.add_subcommand("cases", "Lists cases, writes them for other projects, or takes them in.");
  ofCases->require_subcommand(1);
  CLI::App* caseList = withFolder(common(
      ofCases->add_subcommand("list", "Lists the cases: what each has of its own, and where its result stands.")));
  CLI::App* caseWriting = common(ofCases->add_subcommand("export", "Writes cases with their property sets to a file."));
  caseWriting->add_option("--case", request.caseNames,
                          "name or id of a case, * and ? stand for letters; repeatable; all if not given");
  caseWriting->add_option("--to", request.output, "file to write")->required();
  CLI::App* caseTaking = common(ofCases->add_subcommand(
      "import",
      "Takes cases into the project; what their values are of is found by name, what is not there is listed."));
  caseTaking->add_option("--from", request.source, "file of cases")->required();

  CLI::App* keys = app.add_subcommand("keys", "Writes every key of a project file with its meaning, as tables.");

  CLI::App* drafting = app.add_subcommand(
      "draft", "Draws the faces of projects named on standard input, beside them; used by the window.");

  CLI::App* reading = app.add_subcommand("readable", "Whether an interrupted run can be read; used by the window.");
  reading->add_option("FILE", request.file, "the file of the run")->required();

  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    return app.exit(error) == 0 ? 0 : static_cast<int>(ExitCode::Unreadable);
  }
  tellsInJson = progress == "json" ? 1 : 0;
  Reporter reporter(progress == "json");
  const ExitCode ended = orSaysWhy(reporter, [&] {
    ExitCode code = ExitCode::Solved;
    if (check->parsed())
      code = kiln::cli::check(request, reporter);
    else if (listing->parsed())
      code = kiln::cli::faces(request, reporter);
    else if (questioning->parsed())
      code = kiln::cli::ask(request, reporter);
    else if (comparing->parsed())
      code = kiln::cli::compare(request, reporter);
    else if (caseList->parsed())
      code = listCases(request, reporter);
    else if (caseWriting->parsed())
      code = writeCases(request, reporter);
    else if (caseTaking->parsed())
      code = takeCases(request, reporter);
    else if (fieldList->parsed())
      code = kiln::cli::fields(request, reporter);
    else if (keys->parsed())
      code = kiln::cli::keys();
    else if (ofMaterials->parsed())
      code = kiln::cli::materials(request, reporter);
    else if (packing->parsed())
      code = pack(request, reporter);
    else if (unpacking->parsed())
      code = unpack(request, reporter);
    else if (picturing->parsed())
      code = writePicture(request, reporter);
    else if (reporting->parsed())
      code = kiln::cli::report(request, reporter);
    else if (drafting->parsed())
      code = kiln::cli::draft();
    else if (reading->parsed())
      code = readable(request);
    else if (asking->parsed())
      code = kiln::cli::sure(request, reporter);
    else if (refining->parsed())
      code = kiln::cli::refine(request, reporter);
    else if (importing->parsed())
      code = kiln::cli::import(taken, reporter);
    else if (shapes->parsed())
      code = writeShapes(request, reporter);
    else if (mesh->parsed())
      code = kiln::cli::mesh(request, reporter);
    else if (solve->parsed())
      code = kiln::cli::solve(request, reporter);
    else
      code = exportCase(request, reporter);
    return code;
  });
  return static_cast<int>(ended);
}
