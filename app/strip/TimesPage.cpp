// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/TimesPage.h"

#include "cases/RunEditors.h"
#include "fields/QuantityField.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "results/Figures.h"
#include "strip/StripTable.h"
#include "strip/TableText.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

enum Column { Name, Kind, Start, Peak, PeakAt, After63, After95, Settled, Heating, Cooling, Spread, ColumnCount };

QString timeText(double seconds) { return QString::fromStdString(formatQuantity(seconds, Quantity::Time, {}, 4)); }

} // namespace

TimesPage::TimesPage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), table_(new QTableWidget(0, ColumnCount)),
      band_(new QuantityField(Quantity::TemperatureStep, Range::Positive)), empty_(new QLabel)
{
  setObjectName("timesPage");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 0, 8, 2);
  layout->setSpacing(2);
  auto* head = new QHBoxLayout;
  auto* label = new QLabel(tr("Settled: from when on it stays within"));
  label->setProperty("role", "quiet");
  label->setBuddy(band_);
  head->addWidget(label);
  band_->setObjectName("settleBand");
  band_->setAccessibleName(tr("Band around the last value that counts as settled"));
  band_->setPlaceholderText(tr("1 % of the change"));
  band_->setOptional(true);
  constexpr int characters = 18;
  band_->setFixedWidth(fontMetrics().averageCharWidth() * characters);
  head->addWidget(band_);
  auto* after = new QLabel(tr("of its last value. All times count from the start of the run."));
  after->setProperty("role", "quiet");
  after->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // a narrow window cuts it first
  after->setToolTip(after->text());
  head->addWidget(after, 1);
  addTableButtons(*head, *table_, "times");
  layout->addLayout(head);
  empty_->setProperty("role", "quiet");
  empty_->setAlignment(Qt::AlignCenter);
  layout->addWidget(empty_, 1);
  dressTable(*table_, "times", tr("How long and how hot"));
  table_->horizontalHeader()->setStretchLastSection(false);
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch); // no bar below: long heads take two lines
  table_->horizontalHeader()->setDefaultAlignment(static_cast<Qt::Alignment>(
      static_cast<int>(Qt::AlignLeft) | static_cast<int>(Qt::AlignVCenter) | static_cast<int>(Qt::TextWordWrap)));
  table_->setHorizontalHeaderLabels({tr("Name"), tr("Kind"), tr("Start"), tr("Peak"), tr("Peak after"),
                                     tr("63.2 % after"), tr("95 % after"), tr("Settled after"), tr("Fastest heating"),
                                     tr("Fastest cooling"), tr("Largest spread")});
  layout->addWidget(table_, 1);
  connect(table_, &QTableWidget::itemClicked, this, [this](const QTableWidgetItem* item) {
    if (const QVariant instant = item->data(Qt::UserRole); instant.isValid())
      document_.setPlayhead(instant.toDouble());
  });
  connect(band_, &QuantityField::committed, this, [this](const Number& number) { setBand(number); });
  connect(band_, &QuantityField::cleared, this, [this] { setBand({}); });
  connect(&document, &Document::projectChanged, this, &TimesPage::refresh);
  connect(&document, &Document::resultChanged, this, &TimesPage::refresh);
  connect(&document, &Document::runChanged, this, &TimesPage::refresh);
  connect(&document, &Document::shownCaseChanged, this, &TimesPage::refresh);
  connect(&preferences, &Preferences::unitChanged, this, &TimesPage::refresh);
  refresh();
}

void TimesPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

void TimesPage::setBand(const Number& band)
{
  document_.edit(tr("Settled within"), [&](Project& project) {
    Case* own = findById(project.cases, document_.shownCase());
    if (own == nullptr || own->kind != Case::Kind::Transient)
      return;
    if (!own->run)
      own->run = usualRun();
    own->run->settleBand = band.si > 0 ? std::optional(band) : std::nullopt;
  });
}

void TimesPage::refresh()
{
  if (!isVisible())
    return; // brought up to date when it is shown
  const Case* shown = document_.shownCaseObject();
  band_->setNumber(shown != nullptr && shown->run ? shown->run->settleBand : std::nullopt);
  const auto run = document_.shownState().run.record;
  const bool any = run && run->times.size() > 1;
  empty_->setVisible(!any);
  table_->setVisible(any);
  empty_->setText(shown != nullptr && shown->kind == Case::Kind::Transient
                      ? tr("Solve the case to see how long it takes.")
                      : tr("This case is steady: nothing takes time."));
  if (any)
    fill();
}

void TimesPage::fill()
{
  const auto run = document_.shownState().run.record;
  const Project& project = document_.shownProject();
  const Case* shown = document_.shownCaseObject();
  const auto band = shown->run && shown->run->settleBand ? std::optional(shown->run->settleBand->si) : std::nullopt;
  table_->setRowCount(0);
  locatePlaces(*run);
  const std::vector<PartInTime> parts = partsInTime(*run, band);
  addWhole(*run, parts);
  for (const PartInTime& part : parts) {
    const Part* own = findById(project.parts, part.id);
    const int row = addRow(QString::fromStdString(own != nullptr ? own->name : part.id), tr("part, hottest"));
    addAnswers(row, part.hottest);
    addRate(row, Heating, part.fastestHeating, placeIn(part.id, part.fastestHeating.place));
    addRate(row, Cooling, part.fastestCooling, placeIn(part.id, part.fastestCooling.place));
    set(row, Spread,
        tr("%1 after %2")
            .arg(QString::fromStdString(formatQuantity(part.spread.value, Quantity::TemperatureStep, {}, 3)),
                 timeText(part.spread.time - run->times.front())),
        part.spread.time);
  }
  for (const Watch& watch : project.watches)
    if (const auto answers = answersOf(*run, watch, band); answers && quantityOf(watch) == Quantity::Temperature) {
      const int row = addRow(QString::fromStdString(watch.name), tr("watch"));
      addAnswers(row, *answers);
      addRate(row, Heating, answers->fastestHeating, placeOf(answers->fastestHeating.place));
      addRate(row, Cooling, answers->fastestCooling, placeOf(answers->fastestCooling.place));
    }
}

/// The whole model settles with its last part.
void TimesPage::addWhole(const RunRecord& run, const std::vector<PartInTime>& parts)
{
  const int row = addRow(tr("Everything"), tr("whole model"));
  if (const auto settled = allSettled(parts))
    set(row, Settled, timeText(*settled), run.times.front() + *settled);
  else
    set(row, Settled, tr("not yet"));
  const auto place = [&](const PartInTime& part, const TimedValue& rate) {
    const Part* own = findById(document_.shownProject().parts, part.id);
    return (own != nullptr ? QString::fromStdString(own->name) + ", " : QString()) + placeIn(part.id, rate.place);
  };
  const auto heating = std::max_element(parts.begin(), parts.end(), [](const PartInTime& a, const PartInTime& b) {
    return a.fastestHeating.value < b.fastestHeating.value;
  });
  const auto cooling = std::min_element(parts.begin(), parts.end(), [](const PartInTime& a, const PartInTime& b) {
    return a.fastestCooling.value < b.fastestCooling.value;
  });
  if (parts.empty())
    return;
  addRate(row, Heating, heating->fastestHeating, place(*heating, heating->fastestHeating));
  addRate(row, Cooling, cooling->fastestCooling, place(*cooling, cooling->fastestCooling));
}

void TimesPage::addAnswers(int row, const RunAnswers& answers)
{
  const double begun = document_.shownState().run.record->times.front();
  set(row, Start, temperature(answers.start), begun);
  QString peak = temperature(answers.peak.value);
  if (answers.stillRising)
    peak += tr(", still rising");
  set(row, Peak, peak, answers.peak.time);
  set(row, PeakAt, timeText(answers.peak.time - begun), answers.peak.time);
  const auto setAfter = [&](int column, const std::optional<double>& after) {
    if (after)
      set(row, column, timeText(*after), begun + *after);
  };
  setAfter(After63, answers.reached63);
  setAfter(After95, answers.reached95);
  if (answers.stillRising || answers.stillFalling)
    set(row, Settled, tr("not yet"));
  else
    setAfter(Settled, answers.settled);
}

void TimesPage::addRate(int row, int column, const TimedValue& rate, const QString& place)
{
  constexpr double nothing = 1e-6; // K/s, rounding of what stands still
  if (std::abs(rate.value) < nothing)
    return;
  QString text = QString::fromStdString(formatQuantity(rate.value, Quantity::TemperatureRate, {}, 3));
  if (!place.isEmpty())
    text += ", " + place;
  set(row, column, text, rate.time);
}

/// Where in a part a node lies.
QString TimesPage::placeIn(const std::string& part, NodeId node) const
{
  const auto result = document_.shownState().result;
  const PartId index = result ? result->mesh.geometry.partIndex(part) : noPart;
  if (index == noPart || node < 0 || static_cast<std::size_t>(node) >= result->mesh.nodes.size())
    return {};
  return inWords(placeWords(result->mesh.geometry.parts[static_cast<std::size_t>(index)], result->mesh.placeOf(node)));
}

/// Where the place of a watch lies, with its part.
QString TimesPage::placeOf(NodeId node) const
{
  const auto result = document_.shownState().result;
  if (!result || node < 0 || static_cast<std::size_t>(node) >= result->mesh.nodes.size())
    return {};
  const auto found = partOfNode_.find(node);
  if (found == partOfNode_.end())
    return {};
  const GeometryPart& part = result->mesh.geometry.parts[static_cast<std::size_t>(found->second)];
  return QString::fromStdString(part.name) + ", " + inWords(placeWords(part, result->mesh.placeOf(node)));
}

/// Which part the places of watches lie in, in one pass over the mesh.
void TimesPage::locatePlaces(const RunRecord& run)
{
  partOfNode_.clear();
  for (const RunTrace& trace : run.traces)
    if (trace.kind == RunTrace::Kind::WatchPlace)
      for (const double node : trace.values)
        partOfNode_.emplace(NodeId(std::lround(node)), noPart);
  const auto result = document_.shownState().result;
  for (std::size_t t = 0; result && t < result->mesh.tets.size(); ++t)
    for (const NodeId node : result->mesh.tets[t])
      if (const auto found = partOfNode_.find(node); found != partOfNode_.end())
        found->second = result->mesh.tetPart[t];
  std::erase_if(partOfNode_, [](const auto& one) { return one.second == noPart; });
}

QString TimesPage::temperature(double kelvin) const
{
  return QString::fromStdString(formatQuantity(kelvin, Quantity::Temperature, preferences_.temperatureUnit()));
}

int TimesPage::addRow(const QString& name, const QString& kind)
{
  const int row = table_->rowCount();
  table_->insertRow(row);
  set(row, Name, name);
  set(row, Kind, kind);
  return row;
}

void TimesPage::set(int row, int column, const QString& text, std::optional<double> instant)
{
  auto* item = new QTableWidgetItem(text);
  if (instant) {
    item->setData(Qt::UserRole, *instant);
    item->setToolTip(tr("Click to go there"));
  }
  table_->setItem(row, column, item);
}

} // namespace kiln
