// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/SureRecord.h"

#include "io/AtomicFile.h"
#include "io/JsonText.h"
#include "model/Project.h"

#include <fstream>
#include <iterator>

namespace kiln
{

const SureRecord::OfWatch* SureRecord::find(const std::string& watch) const { return findById(watches, watch); }

std::filesystem::path sureFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return folder / (safeFileName(caseId) + ".sure.json");
}

Expected<void> saveSure(const SureRecord& record, const std::filesystem::path& file)
{
  Json json{{"layout", 1}, {"solutionHash", record.solutionHash}, {"tets", record.tets}};
  json["watches"] = Json::array();
  for (const SureRecord::OfWatch& watch : record.watches)
    json["watches"].push_back({{"id", watch.id},
                               {"values", watch.values},
                               {"verdict", static_cast<int>(watch.convergence.verdict)},
                               {"order", watch.convergence.order},
                               {"extrapolated", watch.convergence.extrapolated},
                               {"bar", watch.convergence.bar}});
  return writeAtomically(file, json.dump(1) + "\n");
}

Expected<SureRecord> loadSure(const std::filesystem::path& file)
{
  std::ifstream in(file);
  const std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
  try {
    const Json json = Json::parse(text);
    SureRecord record;
    record.solutionHash = json.at("solutionHash");
    record.tets = json.at("tets");
    for (const Json& one : json.at("watches")) {
      SureRecord::OfWatch& watch = record.watches.emplace_back();
      watch.id = one.at("id");
      watch.values = one.at("values");
      watch.convergence = {static_cast<Convergence::Verdict>(one.at("verdict").get<int>()), one.at("order"),
                           one.at("extrapolated"), one.at("bar")};
    }
    return record;
  } catch (const std::exception&) {
    return failure(Failure::Kind::Unreadable, "file " + file.string(), "It holds no answer of three meshes.",
                   "Ask how sure again.");
  }
}

} // namespace kiln
