// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QDialog>

class QLabel;
class QPushButton;
class QScrollArea;
class QVBoxLayout;

namespace kiln
{

/// What a question varies and what it asks.
class QuestionEditor : public QDialog
{
  Q_OBJECT

public:
  QuestionEditor(Document& document, Preferences& preferences, std::string questionId, QWidget* parent);

signals:
  void askWanted();

private:
  void rebuild();
  void addVaried(QVBoxLayout& layout, const Varied& varied, const QString& label);
  void addValues(QVBoxLayout& layout, const Varied& varied);
  void addFieldChoice(QVBoxLayout& layout);
  void vary(const Field& field);
  /// The entry of this id in the project that is edited.
  void change(const QString& name, const std::string& variedId, const std::function<void(Varied&)>& edit);
  struct Readied {
    QString words; ///< how many points, or what is missing
    bool good;
  };
  [[nodiscard]] Readied readiness(const Question& question) const;

  Document& document_;
  Preferences& preferences_;
  std::string id_;
  QScrollArea* scroll_;
  QLabel* said_;
  QPushButton* ask_ = nullptr;
};

} // namespace kiln
