// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"
#include "VtuExport.h"

#include "io/AtomicFile.h"
#include "io/CasesFile.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "io/RunFile.h"
#include "model/OwnValues.h"
#include "model/Settings.h"
#include "run/Comparison.h"
#include "run/ResultIdentity.h"

#include <algorithm>
#include <cstdio>

namespace kiln::cli
{
namespace
{

/// "Firing@2 h": the instant of a run, in s; taken off the name, unless that is the name of a case.
std::optional<double> takeInstant(const Project& project, std::string& name)
{
  const std::size_t sign = name.rfind('@');
  const auto named = [&](const Case& one) { return one.name == name || one.id == name; };
  if (sign == std::string::npos || std::any_of(project.cases.begin(), project.cases.end(), named))
    return std::nullopt;
  const auto instant = parseQuantity(name.substr(sign + 1), Quantity::Time);
  if (!instant)
    return std::nullopt;
  name.resize(sign);
  return instant->si;
}

Expected<void> goToInstant(Compared& side, double time, const std::filesystem::path& run)
{
  const auto fields = InstantReader::open(run);
  if (!side.run || !side.result || !fields)
    return failure(Failure::Kind::NotReady, "case " + side.name, "It has no run that could be read at an instant.",
                   "Name it without the instant, or solve it as transient.");
  side.instant = withinRun(*side.run, time);
  side.kelvin = temperaturesAt(*side.result, *side.run, *fields, *side.instant);
  side.name += ", at " + formatQuantity(*side.instant, Quantity::Time);
  return {};
}

/// A side from its name: "Hold", "other.kiln:Hold", "Firing@2 h".
Expected<Compared> sideOf(const Request& request, const std::string& name)
{
  Request own = request;
  const std::size_t colon = name.rfind(".kiln:");
  constexpr std::size_t ending = 5; // ".kiln"
  own.caseNames = {colon == std::string::npos ? name : name.substr(colon + ending + 1)};
  if (colon != std::string::npos) {
    own.file = name.substr(0, colon + ending);
    own.folder.clear();
    own.settings.clear();
  }
  const Expected<Project> project = load(own);
  const auto instant = project ? takeInstant(*project, own.caseNames.front()) : std::nullopt;
  const Expected<std::vector<Case>> cases = project ? casesOf(*project, own) : tl::unexpected(project.error());
  if (!cases)
    return tl::unexpected(cases.error());
  const Case& one = cases->front();
  Compared side;
  side.name = (colon == std::string::npos ? "" : own.file.filename().string() + ": ") + one.name;
  side.caseId = one.id;
  auto seen = projectForCase(*project, one);
  if (!seen)
    return tl::unexpected(seen.error());
  side.project = std::move(*seen);
  if (auto result = loadStored(folderOf(own), one)) {
    side.result = std::make_shared<CaseResult>(std::move(*result));
    side.current = isUpToDate(*project, one, folderOf(own));
  }
  if (one.kind == Case::Kind::Transient)
    if (auto run = loadRun(runFile(folderOf(own), one.id)))
      side.run = std::make_shared<RunRecord>(std::move(*run));
  if (instant)
    if (auto gone = goToInstant(side, *instant, runFile(folderOf(own), one.id)); !gone)
      return tl::unexpected(gone.error());
  return side;
}

/// How much hotter the second is than the first, on the first one's mesh.
Expected<void> writeDifference(const Compared& a, const Compared& b, const std::filesystem::path& file)
{
  const auto kelvin = [](const Compared& side) -> const std::vector<double>& {
    return side.kelvin ? *side.kelvin : side.result->temperature;
  };
  for (const Compared* side : {&a, &b})
    if (!side->result)
      return failure(Failure::Kind::NotReady, "case " + side->name, "It is not solved.", "Solve it first.");
  const auto difference = differenceOf(*a.result, kelvin(a), *b.result, kelvin(b));
  if (!difference)
    return tl::unexpected(difference.error());
  CaseResult shown = *a.result;
  shown.temperature = kelvin(a);
  return exportVtu(a.project, shown, file, {b.name + " − " + a.name, &*difference});
}

std::string shown(const std::optional<double>& value, Quantity quantity)
{
  return value ? formatQuantity(*value, quantity, TemperatureUnit::Celsius, 5) : "–";
}

/// Cells padded by what they look like, not by their bytes.
std::string padded(std::string text, std::size_t width)
{
  std::size_t letters = 0;
  for (const char c : text)
    letters += (static_cast<unsigned char>(c) & 0xC0U) != 0x80U ? 1 : 0;
  text.append(letters < width ? width - letters : 1, ' ');
  return text;
}

void sayInputs(const Request& request, const Compared& a, const Compared& b, Reporter& reporter)
{
  std::size_t differing = 0;
  reporter.say("what was set:");
  for (const ComparedInput& input : compareInputs(a, b)) {
    differing += input.differs() ? 1 : 0;
    if (input.differs() || request.all)
      reporter.say("  " + padded(input.label, 44) + padded(input.a.empty() ? "–" : input.a, 24) +
                   (input.b.empty() ? "–" : input.b));
  }
  if (differing == 0)
    reporter.say("  nothing differs");
}

void sayOutcome(const Request& request, const Compared& a, const Compared& b, Reporter& reporter)
{
  reporter.say("what came out:");
  for (const ComparedFigure& figure : compareFigures(a, b)) {
    const auto difference = figure.difference();
    if (!request.all && difference == 0.0)
      continue;
    const Quantity interval = figure.quantity == Quantity::Temperature ? Quantity::TemperatureStep : figure.quantity;
    std::array<char, 24> percent{};
    if (const auto share = figure.share())
      std::snprintf(percent.data(), percent.size(), "%+.2f %%", *share * 100);
    reporter.say("  " + padded(figure.name, 44) + padded(shown(figure.a, figure.quantity), 16) +
                 padded(shown(figure.b, figure.quantity), 16) + padded(shown(difference, interval), 14) +
                 percent.data());
  }
}

} // namespace

ExitCode compare(const Request& request, Reporter& reporter)
{
  const Expected<Compared> a = sideOf(request, request.caseNames.front());
  if (!a)
    return refused(a.error(), reporter);
  const Expected<Compared> b = sideOf(request, request.caseNames.back());
  if (!b)
    return refused(b.error(), reporter);
  if (const auto fit = comparable(*a, *b); !fit)
    return refused(fit.error(), reporter);
  for (const std::string& note : comparisonNotes(*a, *b))
    reporter.say("note: " + note);
  if (!request.vtu.empty()) {
    if (const auto written = writeDifference(*a, *b, request.vtu); !written)
      return refused(written.error(), reporter);
    reporter.say(request.vtu.string());
  }
  if (!request.output.empty()) {
    if (const auto written = writeAtomically(request.output, comparisonCsv(*a, *b)); !written)
      return refused(written.error(), reporter);
    reporter.say(request.output.string());
  }
  if (!request.output.empty() || !request.vtu.empty())
    return ExitCode::Solved;
  reporter.say(padded("", 46) + padded(a->name, 16) + b->name);
  sayInputs(request, *a, *b, reporter);
  sayOutcome(request, *a, *b, reporter);
  return ExitCode::Solved;
}

ExitCode listCases(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  if (!project)
    return refused(project.error(), reporter);
  for (const Case& one : project->cases) {
    std::error_code ignored;
    const bool stored = std::filesystem::exists(manifestFile(folderOf(request), one.id), ignored);
    const std::string state = !stored                                        ? "not solved"
                              : isUpToDate(*project, one, folderOf(request)) ? "solved"
                                                                             : "out of date";
    reporter.say(padded(one.id, 24) + padded(one.name, 28) +
                 padded(one.kind == Case::Kind::Steady ? "steady" : "transient", 12) + state);
    Project seen = withChoices(*project, changesOf(*project, one));
    const std::vector<Field> all = settings(seen);
    for (const Change& change : one.changes) {
      const Field* field = fieldAt(all, change.field);
      reporter.say("    " + change.field + " = " +
                   (field != nullptr ? settingText(seen, *field, change.value) + ", the project's is " +
                                           settingText(seen, *field, field->held())
                                     : "for a field that does not exist"));
    }
  }
  return ExitCode::Solved;
}

ExitCode writeCases(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  Request asked = request;
  asked.allCases = request.caseNames.empty();
  const auto cases = project ? casesOf(*project, asked) : tl::unexpected(project.error());
  if (!cases)
    return refused(cases.error(), reporter);
  std::vector<std::string> ids;
  for (const Case& one : *cases)
    ids.push_back(one.id);
  if (auto written = writeAtomically(request.output, exportCases(*project, ids)); !written)
    return refused(written.error(), reporter);
  reporter.say(std::to_string(ids.size()) + " case(s) in " + request.output.string());
  return ExitCode::Solved;
}

ExitCode takeCases(const Request& request, Reporter& reporter)
{
  Expected<Project> project = loadProject(request.file);
  if (!project)
    return refused(project.error(), reporter);
  const Expected<std::string> text = readWhole(request.source);
  if (!text)
    return refused(text.error(), reporter);
  const auto taken = importCases(*project, *text, request.source.filename().string());
  if (!taken)
    return refused(taken.error(), reporter);
  for (const std::string& sentence : taken->unmatched)
    reporter.say(sentence);
  if (auto saved = saveProject(*project, request.file); !saved)
    return refused(saved.error(), reporter);
  reporter.say(std::to_string(taken->cases.size()) + " case(s) and " + std::to_string(taken->sets.size()) +
               " set(s) taken in, " + std::to_string(taken->unmatched.size()) + " value(s) skipped");
  return ExitCode::Solved;
}

} // namespace kiln::cli
