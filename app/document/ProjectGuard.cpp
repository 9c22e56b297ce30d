// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/ProjectGuard.h"

#include "document/Document.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"

namespace kiln
{

ProjectGuard::ProjectGuard(Document& document, QObject* parent) : QObject(parent), document_(document)
{
  connect(&document, &Document::fileChanged, this, &ProjectGuard::follow);
  connect(&watcher_, &QFileSystemWatcher::fileChanged, this, &ProjectGuard::look);
}

std::filesystem::path ProjectGuard::lockFile(const std::filesystem::path& project)
{
  return project.parent_path() / ("." + project.filename().string() + ".lock");
}

/// The document was opened from, or saved to, a file.
void ProjectGuard::follow()
{
  const std::filesystem::path file = document_.file();
  if (file != file_) {
    if (!watcher_.files().isEmpty())
      watcher_.removePaths(watcher_.files());
    lock_ = FileLock();
    other_.clear();
    file_ = file;
    if (!file.empty()) {
      if (auto lock = FileLock::take(lockFile(file), "project"); lock)
        lock_ = std::move(*lock);
      else
        other_ = QString::fromStdString(holderOf(lockFile(file))); // empty where the folder is not ours to write
    }
  }
  accept();
}

void ProjectGuard::accept()
{
  known_ = file_.empty() ? std::string() : fileHash(file_).value_or(std::string());
  const QString path = QString::fromStdString(file_.string());
  if (!file_.empty() && !watcher_.files().contains(path))
    watcher_.addPath(path);
}

bool ProjectGuard::changedOnDisk() const
{
  if (file_.empty() || known_.empty())
    return false;
  const auto now = fileHash(file_);
  return now && *now != known_;
}

Expected<Project> ProjectGuard::onDisk() const { return loadProject(file_); }

/// A file that is replaced drops out of the watch.
void ProjectGuard::look()
{
  const QString path = QString::fromStdString(file_.string());
  if (!watcher_.files().contains(path) && std::filesystem::exists(file_))
    watcher_.addPath(path);
  if (changedOnDisk())
    emit changedMeanwhile();
}

} // namespace kiln
