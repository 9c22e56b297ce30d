// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/FileLock.h"

#include "io/JsonText.h"

#include <array>
#include <cerrno>
#include <chrono>
#include <cstring>
#include <ctime>
#include <fcntl.h>
#include <pwd.h>
#include <sys/file.h>
#include <thread>
#include <unistd.h>
#include <utility>

namespace kiln
{
namespace
{

constexpr std::size_t mostText = 4096;

std::string hostName()
{
  std::array<char, 256> name{};
  return ::gethostname(name.data(), name.size() - 1) == 0 ? name.data() : "this machine";
}

std::string userName()
{
  const passwd* user = ::getpwuid(::getuid());
  return user != nullptr ? user->pw_name : std::to_string(::getuid());
}

std::string now()
{
  const std::time_t seconds = std::time(nullptr);
  std::tm local{};
  ::localtime_r(&seconds, &local);
  std::array<char, 32> text{};
  std::strftime(text.data(), text.size(), "%Y-%m-%d %H:%M", &local);
  return text.data();
}

/// What the one who holds it has written into it.
std::string wordsIn(int descriptor)
{
  std::string text(mostText, '\0');
  const ssize_t length = ::pread(descriptor, text.data(), text.size(), 0);
  text.resize(length > 0 ? static_cast<std::size_t>(length) : 0);
  const Json json = Json::parse(text, nullptr, false);
  if (!json.is_object())
    return "another process";
  return json.value("user", "somebody") + " on " + json.value("host", "another machine") + " (process " +
         std::to_string(json.value("process", 0)) + ") since " + json.value("since", "a while");
}

} // namespace

Expected<FileLock> FileLock::take(const std::filesystem::path& file, const std::string& object)
{
  constexpr mode_t usual = 0644;
  FileLock lock;
  lock.descriptor_ = ::open(file.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, usual);
  if (lock.descriptor_ < 0)
    return failure(Failure::Kind::Unwritable, "file " + file.string(),
                   std::string("It could not be written: ") + std::strerror(errno) + ".",
                   "Choose a folder you may write to.");
  if (::flock(lock.descriptor_, LOCK_EX | LOCK_NB) != 0)
    return failure(Failure::Kind::NotReady, object, "It is being written by " + wordsIn(lock.descriptor_) + ".",
                   "Wait until that is done, or end that process.");
  const std::string text =
      Json{{"user", userName()}, {"host", hostName()}, {"process", ::getpid()}, {"since", now()}}.dump() + "\n";
  if (::ftruncate(lock.descriptor_, 0) != 0 || ::pwrite(lock.descriptor_, text.data(), text.size(), 0) < 0)
    errno = 0; // a full disk: it is held all the same, only without a name
  return lock;
}

Expected<FileLock> FileLock::await(const std::filesystem::path& file, const std::string& object,
                                   const std::function<void(const std::string& holder)>& waiting)
{
  constexpr auto between = std::chrono::milliseconds(50);
  constexpr int sayEvery = 20; // times
  for (int tries = 0;; ++tries) {
    auto lock = take(file, object);
    if (lock || lock.error().kind != Failure::Kind::NotReady)
      return lock;
    if (tries % sayEvery == 0)
      waiting(holderOf(file));
    std::this_thread::sleep_for(between);
  }
}

FileLock::~FileLock()
{
  if (descriptor_ >= 0)
    ::close(descriptor_);
}

FileLock::FileLock(FileLock&& other) noexcept : descriptor_(std::exchange(other.descriptor_, -1)) {}

FileLock& FileLock::operator=(FileLock&& other) noexcept
{
  std::swap(descriptor_, other.descriptor_);
  return *this;
}

std::string holderOf(const std::filesystem::path& file)
{
  const int descriptor = ::open(file.c_str(), O_RDWR | O_CLOEXEC | O_NOFOLLOW);
  if (descriptor < 0)
    return {};
  std::string words;
  if (::flock(descriptor, LOCK_EX | LOCK_NB) != 0)
    words = wordsIn(descriptor);
  ::close(descriptor);
  return words;
}

} // namespace kiln
