// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/AtomicFile.h"

#include "base/TextHash.h"

#include <array>
#include <cerrno>
#include <cstdint>
#include <cstdio>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <sstream>
#include <sys/stat.h>
#include <unistd.h>
#include <vector>
#include <xxhash.h>

namespace kiln
{
namespace
{

// A plain array, because a signal handler reads it.
std::array<char, 4096> unfinished{};

tl::unexpected<Failure> unwritable(const std::filesystem::path& file, int error)
{
  const bool full = error == ENOSPC || error == EFBIG || error == EDQUOT;
  const bool gone = error == ENOENT || error == ENOTDIR;
  return failure(Failure::Kind::Unwritable, "file " + file.string(),
                 std::string("It could not be written: ") + std::strerror(error) + ".",
                 full   ? "Make room on this disk or choose another folder; the previous file is unchanged."
                 : gone ? "Its folder is gone: make it again, or choose another one."
                        : "Choose a folder you may write to; the previous file is unchanged.");
}

tl::unexpected<Failure> unreadable(const std::filesystem::path& file)
{
  return failure(Failure::Kind::Unreadable, "file " + file.string(), "It could not be opened.",
                 "Check the name and that you may read it.");
}

int writeAll(int descriptor, std::string_view bytes)
{
  while (!bytes.empty()) {
    const ssize_t written = ::write(descriptor, bytes.data(), bytes.size());
    if (written < 0 && errno == EINTR)
      continue;
    if (written <= 0)
      return written < 0 ? errno : ENOSPC;
    bytes.remove_prefix(static_cast<std::size_t>(written));
  }
  return ::fsync(descriptor) == 0 ? 0 : errno;
}

mode_t modeOf(const std::filesystem::path& file)
{
  struct stat status {
  };
  constexpr mode_t usual = 0644;
  return ::stat(file.c_str(), &status) == 0 ? status.st_mode & 07777U : usual;
}

} // namespace

const char* unfinishedFile() { return unfinished.data(); }

Expected<void> writeAtomically(const std::filesystem::path& target, std::string_view bytes, Links links)
{
  std::error_code ignored;
  const bool through = links == Links::Follow && std::filesystem::is_symlink(target, ignored);
  const std::filesystem::path file = through ? std::filesystem::weakly_canonical(target, ignored) : target;
  const std::string temporary = file.string() + partEnding + std::to_string(::getpid());
  ::unlink(temporary.c_str()); // of an earlier process with this number; nobody's link is followed
  const int descriptor = ::open(temporary.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, modeOf(file));
  if (descriptor < 0)
    return unwritable(file, errno);
  std::strncpy(unfinished.data(), temporary.c_str(), unfinished.size() - 1);
  int error = writeAll(descriptor, bytes);
  if (::close(descriptor) != 0 && error == 0)
    error = errno;
  if (error == 0 && ::rename(temporary.c_str(), file.c_str()) != 0)
    error = errno;
  if (error != 0)
    ::unlink(temporary.c_str());
  unfinished[0] = '\0';
  if (error != 0)
    return unwritable(file, error);
  return {};
}

Expected<void> syncFile(const std::filesystem::path& file)
{
  const int descriptor = ::open(file.c_str(), O_RDONLY | O_NOFOLLOW | O_CLOEXEC);
  if (descriptor < 0)
    return unwritable(file, errno);
  const int error = ::fsync(descriptor) == 0 ? 0 : errno;
  ::close(descriptor);
  if (error != 0)
    return unwritable(file, error);
  return {};
}

Expected<std::string> fileHash(const std::filesystem::path& file)
{
  std::ifstream stream(file, std::ios::binary);
  TextHasher hasher;
  std::vector<char> piece(std::size_t{1} << 20U);
  while (stream) {
    stream.read(piece.data(), static_cast<std::streamsize>(piece.size()));
    hasher.add({piece.data(), static_cast<std::size_t>(stream.gcount())});
  }
  if (!stream.eof())
    return unreadable(file);
  return hasher.hash();
}

Expected<std::string> readWhole(const std::filesystem::path& file)
{
  std::error_code ignored;
  if (std::filesystem::exists(file, ignored) && !std::filesystem::is_regular_file(file, ignored))
    return failure(Failure::Kind::Unreadable, "file " + file.string(), "It is no plain file.", "Choose another one.");
  std::ifstream stream(file, std::ios::binary);
  if (!stream)
    return unreadable(file);
  constexpr std::uintmax_t most = std::uintmax_t{2} << 30U;
  if (std::filesystem::file_size(file, ignored) > most)
    return failure(Failure::Kind::Unreadable, "file " + file.string(), "It is larger than 2 GiB.",
                   "Choose another one.");
  std::ostringstream content;
  content << stream.rdbuf();
  return std::move(content).str();
}

std::string safeFileName(const std::string& name)
{
  std::string safe;
  bool replaced = name.empty() || name.front() == '.';
  for (const char c : name) {
    const bool plain = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '-' ||
                       c == '_' || (c == '.' && !safe.empty());
    safe += plain ? c : '_';
    replaced = replaced || !plain;
  }
  if (replaced) {
    std::array<char, 16> sum{};
    std::snprintf(sum.data(), sum.size(), "-%06x",
                  static_cast<unsigned>(XXH3_64bits(name.data(), name.size()) & 0xffffffU));
    safe += sum.data();
  }
  return safe;
}

} // namespace kiln
