// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/FileLock.h"

#include <QObject>
#include <QString>
#include <QTimer>
#include <vector>

namespace kiln
{

class Document;

/// A project that was open with unsaved changes when the program ended without being asked to.
struct LostProject {
  QString copy; ///< the file with the changes
  QString name; ///< of the project
  QString file; ///< it was opened from; empty when it was never saved
};

/// Keeps a copy of unsaved changes, never more than two seconds behind the user, and finds copies that a killed program
/// left: those whose lock nobody holds any more.
class Recovery : public QObject
{
  Q_OBJECT

public:
  explicit Recovery(Document& document, QObject* parent = nullptr);
  ~Recovery() override;

  /// Copies of programs that no longer run; the newest first.
  [[nodiscard]] static std::vector<LostProject> lost();
  /// Those of one project's file.
  [[nodiscard]] static std::vector<LostProject> lostOf(const QString& file);
  static void forget(const LostProject& lost);
  [[nodiscard]] static QString folder();
  /// Writes the copy now; for tests and before something risky.
  void keep();

private:
  void consider();
  void drop();
  [[nodiscard]] QString ownFile(const QString& suffix) const;

  Document& document_;
  QTimer timer_;
  FileLock lock_;
};

} // namespace kiln
