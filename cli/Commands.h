// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "Reporter.h"

#include <filesystem>
#include <string>
#include <vector>

namespace kiln::cli
{

/// What was asked on the command line.
struct Request {
  std::filesystem::path file;
  std::filesystem::path folder;       ///< of results; empty: beside the file
  std::vector<std::string> caseNames; ///< names or ids, with * and ?
  bool allCases = false;
  bool onlyIfNeeded = false;
  bool asStored = false; ///< what a case starts from is taken as it is stored
  bool onlySteady = false;
  bool goesOn = false;     ///< from where its last run stopped
  int jobs = 1;            ///< cases solved at a time
  bool nice = false;       ///< with lowest priority
  bool allowLarge = false; ///< more elements, patches and copies than usual
  double mostElements = 0; ///< that are made without \ref allowLarge; 0: what fits into half of the memory
  std::string format;
  std::filesystem::path output;      ///< of an export; empty: in the folder
  std::filesystem::path vtu;         ///< of a comparison; empty: none
  std::vector<std::string> settings; ///< "field=value"
  std::filesystem::path source;      ///< of cases or of a report that are taken in; of places
  std::string within;                ///< of a refinement: "2 K", "1 %"
  std::string part;                  ///< whose faces or fields are listed; empty: all
  bool keep = false;                 ///< the refined sizes are written into the project
  bool all = false;                  ///< what is equal is listed, too
  std::string question;              ///< name or id
  std::string points;                ///< of a sweep, "5..20"; empty: the whole question
  std::filesystem::path keepIn;      ///< where their figures are kept; empty: in the folder
  bool lines = false;                ///< a JSON line for every point
  bool cluster = false;              ///< points are solved by a workload manager
  bool cancelCluster = false;        ///< what was handed in is ended
  std::string report;                ///< name or id; empty: the first one
  int tasks = 16;                    ///< that it is handed in as
};

/// What geometry to take in.
struct ImportRequest {
  std::filesystem::path file, to; ///< *.step, … and the project to write
  std::string unit = "mm", angle = "30 deg", removeBelow;
  std::filesystem::path again;   ///< a project that has it already; empty: a new one
  std::string fileId;            ///< its id there
  std::filesystem::path drawing; ///< where to draw its bodies, as a draft; empty: nowhere
};

/// Makes a project of the bodies of a file, one part each; or reads the file again into a project that has it.
[[nodiscard]] ExitCode import(const ImportRequest& request, Reporter& reporter);
/// Writes the parts of a project as STEP or STL.
[[nodiscard]] ExitCode writeShapes(const Request& request, Reporter& reporter);
/// Solves a case again with smaller elements where it matters, until the hottest place stays.
[[nodiscard]] ExitCode refine(const Request& request, Reporter& reporter);
/// Solves a case on three meshes and says how sure its watches are.
[[nodiscard]] ExitCode sure(const Request& request, Reporter& reporter);
/// Lists the lasting names of faces with their areas and places.
[[nodiscard]] ExitCode faces(const Request& request, Reporter& reporter);
/// Lists the fields of a project that can be set, each with what it holds.
[[nodiscard]] ExitCode fields(const Request& request, Reporter& reporter);
/// Writes the tables of all keys of project files.
[[nodiscard]] ExitCode keys();
[[nodiscard]] ExitCode check(const Request& request, Reporter& reporter);
[[nodiscard]] ExitCode mesh(const Request& request, Reporter& reporter);
[[nodiscard]] ExitCode solve(const Request& request, Reporter& reporter);
/// Draws the faces of a project again and again: reads the path of a project a line from standard input, writes the
/// drafts into the folder and a JSON line each; ends with the input. Keeps the bodies of parts that did not change.
[[nodiscard]] ExitCode draft();
/// Whether a run that was interrupted can be read; the window asks before it reads it itself.
[[nodiscard]] ExitCode readable(const Request& request);
/// Asks a question of the project: solves its points that are not known yet, and says what follows from them.
[[nodiscard]] ExitCode ask(const Request& request, Reporter& reporter);
/// Says what differs between two cases, in what was set and in what came out.
[[nodiscard]] ExitCode compare(const Request& request, Reporter& reporter);
/// Lists the cases with what each changes and where its result stands.
[[nodiscard]] ExitCode listCases(const Request& request, Reporter& reporter);
/// Writes cases with their property sets to a file for other projects.
[[nodiscard]] ExitCode writeCases(const Request& request, Reporter& reporter);
/// Takes the cases of such a file into the project, and says what found no match.
[[nodiscard]] ExitCode takeCases(const Request& request, Reporter& reporter);
/// Writes the materials of a project, or of the library, as a table or a project file; or takes such into a project.
[[nodiscard]] ExitCode materials(const Request& request, Reporter& reporter);
/// Makes one file of a project with its results, or takes one apart.
[[nodiscard]] ExitCode pack(const Request& request, Reporter& reporter);
[[nodiscard]] ExitCode unpack(const Request& request, Reporter& reporter);
/// Writes the picture that a project was saved with as a PNG, for those who list files.
[[nodiscard]] ExitCode writePicture(const Request& request, Reporter& reporter);
/// Makes a report into a file, by the window's program on a display without a screen.
[[nodiscard]] ExitCode report(const Request& request, Reporter& reporter);
[[nodiscard]] ExitCode exportCase(const Request& request, Reporter& reporter);

/// "studio-kiln.kiln" → "studio-kiln.results" beside it.
[[nodiscard]] std::filesystem::path resultsFolderFor(const std::filesystem::path& projectFile);

} // namespace kiln::cli
