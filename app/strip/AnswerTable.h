// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/QuestionAnswer.h"

#include <QJsonObject>
#include <QTableWidget>
#include <optional>
#include <vector>

/// What came out of a question as rows of a table.
namespace kiln
{

/// Of the first item of a row: which point it is.
inline constexpr int pointRole = Qt::UserRole + 1;

/// A row for every point: its values, every watch, and whether it keeps the limits.
void fillPoints(QTableWidget& table, const Question& question, const QuestionAnswer& answer, const Project& seen,
                TemperatureUnit unit);
/// A row for every watch and value: how much the one moves with the other, and how far the watch is spread.
void fillSlopes(QTableWidget& table, const QuestionAnswer& answer, const Project& seen, TemperatureUnit unit);
/// What the solver has said of its points so far.
void fillRunning(QTableWidget& table, const std::vector<QJsonObject>& points, const Project& seen,
                 TemperatureUnit unit);

/// The figure that a question is about, and what kind of number it is of a watch.
[[nodiscard]] AskedFigure figureAskedBy(const Question& question);
[[nodiscard]] Quantity quantityAsked(const Project& seen, const Watch& watch, AskedFigure figure);
/// What its points are held against: the limits of watches, or the level that was asked for.
[[nodiscard]] std::vector<HeldLimit> limitsAsked(const Question& question, const Project& seen);
/// Is every limit kept? One whose figure is not known is not.
[[nodiscard]] bool keepsAll(const std::vector<HeldLimit>& limits, const PointAnswer& answer);
[[nodiscard]] std::optional<double> numberOf(const OwnValue& value);

} // namespace kiln
