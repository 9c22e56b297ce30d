// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QObject>
#include <QProcess>
#include <QString>
#include <QTimer>
#include <string>

namespace kiln
{

class Document;

/// Keeps a picture of the model while its shapes change: a child process builds the parts that changed and fuses them,
/// and hands drafts back. A crash in there costs a draft, never the window.
class DraftProcess : public QObject
{
  Q_OBJECT

public:
  explicit DraftProcess(Document& document, QObject* parent = nullptr);
  ~DraftProcess() override;

  /// Starts the child before it is first needed: its libraries take a while to load.
  void start();
  void setProgram(const QString& program) { program_ = program; } ///< for tests
  [[nodiscard]] bool isBusy() const { return !asked_.empty(); }
  [[nodiscard]] qint64 processId() const { return process_.processId(); }

signals:
  void busyChanged();

private:
  void consider();
  void ask();
  void readAnswers();
  void take(const QString& stage, const std::string& hash);
  void died();

  Document& document_;
  QProcess process_;
  QString program_;
  QTimer soon_;
  std::string asked_;   ///< geometry hash of the draft under way; empty when idle
  std::string looked_;  ///< hash that a stored draft was looked for
  std::string refused_; ///< hash that failed or crashed; not asked for again
};

} // namespace kiln
