// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/SureRecord.h"

#include "io/AtomicFile.h"
#include "io/DescribeResult.h"
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
  JsonWriter writer;
  writer.json["layout"] = 1;
  describe(writer, const_cast<SureRecord&>(record)); // a writer changes nothing
  return writeAtomically(file, writer.json.dump(1) + "\n");
}

Expected<SureRecord> loadSure(const std::filesystem::path& file)
{
  std::ifstream in(file);
  const std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
  try {
    const Json json = Json::parse(text);
    SureRecord record;
    RecordReader reader(json);
    describe(reader, record);
    if (!reader.failed())
      return record;
  } catch (const std::exception&) {
    // said below
  }
  return failure(Failure::Kind::Unreadable, "file " + file.string(), "It holds no answer of three meshes.",
                 "Ask how sure again.");
}

} // namespace kiln
