// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "io/FileLock.h"
#include "model/Project.h"

#include <QFileSystemWatcher>
#include <QObject>
#include <QString>
#include <filesystem>

namespace kiln
{

class Document;

/// Keeps an eye on the open project's file: whether another window has it open, and whether somebody else wrote it.
class ProjectGuard : public QObject
{
  Q_OBJECT

public:
  explicit ProjectGuard(Document& document, QObject* parent = nullptr);

  /// Who else has the project open, and since when; empty when nobody.
  [[nodiscard]] const QString& other() const { return other_; }
  /// Is the file something else than was opened or saved last? Not when it is gone.
  [[nodiscard]] bool changedOnDisk() const;
  /// The project as it is on the disk now.
  [[nodiscard]] Expected<Project> onDisk() const;
  /// What is on the disk now has been seen.
  void accept();

  /// Beside a project's file; held by whoever has it open.
  [[nodiscard]] static std::filesystem::path lockFile(const std::filesystem::path& project);

signals:
  void changedMeanwhile(); ///< somebody else has written the file

private:
  void follow();
  void look();

  Document& document_;
  QFileSystemWatcher watcher_;
  std::filesystem::path file_;
  std::string known_; ///< hash of the file as opened or saved
  QString other_;
  FileLock lock_;
};

} // namespace kiln
