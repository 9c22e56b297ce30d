// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/AnswerTable.h"

#include "look/Language.h"
#include "look/Theme.h"
#include "strip/StripTable.h"

#include <QCoreApplication>
#include <QJsonArray>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

QString words(const std::string& text) { return QString::fromStdString(text); }
QString translated(const char* text) { return QCoreApplication::translate("AnswerTable", text); }

} // namespace

AskedFigure figureAskedBy(const Question& question)
{
  if (const auto* limit = std::get_if<AskLimit>(&question.asks))
    return limit->figure;
  const auto* best = std::get_if<AskBest>(&question.asks);
  return best != nullptr ? best->figure : AskedFigure::AtEnd;
}

Quantity quantityAsked(const Project& seen, const Watch& watch, AskedFigure figure)
{
  return figure == AskedFigure::TimeToLimit ? Quantity::Time : quantityOf(seen, watch);
}

std::vector<HeldLimit> limitsAsked(const Question& question, const Project& seen)
{
  if (const auto* limit = std::get_if<AskLimit>(&question.asks))
    return limitsOf(seen, *limit).value_or(std::vector<HeldLimit>());
  return limitsOf(seen, {}, figureAskedBy(question));
}

bool keepsAll(const std::vector<HeldLimit>& limits, const PointAnswer& answer)
{
  return std::all_of(limits.begin(), limits.end(),
                     [&](const HeldLimit& limit) { return limit.margin(answer).value_or(-1) >= 0; });
}

std::optional<double> numberOf(const OwnValue& value)
{
  const auto* number = std::get_if<Property>(&value);
  return number != nullptr && number->table.empty() ? std::optional(number->si) : std::nullopt;
}

void fillPoints(QTableWidget& table, const Question& question, const QuestionAnswer& answer, const Project& seen,
                TemperatureUnit unit)
{
  const AskedFigure asked = figureAskedBy(question);
  QStringList heads;
  for (const AskedAxis& axis : answer.axes)
    heads << inWords(axis.label);
  for (const Watch& watch : seen.watches)
    heads << words(watch.name);
  heads << translated("Limits");
  table.setColumnCount(static_cast<int>(heads.size()));
  table.setHorizontalHeaderLabels(heads);
  table.setRowCount(static_cast<int>(answer.points.size()));
  const std::vector<HeldLimit> limits = limitsAsked(question, seen);
  for (std::size_t i = 0; i < answer.points.size(); ++i) {
    const auto row = static_cast<int>(i);
    int column = 0;
    for (std::size_t k = 0; k < answer.axes.size(); ++k, ++column) {
      const auto number = numberOf(answer.points[i][k]);
      const auto word = std::find(answer.axes[k].values.begin(), answer.axes[k].values.end(), answer.points[i][k]);
      const QString text =
          number ? words(formatQuantity(*number, answer.axes[k].quantity, unit))
          : word != answer.axes[k].values.end()
              ? words(answer.axes[k].words[static_cast<std::size_t>(word - answer.axes[k].values.begin())])
              : words(answer.words[i]);
      table.setItem(row, column, new NumberItem(text, number.value_or(static_cast<double>(i))));
      table.item(row, column)->setData(pointRole, QVariant::fromValue<qulonglong>(i));
    }
    for (const Watch& watch : seen.watches) {
      if (const auto value = answer.answers[i].figure(watch.id, asked))
        table.setItem(row, column,
                      new NumberItem(words(formatQuantity(*value, quantityAsked(seen, watch, asked), unit)), *value));
      ++column;
    }
    const PointAnswer& own = answer.answers[i];
    auto* note = new QTableWidgetItem;
    if (!own.solved()) {
      note->setText(inWords(own.failure));
    } else if (!limits.empty()) {
      const bool kept = keepsAll(limits, own);
      note->setText(answer.best == i ? translated("✓ best") : kept ? translated("✓ kept") : translated("✗ passed"));
      note->setForeground(kept ? theme().good : theme().bad);
    } else if (answer.best == i) {
      note->setText(translated("best"));
    }
    table.setItem(row, column, note);
  }
}

void fillSlopes(QTableWidget& table, const QuestionAnswer& answer, const Project& seen, TemperatureUnit unit)
{
  table.setColumnCount(6);
  table.setHorizontalHeaderLabels({translated("Watch"), translated("Value"), translated("For one per cent"),
                                   translated("Middle"), translated("90 % between"), translated("Keeps its limits")});
  table.setRowCount(static_cast<int>(answer.slopes.size()));
  int row = 0;
  for (const Sensitivity& one : answer.slopes) {
    const Watch* watch = findById(seen.watches, one.watch);
    if (watch == nullptr || one.axis >= answer.axes.size())
      continue;
    const Quantity quantity = quantityOf(seen, *watch);
    const AskedAxis& axis = answer.axes[one.axis];
    table.setItem(row, 0, new QTableWidgetItem(words(watch->name)));
    table.setItem(row, 1, new QTableWidgetItem(inWords(axis.label)));
    const QString by = words(formatQuantity(one.perStep, differenceOf(quantity), unit, 4));
    table.setItem(row, 2,
                  new NumberItem(axis.quantity == Quantity::Temperature ? translated("%1 for 1 K").arg(by) : by,
                                 std::abs(one.perStep)));
    const auto spread = std::find_if(answer.spreads.begin(), answer.spreads.end(),
                                     [&](const Spread& own) { return own.watch == one.watch; });
    if (spread != answer.spreads.end()) {
      table.setItem(row, 3, new NumberItem(words(formatQuantity(spread->middle, quantity, unit)), spread->middle));
      table.setItem(row, 4,
                    new NumberItem(translated("%1 … %2").arg(words(formatQuantity(spread->low, quantity, unit)),
                                                             words(formatQuantity(spread->high, quantity, unit))),
                                   spread->high - spread->low));
      if (spread->chance)
        table.setItem(row, 5,
                      new NumberItem(translated("in %1 %").arg(100 * *spread->chance, 0, 'g', 3), *spread->chance));
    }
    ++row;
  }
  table.setRowCount(row);
}

void fillRunning(QTableWidget& table, const std::vector<QJsonObject>& points, const Project& seen, TemperatureUnit unit)
{
  QStringList heads{translated("Point")};
  for (const Watch& watch : seen.watches)
    heads << words(watch.name);
  table.setColumnCount(static_cast<int>(heads.size()));
  table.setHorizontalHeaderLabels(heads);
  table.setRowCount(static_cast<int>(points.size()));
  for (int row = 0; row < table.rowCount(); ++row) {
    const QJsonObject& line = points[static_cast<std::size_t>(row)];
    const QString failed = line["failure"].toString();
    table.setItem(row, 0, new QTableWidgetItem(line["point"].toString() + (failed.isEmpty() ? "" : ": " + failed)));
    for (std::size_t i = 0; i < seen.watches.size(); ++i)
      for (const QJsonValue& figure : line["figures"].toArray())
        if (figure["watch"].toString() == words(seen.watches[i].id) && figure["value"].isDouble())
          table.setItem(
              row, static_cast<int>(i) + 1,
              new NumberItem(words(formatQuantity(figure["value"].toDouble(), quantityOf(seen, seen.watches[i]), unit)),
                             figure["value"].toDouble()));
  }
}

} // namespace kiln
