// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/DifferencePage.h"

#include "cases/CaseElsewhere.h"
#include "fields/FormRows.h"
#include "fields/QuantityField.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "strip/StripTable.h"
#include "strip/TableText.h"

#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QSplitter>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

namespace kiln
{
namespace
{

constexpr int idRole = Qt::UserRole + 1;
const QString elsewhere = "/elsewhere", asked = "/ask"; // no ids of cases

QString words(const std::string& text) { return QString::fromStdString(text); }

void setHead(QTableWidget& table, const QStringList& names)
{
  table.setColumnCount(static_cast<int>(names.size()));
  table.setHorizontalHeaderLabels(names);
}

} // namespace

DifferencePage::DifferencePage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), other_(new QComboBox),
      instantWord_(quietLabel(tr("at"))), instant_(new QuantityField(Quantity::Time, Range::Any)),
      all_(new QCheckBox(tr("also what is equal"))), notes_(quietLabel({})),
      inputs_(makeStripTable("differentInputs", tr("What was set"))),
      figures_(makeStripTable("differentFigures", tr("What came out")))
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 2, 6, 4);
  layout->setSpacing(3);
  auto* head = new QHBoxLayout;
  auto* word = quietLabel(tr("The shown case beside"));
  word->setWordWrap(false);
  head->addWidget(word);
  other_->setObjectName("comparedCase");
  other_->setAccessibleName(tr("Case to compare with"));
  word->setBuddy(other_);
  head->addWidget(other_);
  instantWord_->setWordWrap(false);
  instantWord_->setBuddy(instant_);
  head->addWidget(instantWord_);
  instant_->setObjectName("comparedInstant");
  instant_->setAccessibleName(tr("Instant of the case to compare with"));
  instant_->setToolTip(tr("An instant of its run, such as “2 h”; empty: its end, and in the scene the instant shown"));
  instant_->setPlaceholderText(tr("its end"));
  instant_->setOptional(true);
  constexpr int instantWidth = 90;
  instant_->setMaximumWidth(instantWidth);
  head->addWidget(instant_);
  all_->setObjectName("comparedAll");
  head->addWidget(all_);
  notes_->setObjectName("comparedNotes");
  notes_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  notes_->setWordWrap(false);
  head->addWidget(notes_, 1);
  const auto button = [&](const QString& iconName, const QString& tip, auto slot) {
    auto* tool = new QToolButton;
    tool->setToolTip(tip);
    setIcon(*tool, iconName);
    connect(tool, &QToolButton::clicked, this, slot);
    head->addWidget(tool);
  };
  button("edit-copy", tr("Copy both tables for a spreadsheet"),
         [this] { QApplication::clipboard()->setText(tableText(*inputs_, "\t") + "\n" + tableText(*figures_, "\t")); });
  button("document-export-table", tr("Save what came out as comma-separated text"), [this] { saveTable(*figures_); });
  layout->addLayout(head);
  auto* both = new QSplitter(Qt::Horizontal);
  both->addWidget(inputs_);
  both->addWidget(figures_);
  both->setStretchFactor(0, 2);
  both->setStretchFactor(1, 3);
  both->setSizes({400, 600}); // figures have more columns
  layout->addWidget(both, 1);
  connect(other_, &QComboBox::activated, this, &DifferencePage::choose);
  const auto setInstant = [this](const std::optional<Number>& instant) {
    ComparedChoice choice = document_.compared().choice;
    choice.instant = instant;
    document_.compareWith(choice);
  };
  connect(instant_, &QuantityField::committed, this, [setInstant](const Number& instant) { setInstant(instant); });
  connect(instant_, &QuantityField::cleared, this, [setInstant] { setInstant(std::nullopt); });
  connect(&document, &Document::comparedCaseChanged, this, &DifferencePage::refresh);
  connect(all_, &QCheckBox::toggled, this, &DifferencePage::refresh);
  for (QTableWidget* table : {inputs_, figures_})
    connect(table, &QTableWidget::cellClicked, this, [this, table](int row) { select(*table, row); });
  connect(&document, &Document::resultChanged, this, &DifferencePage::refresh);
  connect(&document, &Document::shownCaseChanged, this, &DifferencePage::refresh);
  connect(&document, &Document::caseStateChanged, this, &DifferencePage::refresh);
  connect(&preferences, &Preferences::unitChanged, this, &DifferencePage::refresh);
}

void DifferencePage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

/// Every other case, what was chosen of another project, and the shown one where it has more than one instant.
void DifferencePage::fillChoice()
{
  const ComparedWith now = document_.compared();
  const QSignalBlocker quiet(other_);
  other_->clear();
  for (const Case& one : document_.project().cases)
    if (one.id != document_.shownCase())
      other_->addItem(words(one.name), words(one.id));
    else if (document_.shownState().run.record)
      other_->addItem(tr("%1 itself, at another instant").arg(words(one.name)), words(one.id));
  if (!now.choice.project.empty())
    other_->addItem(now.name, elsewhere);
  other_->addItem(tr("A case of another project…"), asked);
  other_->setCurrentIndex(now.choice.project.empty() ? std::max(0, other_->findData(words(now.choice.caseId)))
                                                     : other_->findData(elsewhere));
  const bool runs = now.state != nullptr && now.state->run.record != nullptr;
  instant_->setVisible(runs);
  instantWord_->setVisible(runs);
  instant_->setNumber(now.choice.instant);
}

void DifferencePage::choose()
{
  const QString chosen = other_->currentData().toString();
  if (chosen == elsewhere)
    return;
  ComparedChoice choice{chosen.toStdString()};
  if (chosen == asked) {
    const auto other = askForCaseElsewhere(document_, tr("Compare with another project"), window());
    if (!other)
      return fillChoice();
    choice = {other->caseId, other->project};
  }
  if (choice.project.empty() && choice.caseId == document_.shownCase())
    choice.instant = Number{document_.shownState().run.record->times.front(), ""}; // its start, to be changed
  document_.compareWith(choice);
}

/// The shown case; at the playhead where the other stands at an instant of its own.
std::optional<Compared> DifferencePage::shownSide() const
{
  const Case* own = document_.shownCaseObject();
  if (own == nullptr)
    return std::nullopt;
  const CaseState& state = document_.shownState();
  Compared side{own->name,    document_.shownProject(), own->id,
                state.result, state.run.record,         state.outOfDate.isEmpty()};
  if (const auto time = document_.playhead(); time && document_.compared().instant) {
    side.instant = time;
    side.kelvin = document_.shownTemperature();
    side.name += ", " + document_.instantText().toStdString();
  }
  return side;
}

std::optional<Compared> DifferencePage::otherSide() const
{
  const ComparedWith other = document_.compared();
  if (other.own == nullptr)
    return std::nullopt;
  auto seen = document_.comparedProject();
  if (!seen)
    return std::nullopt;
  Compared side{other.name.toStdString(), std::move(*seen),        other.own->id,
                other.state->result,      other.state->run.record, other.state->outOfDate.isEmpty()};
  if (other.instant) {
    side.instant = other.instant;
    side.kelvin = document_.comparedSide().kelvin;
  }
  return side;
}

void DifferencePage::refresh()
{
  if (!isVisible())
    return;
  fillChoice();
  for (QTableWidget* table : {inputs_, figures_}) {
    table->setSortingEnabled(false);
    table->setRowCount(0);
  }
  notes_->clear();
  const auto a = shownSide();
  const auto b = otherSide();
  if (const QString problem = document_.compared().problem; !problem.isEmpty())
    return notes_->setText(problem);
  if (!a || !b)
    return notes_->setText(tr("There is no other case to compare with: copy this one and change something."));
  if (const auto fit = comparable(*a, *b); !fit)
    return notes_->setText(inWords(fit.error()));
  QStringList notes;
  for (const std::string& note : comparisonNotes(*a, *b))
    notes << inWords(note);
  notes_->setText(notes.join(" "));
  fillInputs(*a, *b);
  fillFigures(*a, *b);
  for (QTableWidget* table : {inputs_, figures_}) {
    table->resizeColumnsToContents();
    table->setSortingEnabled(true);
  }
  for (QTableWidget* table : {inputs_, figures_}) { // numbers stay together, and no bar is needed below
    table->horizontalHeader()->setStretchLastSection(false);
    table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  }
}

void DifferencePage::fillInputs(const Compared& a, const Compared& b)
{
  setHead(*inputs_, {tr("What was set"), words(a.name), words(b.name)});
  inputs_->horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
  for (const ComparedInput& input : compareInputs(a, b, preferences_.temperatureUnit())) {
    if (!input.differs() && !all_->isChecked())
      continue;
    const int row = inputs_->rowCount();
    inputs_->insertRow(row);
    auto* what = new QTableWidgetItem(inWords(input.label));
    what->setData(idRole, words(input.path.substr(0, input.path.find('.'))));
    what->setToolTip(words(input.path));
    inputs_->setItem(row, 0, what);
    inputs_->setItem(row, 1, new QTableWidgetItem(input.a.empty() ? "–" : words(input.a)));
    inputs_->setItem(row, 2, new QTableWidgetItem(input.b.empty() ? "–" : words(input.b)));
  }
}

void DifferencePage::fillFigures(const Compared& a, const Compared& b)
{
  setHead(*figures_, {tr("What came out"), words(a.name), words(b.name), tr("Difference"), tr("%")});
  figures_->horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
  constexpr double none = -1e300;
  constexpr int digits = 4;
  const auto cell = [&](const std::optional<double>& value, Quantity quantity) {
    return new NumberItem(value ? words(formatQuantity(*value, quantity, preferences_.temperatureUnit(), digits))
                                : QString("–"),
                          value.value_or(none));
  };
  for (const ComparedFigure& figure : compareFigures(a, b)) {
    const auto difference = figure.difference();
    if (!all_->isChecked() && difference && *difference == 0)
      continue;
    const int row = figures_->rowCount();
    figures_->insertRow(row);
    auto* name = new QTableWidgetItem(words(figure.name));
    name->setData(idRole, words(figure.id));
    name->setToolTip(inWords(figure.kind));
    figures_->setItem(row, 0, name);
    figures_->setItem(row, 1, cell(figure.a, figure.quantity));
    figures_->setItem(row, 2, cell(figure.b, figure.quantity));
    figures_->setItem(
        row, 3,
        cell(difference, figure.quantity == Quantity::Temperature ? Quantity::TemperatureStep : figure.quantity));
    const auto share = figure.share();
    figures_->setItem(
        row, 4,
        new NumberItem(share ? QString::number(*share * 100, 'f', 2).replace('-', QChar(0x2212)) : QString(),
                       share.value_or(none)));
  }
}

/// What a row is of lights up and opens.
void DifferencePage::select(const QTableWidget& table, int row)
{
  if (const QTableWidgetItem* item = table.item(row, 0))
    document_.select(item->data(idRole).toString().toStdString());
}

} // namespace kiln
