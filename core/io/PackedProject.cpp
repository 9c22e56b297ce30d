// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/PackedProject.h"

#include "io/AtomicFile.h"

#include <algorithm>
#include <archive.h>
#include <archive_entry.h>
#include <fstream>
#include <locale.h>
#include <memory>
#include <unistd.h>
#include <vector>

namespace kiln
{
namespace
{

namespace fs = std::filesystem;

constexpr std::size_t blockSize = 1 << 18; // B

struct Freed {
  void operator()(archive* one) const { ::archive_free(one); }
  void operator()(archive_entry* one) const { ::archive_entry_free(one); }
};

/// Gone when it goes out of scope, unless it was kept.
class Unfinished
{
public:
  explicit Unfinished(fs::path path) : path_(std::move(path)) {}
  ~Unfinished()
  {
    std::error_code ignored;
    if (!kept_)
      fs::remove_all(path_, ignored);
  }
  Unfinished(const Unfinished&) = delete;
  Unfinished& operator=(const Unfinished&) = delete;
  [[nodiscard]] const fs::path& path() const { return path_; }
  void keep() { kept_ = true; }

private:
  fs::path path_;
  bool kept_ = false;
};

/// Names of files are UTF-8 while it lives, in this thread, whatever the system's letters are.
class Utf8Names
{
public:
  Utf8Names() : own_(::newlocale(LC_CTYPE_MASK, "C.UTF-8", nullptr)), before_(::uselocale(own_)) {}
  ~Utf8Names()
  {
    ::uselocale(before_);
    if (own_ != nullptr)
      ::freelocale(own_);
  }
  Utf8Names(const Utf8Names&) = delete;
  Utf8Names& operator=(const Utf8Names&) = delete;

private:
  locale_t own_, before_;
};

tl::unexpected<Failure> unwritable(const fs::path& file, const char* reason)
{
  return failure(Failure::Kind::Unwritable, "file " + file.string(),
                 std::string("It could not be written") + (reason != nullptr ? std::string(": ") + reason : "") + ".",
                 "Choose another folder, or free some room.");
}

tl::unexpected<Failure> unreadable(const fs::path& file, const std::string& problem)
{
  return failure(Failure::Kind::Unreadable, "file " + file.filename().string(), problem,
                 "Pack the project again, or get the file anew.");
}

/// Files of the folder that are whole.
std::vector<fs::path> resultsIn(const fs::path& folder)
{
  std::vector<fs::path> files;
  std::error_code none;
  for (const fs::directory_entry& entry : fs::directory_iterator(folder, none)) {
    const std::string name = entry.path().filename().string();
    if (entry.is_regular_file() && name.front() != '.' && name.find(partEnding) == std::string::npos)
      files.push_back(entry.path());
  }
  std::sort(files.begin(), files.end());
  return files;
}

/// Adds a file under a name. \return what stood in the way
Expected<void> addFile(archive* to, const fs::path& target, const fs::path& file, const std::string& name)
{
  std::ifstream in(file, std::ios::binary);
  std::error_code none;
  const auto size = fs::file_size(file, none);
  if (!in || none)
    return unreadable(file, "It cannot be read.");
  const std::unique_ptr<archive_entry, Freed> entry(::archive_entry_new());
  ::archive_entry_set_pathname(entry.get(), name.c_str());
  ::archive_entry_set_size(entry.get(), static_cast<la_int64_t>(size));
  ::archive_entry_set_filetype(entry.get(), AE_IFREG);
  constexpr unsigned readable = 0644;
  ::archive_entry_set_perm(entry.get(), readable);
  if (::archive_write_header(to, entry.get()) != ARCHIVE_OK)
    return unwritable(target, ::archive_error_string(to));
  std::vector<char> block(blockSize);
  while (in.read(block.data(), static_cast<std::streamsize>(block.size())) || in.gcount() > 0)
    if (::archive_write_data(to, block.data(), static_cast<std::size_t>(in.gcount())) < 0)
      return unwritable(target, ::archive_error_string(to));
  return {};
}

/// A name of the archive as a path below a folder; empty where it leads elsewhere.
fs::path within(const fs::path& folder, const char* name)
{
  const fs::path relative = name != nullptr ? fs::path(name).lexically_normal() : fs::path();
  if (relative.empty() || relative.is_absolute() || *relative.begin() == "..")
    return {};
  return folder / relative;
}

Expected<void> writeEntry(archive* from, const fs::path& source, const fs::path& file)
{
  std::error_code none;
  fs::create_directories(file.parent_path(), none);
  std::ofstream out(file, std::ios::binary);
  std::vector<char> block(blockSize);
  for (;;) {
    const la_ssize_t count = ::archive_read_data(from, block.data(), block.size());
    if (count < 0)
      return unreadable(source, "It is damaged.");
    if (count == 0)
      break;
    if (!out.write(block.data(), count))
      return unwritable(file, nullptr);
  }
  out.close();
  return out ? Expected<void>() : unwritable(file, nullptr);
}

} // namespace

Expected<void> packProject(const fs::path& project, const fs::path& folder, const fs::path& to,
                           const Progress& progress)
{
  const Utf8Names names;
  Unfinished part(to.string() + partEnding + std::to_string(::getpid()));
  const std::unique_ptr<archive, Freed> out(::archive_write_new());
  ::archive_write_set_format_zip(out.get());
  if (::archive_write_open_filename(out.get(), part.path().c_str()) != ARCHIVE_OK)
    return unwritable(to, ::archive_error_string(out.get()));
  if (auto added = addFile(out.get(), to, project, project.filename().string()); !added)
    return added;
  const std::vector<fs::path> results = resultsIn(folder);
  const std::string name = project.stem().string() + ".results/";
  for (std::size_t i = 0; i < results.size(); ++i) {
    progress("pack", double(i) / double(results.size()), results[i].filename().string());
    if (auto added = addFile(out.get(), to, results[i], name + results[i].filename().string()); !added)
      return added;
  }
  if (::archive_write_close(out.get()) != ARCHIVE_OK)
    return unwritable(to, ::archive_error_string(out.get()));
  std::error_code failed;
  fs::rename(part.path(), to, failed);
  if (failed)
    return unwritable(to, failed.message().c_str());
  part.keep();
  return {};
}

Expected<fs::path> unpackProject(const fs::path& file, const fs::path& folder, const Progress& progress)
{
  const Utf8Names names;
  const std::unique_ptr<archive, Freed> in(::archive_read_new());
  ::archive_read_support_format_zip(in.get());
  if (::archive_read_open_filename(in.get(), file.c_str(), blockSize) != ARCHIVE_OK)
    return unreadable(file, "It is no packed project.");
  // All of it first beside where it goes, so that there is all or nothing.
  Unfinished scratch(folder / ("." + file.stem().string() + partEnding + std::to_string(::getpid())));
  std::error_code none;
  fs::create_directories(scratch.path(), none);
  archive_entry* entry = nullptr;
  fs::path project;
  std::vector<fs::path> tops;
  int state = ARCHIVE_OK;
  while ((state = ::archive_read_next_header(in.get(), &entry)) == ARCHIVE_OK) {
    const char* name = ::archive_entry_pathname(entry);
    const fs::path target = within(scratch.path(), name);
    if (target.empty() || ::archive_entry_filetype(entry) != AE_IFREG)
      return unreadable(file, "A name in it leads out of its folder.");
    progress("unpack", 0, target.filename().string());
    if (auto written = writeEntry(in.get(), file, target); !written)
      return tl::unexpected(written.error());
    const fs::path top = scratch.path() / *target.lexically_relative(scratch.path()).begin();
    if (std::find(tops.begin(), tops.end(), top) == tops.end())
      tops.push_back(top);
    if (target.extension() == ".kiln" && target.parent_path() == scratch.path())
      project = target;
  }
  if (state != ARCHIVE_EOF || project.empty())
    return unreadable(file, "It is damaged, or holds no project.");
  for (const fs::path& top : tops)
    if (const fs::path there = folder / top.filename(); fs::exists(there, none))
      return failure(Failure::Kind::Unwritable, "file " + there.string(), "It is there already.",
                     "Choose an empty folder, or rename what is there.");
  for (const fs::path& top : tops) {
    std::error_code failed;
    fs::rename(top, folder / top.filename(), failed);
    if (failed)
      return unwritable(folder / top.filename(), failed.message().c_str());
  }
  return folder / project.filename();
}

} // namespace kiln
