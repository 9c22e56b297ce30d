// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QObject>
#include <map>
#include <memory>

namespace kiln
{

/// Follows the shown case while values are dragged: in a thread of its own, from the state that is solved; the newest
/// values count. What comes out is shown as an estimate.
class WhatIfRun : public QObject
{
  Q_OBJECT

public:
  explicit WhatIfRun(Document& document, QObject* parent = nullptr);
  ~WhatIfRun() override;

  /// Numbers by the paths of their fields, SI. Returns at once.
  void tryValues(const std::map<std::string, double>& values);
  [[nodiscard]] bool isBusy() const { return busy_; }
  /// The last estimate, after an edit has put it away: what was edited is what it is of.
  void showAgain();

signals:
  void followed(double milliseconds); ///< an estimate is shown
  void refused(const QString& sentence);

private:
  struct State;
  void startNext();

  Document& document_;
  std::shared_ptr<State> state_;
  std::map<std::string, double> next_;
  std::shared_ptr<const CaseResult> last_;
  QString lastWords_;
  bool waits_ = false, busy_ = false;
};

/// The project with other numbers in its fields; in a case that has its own there, in that.
[[nodiscard]] Project withValues(const Project& project, const std::string& caseId,
                                 const std::map<std::string, double>& values);

} // namespace kiln
