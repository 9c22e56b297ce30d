// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/BestOf.h"
#include "questions/LimitSearch.h"
#include "questions/Sensitivity.h"

#include <filesystem>

namespace kiln
{

/// All that is known of a question: its points with what came out, and what follows from them.
struct QuestionAnswer {
  std::string hash; ///< of all that it depends on (\ref questionHash)
  std::vector<AskedAxis> axes;
  std::vector<AskedPoint> points;
  std::vector<std::string> words; ///< of the points
  std::vector<PointAnswer> answers;
  std::string summary;         ///< in a sentence
  std::optional<double> value; ///< SI, of the first axis: at which a limit is just met
  std::string watch;           ///< whose limit that is
  std::optional<std::size_t> best;
  std::vector<Sensitivity> slopes;
  std::vector<Spread> spreads;
  bool complete = false; ///< all of its points were tried
};

/// Told after every point.
using QuestionProgress = std::function<void(const AskedPoint&, const PointAnswer&)>;

/// What a question has to know before its first point.
struct PreparedQuestion {
  Project project; ///< with the materials that it asks for
  Project seen;    ///< as the base case sees it
  Question question;
  std::vector<AskedAxis> axes;
};

/// Fails naming what is missing: a case, a field, a value that cannot be.
[[nodiscard]] Expected<PreparedQuestion> prepareQuestion(const Project& project, const Question& question);

/// The points of a sweep; empty for a question that chooses its points as it goes.
[[nodiscard]] Expected<std::vector<AskedPoint>> sweptPoints(const PreparedQuestion& prepared);

/// How many points it will take, about.
[[nodiscard]] double expectedPoints(const PreparedQuestion& prepared);

/// Asks it. Points are solved by \p solve.
[[nodiscard]] Expected<QuestionAnswer> answerQuestion(const PreparedQuestion& prepared, const SolvePoints& solve);

/// Fingerprint of all that the answer depends on.
[[nodiscard]] std::string questionHash(const Project& project, const Question& question);

/// DIR/ID.answer.json
[[nodiscard]] std::filesystem::path answerFile(const std::filesystem::path& folder, const std::string& questionId);
[[nodiscard]] Expected<void> saveAnswer(const QuestionAnswer& answer, const std::filesystem::path& file);
/// Fails with kind Unreadable when there is none, or it is damaged or of another version.
[[nodiscard]] Expected<QuestionAnswer> loadAnswer(const std::filesystem::path& file);

/// A point on its way between processes: its values as JSON, exact to the last bit.
[[nodiscard]] std::string pointText(const AskedPoint& point);
[[nodiscard]] std::optional<AskedPoint> pointFrom(const std::string& text);

} // namespace kiln
