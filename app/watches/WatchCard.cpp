// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "watches/WatchCard.h"

#include "fields/BoundField.h"
#include "fields/QuantityField.h"
#include "io/SureText.h"
#include "look/ElidedLabel.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "model/Fields.h"
#include "watches/MarginBar.h"
#include "watches/WatchEditor.h"

#include "model/Edit.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QStyle>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

namespace kiln
{
namespace
{

void setRole(QLabel* label, const char* role)
{
  label->setProperty("role", role);
  label->style()->unpolish(label);
  label->style()->polish(label);
}

/// How much of the way to the nearer limit is used up, measured from room temperature or from zero watts.
std::optional<double> usedShare(const WatchFigure& figure)
{
  if (!figure.value || !figure.margin)
    return std::nullopt;
  constexpr double room = 293.15; // K
  const double reference = figure.quantity == Quantity::Temperature ? room : 0;
  const bool upperIsNearer =
      figure.upper && (!figure.lower || *figure.upper - *figure.value <= *figure.value - *figure.lower);
  const double limit = upperIsNearer ? *figure.upper : *figure.lower;
  const double way = std::abs(limit - reference);
  if (way < 1e-9)
    return *figure.margin >= 0 ? 1.0 : 1.1;
  return 1 - *figure.margin / way;
}

} // namespace

WatchCard::WatchCard(Document& document, Preferences& preferences, std::string watchId, QWidget* parent)
    : QFrame(parent), document_(document), preferences_(preferences), watchId_(std::move(watchId)),
      name_(new ElidedLabel), figure_(new QLabel), margin_(new QLabel), place_(new QLabel), times_(new QLabel),
      bar_(new MarginBar), lower_(makeLimitField("lower", tr("lower limit"))),
      upper_(makeLimitField("upper", tr("upper limit")))
{
  setObjectName("card");
  const QString id = QString::fromStdString(watchId_);
  figure_->setObjectName("watchFigure:" + id);
  margin_->setObjectName("watchMargin:" + id);
  place_->setObjectName("watchPlace:" + id);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(10, 7, 10, 8);
  layout->setSpacing(2);
  auto* top = new QHBoxLayout;
  name_->setProperty("role", "quiet");
  name_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // a narrow card cuts it
  top->addWidget(name_, 1);
  auto* edit = new QToolButton;
  setIcon(*edit, "document-edit");
  edit->setToolTip(tr("What it watches, and what it is compared with"));
  edit->setAccessibleName(edit->toolTip());
  edit->setObjectName("editWatch:" + id);
  connect(edit, &QToolButton::clicked, this,
          [this] { (new WatchEditor(document_, preferences_, watchId_, window()))->show(); });
  top->addWidget(edit);
  auto* remove = new QToolButton;
  setIcon(*remove, "list-remove");
  remove->setToolTip(tr("Remove this watch"));
  remove->setAccessibleName(tr("Remove this watch"));
  connect(remove, &QToolButton::clicked, this, [this] {
    document_.edit(tr("Remove watch %1").arg(name_->text()),
                   [&](Project& project) { removeObject(project, watchId_); }); // with the rules that wait for it
  });
  top->addWidget(remove);
  layout->addLayout(top);
  auto* middle = new QHBoxLayout;
  figure_->setProperty("role", "figure");
  middle->addWidget(figure_);
  middle->addStretch();
  middle->addWidget(margin_);
  layout->addLayout(middle);
  layout->addWidget(bar_);
  place_->setProperty("role", "quiet");
  place_->setWordWrap(true);
  layout->addWidget(place_);
  times_->setObjectName("watchTimes:" + id);
  times_->setWordWrap(true);
  layout->addWidget(times_);
  auto* limits = new QHBoxLayout;
  limits->setSpacing(4);
  for (const auto& [word, field] : {std::pair{tr("min"), lower_}, {tr("max"), upper_}}) {
    auto* label = new QLabel(word);
    label->setProperty("role", "quiet");
    label->setBuddy(field);
    limits->addWidget(label);
    limits->addWidget(field, 1);
  }
  layout->addLayout(limits);
  addFigureFields(*layout);
  refresh();
}

/// What a figure needs to know beyond what it watches.
void WatchCard::addFigureFields(QVBoxLayout& layout)
{
  const Watch* watch = findById(document_.project().watches, watchId_);
  if (watch == nullptr)
    return;
  if (const auto* between = std::get_if<BetweenWatches>(&watch->figure))
    addBetween(layout, *between);
  Project walked = document_.shownProject();
  for (const Field& field : fieldsOf(walked, watchId_)) {
    const bool limits = field.key == "upper" || field.key == "lower"; // the card has them
    const bool unset = field.optional != nullptr && !field.optional->has_value();
    if (limits || (unset && field.stage == Stage::Figures)) // its editor has those
      continue;
    auto* row = new QHBoxLayout;
    auto* label = new QLabel(inWords(field.label));
    label->setProperty("role", "quiet");
    row->addWidget(label);
    row->addWidget(new BoundField(document_, preferences_, field), 1);
    layout.addLayout(row);
  }
}

/// Which two temperatures and which heat a resistance is made of.
void WatchCard::addBetween(QVBoxLayout& layout, const BetweenWatches& between)
{
  const auto choice = [&](const QString& word, const char* name, Quantity quantity, std::string BetweenWatches::*end) {
    auto* box = new QComboBox;
    box->setObjectName(QString(name) + ":" + QString::fromStdString(watchId_));
    box->setAccessibleName(word);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    for (const Watch& other : document_.project().watches)
      if (quantityOf(other) == quantity && other.id != watchId_)
        box->addItem(QString::fromStdString(other.name), QString::fromStdString(other.id));
    box->setCurrentIndex(box->findData(QString::fromStdString(between.*end)));
    connect(box, &QComboBox::activated, this, [this, box, end] {
      document_.edit(tr("Watches of a resistance"), [&](Project& project) {
        std::get<BetweenWatches>(findById(project.watches, watchId_)->figure).*end =
            box->currentData().toString().toStdString();
      });
    });
    auto* row = new QHBoxLayout;
    auto* label = new QLabel(word);
    label->setProperty("role", "quiet");
    label->setBuddy(box);
    row->addWidget(label);
    row->addWidget(box, 1);
    layout.addLayout(row);
  };
  choice(tr("from"), "betweenHot", Quantity::Temperature, &BetweenWatches::hot);
  choice(tr("to"), "betweenCold", Quantity::Temperature, &BetweenWatches::cold);
  choice(tr("by"), "betweenHeat", Quantity::Power, &BetweenWatches::heat);
}

QuantityField* WatchCard::makeLimitField(const char* which, const QString& name)
{
  const Watch* watch = findById(document_.project().watches, watchId_);
  const Quantity quantity = watch != nullptr ? quantityOf(document_.shownProject(), *watch) : Quantity::Temperature;
  auto* field = new QuantityField(quantity, Range::Any);
  const std::string path = watchId_ + "." + which;
  field->setObjectName("field:" + QString::fromStdString(path));
  field->setAccessibleName(name);
  field->setToolTip(name);
  field->setOptional(true);
  field->setTemperatureUnit(preferences_.temperatureUnit());
  connect(field, &QuantityField::committed, this,
          [this, path](const Number& number) { document_.setNumber(path, number); });
  connect(field, &QuantityField::said, this, [this](const QString& sentence, bool wrong) {
    if (sentence.isEmpty())
      return refresh();
    place_->setText(sentence);
    setRole(place_, wrong ? "bad" : "quiet");
  });
  connect(field, &QuantityField::cleared, this,
          [this, path] { document_.set(path, std::monostate{}, tr("Clear limit")); });
  return field;
}

QString WatchCard::placeText(const WatchFigure& figure) const
{
  const auto result = document_.shownState().result;
  QString text;
  if (figure.where && result && figure.where->part >= 0) {
    const GeometryPart& part = result->mesh.geometry.parts[static_cast<std::size_t>(figure.where->part)];
    const Part* own = findById(document_.project().parts, part.id);
    text = tr("on %1, %2")
               .arg(QString::fromStdString(own != nullptr ? own->name : part.name),
                    inWords(placeWords(part, figure.where->place)));
  }
  if (!figure.note.empty())
    text += (text.isEmpty() ? "" : " · ") + inWords(figure.note);
  if (figure.value)
    text += text.isEmpty() ? document_.quickLookText().mid(3) : document_.quickLookText();
  return text;
}

void WatchCard::refresh()
{
  const Watch* watch = findById(document_.shownProject().watches, watchId_);
  if (watch == nullptr)
    return;
  const TemperatureUnit unit = preferences_.temperatureUnit();
  name_->setText(QString::fromStdString(watch->name));
  name_->setToolTip(name_->text());
  lower_->setTemperatureUnit(unit);
  upper_->setTemperatureUnit(unit);
  lower_->setNumber(watch->lower);
  upper_->setNumber(watch->upper);
  lower_->setPlaceholderText(tr("none"));
  upper_->setPlaceholderText(tr("none"));

  const CaseState& state = document_.shownState();
  static const std::vector<WatchFigure> none;
  const std::vector<WatchFigure>& now = document_.shownFigures() != nullptr ? document_.shownFigures()->watches : none;
  const auto found = std::find_if(now.begin(), now.end(), [&](const WatchFigure& f) { return f.id == watchId_; });
  const WatchFigure figure = found != now.end() ? *found : WatchFigure{};
  figure_->setText(figure.value ? QString::fromStdString(formatQuantity(*figure.value, figure.quantity, unit)) : "–");
  const bool old = state.stage == CaseState::Stage::OutOfDate;
  figure_->setStyleSheet(old ? "color: " + theme().warning.name() + ";" : QString());
  figure_->setToolTip(old ? tr("Out of date: %1").arg(state.outOfDate) : QString());
  margin_->setText(figure.margin ? QString::fromStdString(formatMargin(*figure.margin, figure.quantity, unit))
                                 : QString());
  margin_->setToolTip(tr("Margin to the nearer limit; positive is safe"));
  setRole(margin_, figure.margin && *figure.margin < 0 ? "bad" : "quiet");
  bar_->setUsed(usedShare(figure));
  place_->setText(!state.result ? tr("not solved yet")
                  : old         ? tr("out of date · ") + placeText(figure)
                                : placeText(figure));
  place_->setVisible(!place_->text().isEmpty());
  setRole(place_, "quiet");
  QStringList more;
  if (const QString words = formulaWords(document_.project(), *watch); !words.isEmpty())
    more << words;
  if (const std::string words = referenceWords(figure, unit); !words.empty())
    more << (agrees(figure) == false ? "✕ " : agrees(figure) == true ? "✓ " : "") + QString::fromStdString(words);
  if (const SureRecord::OfWatch* sure = state.sureOf(watchId_); sure != nullptr && figure.value)
    if (*figure.value == sure->values[1]) // at another instant the usual digits will do
      figure_->setText(QString::fromStdString(figureText(*sure, figure.quantity, unit)));
  if (const SureRecord::OfWatch* sure = state.sureOf(watchId_))
    more << QString::fromStdString(sureText(*sure, figure.quantity));
  if (const QString times = timesText(*watch); !times.isEmpty())
    more << times;
  times_->setText(more.join("\n"));
  times_->setVisible(!times_->text().isEmpty());
}

/// How hot and how long, over the whole run.
QString WatchCard::timesText(const Watch& watch) const
{
  const auto record = document_.shownState().run.record;
  const auto answers = record ? answersOf(*record, watch) : std::nullopt;
  if (!answers)
    return {};
  const TemperatureUnit unit = preferences_.temperatureUnit();
  const auto time = [](double seconds) { return QString::fromStdString(formatQuantity(seconds, Quantity::Time)); };
  const auto value = [&](double kelvin) {
    return QString::fromStdString(formatQuantity(kelvin, quantityOf(document_.shownProject(), watch), unit));
  };
  QStringList lines;
  constexpr double same = 1e-9; // of the value: it never changed
  if (answers->peak.value - answers->trough.value <= same * std::abs(answers->peak.value))
    return {};
  const bool peakAtStart = answers->peak.time <= record->times.front();
  if (!peakAtStart)
    lines << tr("peak %1 after %2").arg(value(answers->peak.value), time(answers->peak.time - record->times.front())) +
                 (answers->peakPassed    ? QString()
                  : answers->stillRising ? tr(", still rising")
                                         : QString());
  else
    lines << tr("falls to %1").arg(value(answers->trough.value)) +
                 (answers->stillFalling ? tr(", still falling") : QString());
  if (answers->crossedUpper && watch.upper)
    lines << tr("over its limit from %1, for %2").arg(time(*answers->crossedUpper), time(answers->aboveUpper));
  if (answers->reached63 && !answers->stillRising && !answers->stillFalling)
    lines << tr("63 % of the change after %1").arg(time(*answers->reached63));
  for (const auto& [id, steady] : record->steadyAfter)
    if (id == watch.id)
      lines << tr("would settle at %1").arg(value(steady));
  if (quantityOf(watch) != Quantity::Temperature)
    return lines.join("\n");
  if (answers->fastestHeating.value > -answers->fastestCooling.value)
    lines << tr("heats by up to %1")
                 .arg(QString::fromStdString(
                     formatQuantity(answers->fastestHeating.value, Quantity::TemperatureRate, unit, 3)));
  else if (answers->fastestCooling.value < 0)
    lines << tr("cools by up to %1")
                 .arg(QString::fromStdString(
                     formatQuantity(-answers->fastestCooling.value, Quantity::TemperatureRate, unit, 3)));
  return lines.join("\n");
}

void WatchCard::mousePressEvent(QMouseEvent* /*event*/)
{
  const Watch* watch = findById(document_.project().watches, watchId_);
  if (watch == nullptr)
    return;
  std::visit(
      [&](const auto& figure) {
        if constexpr (requires { figure.surface; })
          document_.select(figure.surface);
        else if constexpr (requires { figure.parts; })
          document_.select(figure.parts.empty() ? std::string() : figure.parts.front());
        else if constexpr (requires { figure.partA; })
          document_.select(pairId(figure.partA, figure.partB));
      },
      watch->figure);
}

} // namespace kiln
