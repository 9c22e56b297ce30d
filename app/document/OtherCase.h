// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/CaseState.h"
#include "model/Project.h"

#include <QObject>
#include <filesystem>
#include <memory>

namespace kiln
{

/// A case of another project with its result as it lies on the disk. It is read in the background, once for as long as
/// the same is asked for.
class OtherCase : public QObject
{
  Q_OBJECT

public:
  struct Read {
    Project seen; ///< as the case sees it
    Case own;
    CaseState state;
  };

  explicit OtherCase(QObject* parent = nullptr) : QObject(parent) {}

  /// Starts to read where this is another one than before.
  void want(const std::filesystem::path& file, const std::string& caseId);
  void forget();
  /// nullptr: it is not read yet, or cannot be.
  [[nodiscard]] const Read* read() const { return read_.get(); }
  /// Why it cannot be; empty while it is read.
  [[nodiscard]] const QString& problem() const { return problem_; }

signals:
  void arrived();

private:
  std::filesystem::path file_;
  std::string caseId_;
  int asked_ = 0; ///< how often: an answer to an earlier question is dropped
  std::shared_ptr<const Read> read_;
  QString problem_;
};

} // namespace kiln
