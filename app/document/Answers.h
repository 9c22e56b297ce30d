// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "questions/QuestionAnswer.h"

#include <QObject>
#include <map>
#include <memory>

namespace kiln
{

/// What is known of the project's questions, read from the folder of results when it is first asked for.
class Answers : public QObject
{
  Q_OBJECT

public:
  explicit Answers(Document& document, QObject* parent = nullptr);

  /// nullptr: not asked yet.
  [[nodiscard]] std::shared_ptr<const QuestionAnswer> find(const std::string& questionId);
  /// Was it found for the project as it is now?
  [[nodiscard]] bool isCurrent(const std::string& questionId);
  /// It lies anew in the folder.
  void readAgain(const std::string& questionId);

signals:
  void changed();

private:
  struct Known {
    std::shared_ptr<const QuestionAnswer> answer;
    std::optional<bool> current;
  };
  [[nodiscard]] Known& known(const std::string& questionId);

  Document& document_;
  std::filesystem::path folder_; ///< that they were read from
  std::map<std::string, Known> known_;
};

} // namespace kiln
