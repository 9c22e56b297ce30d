// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/Answers.h"

namespace kiln
{

Answers::Answers(Document& document, QObject* parent) : QObject(parent), document_(document)
{
  connect(&document, &Document::projectChanged, this, [this] {
    for (auto& [id, one] : known_)
      one.current.reset();
    emit changed();
  });
}

Answers::Known& Answers::known(const std::string& questionId)
{
  if (const std::filesystem::path folder = document_.resultsFolder(); folder != folder_) {
    folder_ = folder;
    known_.clear();
  }
  const auto [at, isNew] = known_.try_emplace(questionId);
  if (isNew)
    if (auto read = loadAnswer(answerFile(folder_, questionId)))
      at->second.answer = std::make_shared<QuestionAnswer>(std::move(*read));
  return at->second;
}

std::shared_ptr<const QuestionAnswer> Answers::find(const std::string& questionId) { return known(questionId).answer; }

bool Answers::isCurrent(const std::string& questionId)
{
  Known& one = known(questionId);
  if (!one.current) {
    const Question* question = findById(document_.project().questions, questionId);
    one.current = one.answer && question != nullptr && questionHash(document_.project(), *question) == one.answer->hash;
  }
  return *one.current;
}

void Answers::readAgain(const std::string& questionId)
{
  known_.erase(questionId);
  emit changed();
}

} // namespace kiln
