// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/ResultHead.h"

#include "io/AtomicFile.h"
#include "io/CaseStore.h"
#include "io/JsonText.h"
#include "run/InputHash.h"

#include <algorithm>

namespace kiln
{

std::vector<WatchFigure> ResultHead::watchesOf(const Project& project) const
{
  const bool known = kiln::figuresHash(project) == figuresHash;
  std::vector<WatchFigure> figures;
  for (const Watch& watch : project.watches) {
    WatchFigure& figure = figures.emplace_back();
    figure.id = watch.id;
    figure.name = watch.name;
    figure.quantity = quantityOf(watch);
    const auto own =
        std::find_if(watches.begin(), watches.end(), [&](const auto& one) { return one.first == watch.id; });
    if (known && own != watches.end())
      figure.value = own->second;
    else
      figure.note = "read when its case is shown";
    setLimits(figure, watch);
  }
  return figures;
}

std::string figuresHash(Project project)
{
  Case reader; // what a run waits for counts with all that it is read by
  reader.kind = Case::Kind::Transient;
  reader.run = TransientRun{};
  for (Watch& watch : project.watches) {
    watch.upper = watch.lower = watch.reference = watch.tolerance = std::nullopt;
    watch.referenceCase.clear();
    reader.run->ends.push_back({watch.id, EndAtValue{watch.id, {}, false}, {}});
  }
  project.cases = {std::move(reader)};
  // A result has what went in and out of it: what it was solved with does not count.
  project.sources.clear();
  project.boundaries.clear();
  project.contacts.clear();
  project.enclosures.clear();
  project.links.clear();
  return stageHash(project, Stage::Figures);
}

std::optional<ResultHead> loadHead(const std::filesystem::path& folder, const std::string& caseId)
{
  const auto stored = storedAtAGlance(folder, caseId);
  if (!stored)
    return std::nullopt;
  std::error_code missing;
  ResultHead head;
  head.folder = folder;
  head.bytes = std::filesystem::file_size(resultFile(folder, caseId), missing);
  const auto text = missing ? tl::unexpected(Failure{}) : readWhole(figuresFile(folder, caseId));
  if (!text)
    return std::nullopt;
  try {
    const Json json = Json::parse(*text);
    const Json& hashes = json.at("hashes");
    head.meshHash = hashes.at("mesh");
    head.solutionHash = hashes.at("solution");
    head.startIdentity = hashes.at("startedFrom");
    head.figuresHash = hashes.at("figures");
    for (const Json& watch : json.at("watches"))
      if (watch.at("value").is_number())
        head.watches.emplace_back(watch.at("id"), watch.at("value"));
    if (head.solutionHash != *stored) // of an older result: the newer one's files have not taken their places yet
      return std::nullopt;
  } catch (const std::exception&) { // damaged, or of an earlier version: then the whole result is asked
    return std::nullopt;
  }
  return head;
}

} // namespace kiln
