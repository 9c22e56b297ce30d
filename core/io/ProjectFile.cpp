// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/ProjectFile.h"

#include "io/AtomicFile.h"
#include "io/JsonReader.h"
#include "io/JsonWriter.h"
#include "model/Fields.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace kiln
{
namespace
{

constexpr std::string_view formatName = "usual-kiln project";

/// Archive that looks for an id that two objects have, or none.
class IdCheck : public Walk<IdCheck>
{
public:
  explicit IdCheck(const JsonReader& reader) : reader_(reader) {}

  std::optional<Failure> failed;

  template <class T>
  void list(const KeySpec& spec, std::vector<T>& items)
  {
    if constexpr (std::is_base_of_v<Object, T>)
      for (std::size_t i = 0; i < items.size() && !failed; ++i)
        if (!seen_.insert(items[i].id).second || items[i].id.empty()) {
          const std::string key(spec.key);
          failed =
              Failure{Failure::Kind::Unreadable,
                      reader_.whereIs("/" + key + "/" + std::to_string(i)) + " (" + key + ": " + items[i].name + ")",
                      items[i].id.empty() ? "Its id is empty." : "The id “" + items[i].id + "” is used twice.",
                      "Give every object an id of its own."};
        }
  }
  template <class T>
  void nested(const KeySpec&, T&)
  {
  }

private:
  const JsonReader& reader_;
  std::set<std::string> seen_;
};

std::optional<Failure> doubledId(const Project& project, const JsonReader& reader)
{
  IdCheck check(reader);
  walkOver(check, project);
  return check.failed;
}

std::optional<Failure> checkHeader(const Json& json, const std::string& file)
{
  const auto unreadable = [&](std::string problem, std::string remedy) {
    return Failure{Failure::Kind::Unreadable, file, std::move(problem), std::move(remedy)};
  };
  if (!json.is_object() || json.value("format", Json()) != Json(formatName))
    return unreadable("It is not a project of Usual Kiln (no format “" + std::string(formatName) + "”).",
                      "Open a *.kiln file.");
  if (!json.contains("version") || !json["version"].is_number_integer())
    return unreadable("It has no version number.", "Add \"version\": 1.");
  const int version = json["version"].get<int>();
  if (version > projectFileVersion)
    return unreadable("It was written by a newer program (file version " + std::to_string(version) +
                          "; this one reads up to " + std::to_string(projectFileVersion) + ").",
                      "Open it with a newer Usual Kiln.");
  return std::nullopt;
}

} // namespace

namespace
{

/// Own values that were written in words alone.
std::optional<Failure> readChangedWords(Project& project, const std::string& file)
{
  std::vector<std::vector<Change>*> lists;
  forEachOwnValues(project, [&](std::vector<Change>& changes) { lists.push_back(&changes); });
  const auto isOpen = [](const Change& change) {
    const Property* number = change.number();
    return number != nullptr && std::isnan(number->si) && !number->text.empty();
  };
  for (std::vector<Change>* list : lists) {
    if (std::none_of(list->begin(), list->end(), isOpen))
      continue;
    Project seen = withChoices(project, *list);
    const std::vector<Field> all = fields(seen);
    for (Change& change : *list) {
      if (!isOpen(change))
        continue;
      const Field* field = fieldAt(all, change.field);
      if (field == nullptr)
        return Failure{Failure::Kind::Unreadable, file, "The changed field “" + change.field + "” does not exist.",
                       "Correct its name."};
      const auto parsed = parseQuantity(change.number()->text, field->quantity);
      if (!parsed)
        return Failure{Failure::Kind::Unreadable, file, change.field + ": " + parsed.error().problem,
                       parsed.error().remedy};
      change.number()->si = parsed->si;
    }
  }
  return std::nullopt;
}

} // namespace

Expected<Project> readProject(std::string_view text, const std::string& shownName)
{
  const std::string file = "file " + shownName;
  const Expected<Json> json = parseJson(text, file);
  if (!json)
    return tl::unexpected(json.error());
  if (auto bad = checkHeader(*json, file))
    return tl::unexpected(*bad);
  const LineMap lines = linesOf(text);
  JsonReader reader(*json, lines, file);
  reader.markKnown("format");
  reader.markKnown("version");
  Project project;
  describe(reader, project);
  if (reader.failed)
    return tl::unexpected(*reader.failed);
  if (auto doubled = doubledId(project, reader))
    return tl::unexpected(*doubled);
  if (auto unread = readChangedWords(project, file))
    return tl::unexpected(*unread);
  return project;
}

Expected<Project> loadProject(const std::filesystem::path& file)
{
  const Expected<std::string> text = readWhole(file);
  if (!text)
    return tl::unexpected(text.error());
  Expected<Project> project = readProject(*text, file.filename().string());
  if (project)
    (void)applyParameters(*project); // formulas count, not the values stored beside them; readiness tells what fails
  return project;
}

std::string writeProject(const Project& project)
{
  Project copy = project;
  JsonWriter writer;
  writer.json["format"] = formatName;
  writer.json["version"] = projectFileVersion;
  describe(writer, copy);
  return prettyJson(writer.json);
}

Expected<void> saveProject(const Project& project, const std::filesystem::path& file)
{
  const bool links =
      std::any_of(project.files.begin(), project.files.end(), [](const auto& one) { return one.linked; });
  if (!links)
    return writeAtomically(file, writeProject(project), Links::Follow); // the user's own file, wherever it is kept
  Project without = project;                                            // shapes of linked files stay in those files
  for (GeometryFile& one : without.files)
    for (TakenBody& body : one.bodies)
      if (one.linked)
        body.shape = {};
  return writeAtomically(file, writeProject(without), Links::Follow);
}

} // namespace kiln
