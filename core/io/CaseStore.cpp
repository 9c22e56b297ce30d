// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/CaseStore.h"

#include "base/TextHash.h"
#include "io/AtomicFile.h"
#include "io/JsonText.h"

#include <algorithm>
#include <cctype>
#include <cerrno>
#include <csignal>
#include <system_error>
#include <unistd.h>

namespace kiln
{
namespace
{

constexpr int manifestLayout = 1;
constexpr const char* asideEnding = ".new";

std::filesystem::path fileOf(const std::filesystem::path& folder, const std::string& caseId, const char* ending)
{
  return folder / (safeFileName(caseId) + ending);
}

struct Entry {
  std::string name, aside, hash;
  std::uintmax_t size = 0;
};
struct Manifest {
  std::string solutionHash, startIdentity;
  std::vector<Entry> files;
};

/// A name of a manifest stays within the folder.
bool isPlainName(const std::string& name)
{
  return !name.empty() && name.find('/') == std::string::npos && name != "." && name != "..";
}

Expected<Manifest> readManifest(const std::filesystem::path& file)
{
  const auto text = readWhole(file);
  if (!text)
    return tl::unexpected(text.error());
  try {
    const Json json = Json::parse(*text);
    Manifest manifest{json.at("solutionHash"), json.at("startIdentity"), {}};
    bool plain = json.at("layout") == manifestLayout;
    for (const Json& one : json.at("files")) {
      manifest.files.push_back({one.at("name"), one.at("aside"), one.at("hash"), one.at("bytes")});
      plain = plain && isPlainName(manifest.files.back().name) && isPlainName(manifest.files.back().aside);
    }
    if (plain)
      return manifest;
  } catch (const std::exception&) { // damaged, or of another version
  }
  return failure(Failure::Kind::Unreadable, "file " + file.string(), "It is damaged or of another version.",
                 "Solve the case again.");
}

/// Is a file what the manifest says?
bool fits(const std::filesystem::path& file, const Entry& entry)
{
  std::error_code error;
  if (!std::filesystem::is_regular_file(std::filesystem::symlink_status(file, error)) ||
      std::filesystem::file_size(file, error) != entry.size || error)
    return false;
  const auto hash = fileHash(file);
  return hash && *hash == entry.hash;
}

/// Where a file of the manifest lies; it takes its place if it does not yet.
std::optional<std::filesystem::path> settled(const std::filesystem::path& folder, const Entry& entry)
{
  const std::filesystem::path place = folder / entry.name;
  if (fits(place, entry))
    return place;
  const std::filesystem::path aside = folder / entry.aside;
  if (!fits(aside, entry))
    return fits(place, entry) ? std::optional(place) : std::nullopt; // another reader may have moved it just now
  std::error_code error;
  std::filesystem::rename(aside, place, error);
  return error ? aside : place; // a folder that cannot be written to can still be read
}

Expected<StoredCase> found(const std::filesystem::path& folder, const std::string& caseId, const Manifest& manifest)
{
  StoredCase stored{manifest.solutionHash, manifest.startIdentity, {}, {}, {}};
  for (const Entry& entry : manifest.files) {
    const auto path = settled(folder, entry);
    const std::filesystem::path place = folder / entry.name;
    if (!path)
      return failure(Failure::Kind::Unreadable, "file " + place.string(),
                     std::filesystem::exists(place) ? "It is not what was written: it was damaged or replaced."
                                                    : "It is missing.",
                     "Solve the case again.");
    if (place == resultFile(folder, caseId))
      stored.result = *path;
    else if (place == figuresFile(folder, caseId))
      stored.figures = *path;
    else if (place == runFile(folder, caseId))
      stored.run = *path;
  }
  return stored;
}

/// The process that a half-written file belongs to; nothing when it is no such file.
std::optional<pid_t> writerOf(const std::string& name)
{
  const std::size_t at = name.rfind(partEnding);
  if (at == std::string::npos)
    return std::nullopt;
  const std::string digits = name.substr(at + std::string(partEnding).size());
  constexpr std::size_t most = 9;
  if (digits.empty() || digits.size() > most ||
      !std::all_of(digits.begin(), digits.end(), [](unsigned char c) { return std::isdigit(c) != 0; }))
    return std::nullopt;
  return static_cast<pid_t>(std::stol(digits));
}

} // namespace

std::filesystem::path resultFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return fileOf(folder, caseId, ".h5");
}
std::filesystem::path figuresFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return fileOf(folder, caseId, ".figures.json");
}
std::filesystem::path runFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return fileOf(folder, caseId, ".run.h5");
}
std::filesystem::path growingRunFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return fileOf(folder, caseId, ".running.h5");
}
std::filesystem::path logFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return fileOf(folder, caseId, ".log");
}
std::filesystem::path caseLockFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return folder / ("." + safeFileName(caseId) + ".lock");
}
std::filesystem::path manifestFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return fileOf(folder, caseId, ".result.json");
}

Expected<std::optional<StoredCase>> storedCase(const std::filesystem::path& folder, const std::string& caseId)
{
  const std::filesystem::path file = manifestFile(folder, caseId);
  std::error_code ignored;
  if (!std::filesystem::exists(file, ignored))
    return std::nullopt;
  constexpr int tries = 2; // a newer result may become current while this one is looked at
  Expected<StoredCase> stored = tl::unexpected(Failure{});
  for (int i = 0; i < tries && !stored; ++i) {
    const auto manifest = readManifest(file);
    if (!manifest)
      return tl::unexpected(manifest.error());
    stored = found(folder, caseId, *manifest);
  }
  if (!stored)
    return tl::unexpected(stored.error());
  return std::optional(std::move(*stored));
}

std::optional<std::string> storedAtAGlance(const std::filesystem::path& folder, const std::string& caseId)
{
  const auto manifest = readManifest(manifestFile(folder, caseId));
  if (!manifest)
    return std::nullopt;
  for (const Entry& entry : manifest->files) {
    std::error_code missing;
    if (std::filesystem::file_size(folder / entry.name, missing) != entry.size || missing)
      return std::nullopt;
  }
  return manifest->solutionHash;
}

Expected<void> CaseCommit::add(const std::filesystem::path& file, std::string_view bytes)
{
  const std::string name = file.filename().string();
  const std::string aside = name + asideEnding;
  if (auto written = writeAtomically(folder_ / aside, bytes); !written)
    return written;
  entries_.push_back({name, aside, bytes.size(), textHash(bytes)});
  return {};
}

Expected<void> CaseCommit::take(const std::filesystem::path& file, const std::filesystem::path& aside)
{
  if (auto synced = syncFile(aside); !synced)
    return synced;
  const auto hash = fileHash(aside);
  if (!hash)
    return tl::unexpected(hash.error());
  std::error_code error;
  const std::uintmax_t size = std::filesystem::file_size(aside, error);
  entries_.push_back({file.filename().string(), aside.filename().string(), size, *hash});
  return {};
}

Expected<void> CaseCommit::commit(const std::string& caseName, const std::string& solutionHash,
                                  const std::string& startIdentity)
{
  Json json{{"layout", manifestLayout},
            {"caseId", caseId_},
            {"caseName", caseName},
            {"solutionHash", solutionHash},
            {"startIdentity", startIdentity}};
  for (const Entry& entry : entries_)
    json["files"].push_back(
        {{"name", entry.name}, {"aside", entry.aside}, {"bytes", entry.size}, {"hash", entry.hash}});
  if (auto written = writeAtomically(manifestFile(folder_, caseId_), prettyJson(json)); !written)
    return written;
  const auto stored = storedCase(folder_, caseId_); // which puts everything in its place
  if (!stored)
    return tl::unexpected(stored.error());
  std::error_code ignored;
  for (const auto& file : {resultFile(folder_, caseId_), figuresFile(folder_, caseId_), runFile(folder_, caseId_),
                           growingRunFile(folder_, caseId_)})
    if (std::none_of(entries_.begin(), entries_.end(), [&](const Entry& e) { return e.name == file.filename(); }))
      std::filesystem::remove(file, ignored); // of an older result of another kind
  return {};
}

void removeLeftovers(const std::filesystem::path& folder)
{
  std::error_code ignored;
  for (const auto& entry : std::filesystem::directory_iterator(folder, ignored))
    if (const auto writer = writerOf(entry.path().filename().string()))
      if (*writer != ::getpid() && ::kill(*writer, 0) != 0 && errno == ESRCH)
        std::filesystem::remove(entry.path(), ignored);
}

} // namespace kiln
