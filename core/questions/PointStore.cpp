// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/PointStore.h"

#include <nlohmann/json.hpp>
#include <sqlite3.h>

namespace kiln
{
namespace
{

using Json = nlohmann::json;

constexpr int version = 1;
constexpr int patience = 20'000; // ms, while another process writes

struct Closing {
  void operator()(sqlite3* database) const { sqlite3_close_v2(database); }
  void operator()(sqlite3_stmt* statement) const { sqlite3_finalize(statement); }
};
using Statement = std::unique_ptr<sqlite3_stmt, Closing>;

Statement prepared(sqlite3* database, const char* words)
{
  sqlite3_stmt* statement = nullptr;
  sqlite3_prepare_v2(database, words, -1, &statement, nullptr);
  return Statement(statement);
}

void bindText(const Statement& statement, int place, const std::string& text)
{
  sqlite3_bind_text(statement.get(), place, text.data(), static_cast<int>(text.size()), SQLITE_TRANSIENT);
}

std::string textAt(const Statement& statement, int column)
{
  const unsigned char* text = sqlite3_column_text(statement.get(), column);
  return text != nullptr ? reinterpret_cast<const char*>(text) : "";
}

int numberOf(sqlite3* database, const char* words)
{
  const Statement statement = prepared(database, words);
  return statement && sqlite3_step(statement.get()) == SQLITE_ROW ? sqlite3_column_int(statement.get(), 0) : -1;
}

Json jsonOf(const std::optional<double>& number) { return number ? Json(*number) : Json(); }

std::optional<double> numberAt(const Json& json, const char* key)
{
  const auto at = json.find(key);
  return at != json.end() && at->is_number() ? std::optional(at->get<double>()) : std::nullopt;
}

Json figuresJson(const std::vector<AnsweredFigure>& figures)
{
  Json list = Json::array();
  for (const AnsweredFigure& one : figures) {
    Json json{{"watch", one.watch}, {"value", jsonOf(one.value)}};
    if (one.peak)
      json["peak"] = *one.peak;
    if (one.trough)
      json["trough"] = *one.trough;
    if (one.time)
      json["time"] = *one.time;
    list.push_back(std::move(json));
  }
  return list;
}

std::vector<AnsweredFigure> figuresFrom(const Json& list)
{
  std::vector<AnsweredFigure> figures;
  for (const Json& json : list)
    figures.push_back({json.value("watch", std::string()), numberAt(json, "value"), numberAt(json, "peak"),
                       numberAt(json, "trough"), numberAt(json, "time")});
  return figures;
}

/// Of a row with figures and seconds; nothing where it is damaged.
std::optional<PointAnswer> rowOf(const std::string& key, const Statement& statement)
{
  const Json figures = Json::parse(textAt(statement, 0), nullptr, false);
  if (!figures.is_array())
    return std::nullopt;
  try {
    return PointAnswer{key, figuresFrom(figures), {}, sqlite3_column_double(statement.get(), 1), true};
  } catch (const Json::exception&) {
    return std::nullopt;
  }
}

} // namespace

struct PointStore::Handle {
  std::filesystem::path file;
  std::unique_ptr<sqlite3, Closing> database;

  [[nodiscard]] tl::unexpected<Failure> unwritable() const
  {
    return failure(Failure::Kind::Unwritable, "file " + file.string(),
                   std::string("The points of the question cannot be kept: ") + sqlite3_errmsg(database.get()) + ".",
                   "See to it that the disk has room and the folder can be written to; points kept before are there.");
  }
};

PointStore::PointStore(std::unique_ptr<Handle> handle) : handle_(std::move(handle)) {}
PointStore::~PointStore() = default;
PointStore::PointStore(PointStore&&) noexcept = default;

Expected<PointStore> PointStore::open(const std::filesystem::path& file)
{
  auto handle = std::make_unique<Handle>();
  handle->file = file;
  sqlite3* database = nullptr;
  const int opened = sqlite3_open(file.c_str(), &database);
  handle->database.reset(database);
  if (opened != SQLITE_OK)
    return handle->unwritable();
  sqlite3_busy_timeout(database, patience);
  const int made = numberOf(database, "PRAGMA user_version");
  if (made < 0)
    return failure(Failure::Kind::Unreadable, "file " + file.string(), "It is damaged, or no file of points.",
                   "Remove it: its points are solved again.");
  if (made > version)
    return failure(Failure::Kind::Unreadable, "file " + file.string(), "A newer version of the program has written it.",
                   "Use that version, or remove the file.");
  const char* const layout = "BEGIN IMMEDIATE;"
                             "CREATE TABLE IF NOT EXISTS points(key TEXT PRIMARY KEY, figures TEXT NOT NULL,"
                             " seconds REAL NOT NULL) WITHOUT ROWID;"
                             "PRAGMA user_version=1;"
                             "COMMIT;";
  if (made == 0 && sqlite3_exec(database, layout, nullptr, nullptr, nullptr) != SQLITE_OK)
    return handle->unwritable();
  return PointStore(std::move(handle));
}

std::optional<PointAnswer> PointStore::find(const std::string& key) const
{
  const Statement statement = prepared(handle_->database.get(), "SELECT figures, seconds FROM points WHERE key = ?");
  if (!statement)
    return std::nullopt;
  bindText(statement, 1, key);
  return sqlite3_step(statement.get()) == SQLITE_ROW ? rowOf(key, statement) : std::nullopt;
}

std::vector<PointAnswer> PointStore::all() const
{
  std::vector<PointAnswer> answers;
  const Statement statement = prepared(handle_->database.get(), "SELECT figures, seconds, key FROM points");
  while (statement && sqlite3_step(statement.get()) == SQLITE_ROW)
    if (auto answer = rowOf(textAt(statement, 2), statement))
      answers.push_back(std::move(*answer));
  return answers;
}

Expected<void> PointStore::keep(const PointAnswer& answer)
{
  if (!answer.solved())
    return {};
  const Statement statement =
      prepared(handle_->database.get(), "INSERT OR REPLACE INTO points(key, figures, seconds) VALUES(?, ?, ?)");
  if (!statement)
    return handle_->unwritable();
  bindText(statement, 1, answer.key);
  bindText(statement, 2, figuresJson(answer.figures).dump());
  sqlite3_bind_double(statement.get(), 3, answer.seconds);
  if (sqlite3_step(statement.get()) != SQLITE_DONE)
    return handle_->unwritable();
  return {};
}

int PointStore::count() const { return numberOf(handle_->database.get(), "SELECT COUNT(*) FROM points"); }

std::filesystem::path pointsFile(const std::filesystem::path& folder, const std::string& questionId)
{
  return folder / (questionId + ".points.sqlite");
}

std::string answerText(const PointAnswer& answer)
{
  return Json{{"key", answer.key},
              {"figures", figuresJson(answer.figures)},
              {"failure", answer.failure},
              {"seconds", answer.seconds}}
      .dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::optional<PointAnswer> answerFrom(const std::string& text)
{
  const Json json = Json::parse(text, nullptr, false);
  try {
    return PointAnswer{json.at("key"), figuresFrom(json.at("figures")), json.at("failure"), json.at("seconds"), false};
  } catch (const Json::exception&) {
    return std::nullopt;
  }
}

} // namespace kiln
