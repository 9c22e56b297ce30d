// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/DifferencePage.h"

#include "fields/FormRows.h"
#include "model/OwnValues.h"
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

QString words(const std::string& text) { return QString::fromStdString(text); }

void setHead(QTableWidget& table, const QStringList& names)
{
  table.setColumnCount(static_cast<int>(names.size()));
  table.setHorizontalHeaderLabels(names);
}

} // namespace

DifferencePage::DifferencePage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), other_(new QComboBox),
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
  all_->setObjectName("comparedAll");
  head->addWidget(all_);
  notes_->setObjectName("comparedNotes");
  notes_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  notes_->setWordWrap(false);
  head->addWidget(notes_, 1);
  const auto button = [&](const QString& text, const QString& tip, auto slot) {
    auto* tool = new QToolButton;
    tool->setText(text);
    tool->setToolTip(tip);
    connect(tool, &QToolButton::clicked, this, slot);
    head->addWidget(tool);
  };
  button(tr("Copy"), tr("Copy both tables for a spreadsheet"),
         [this] { QApplication::clipboard()->setText(tableText(*inputs_, "\t") + "\n" + tableText(*figures_, "\t")); });
  button(tr("CSV…"), tr("Save what came out as comma-separated text"), [this] { saveTable(*figures_); });
  layout->addLayout(head);
  auto* both = new QSplitter(Qt::Horizontal);
  both->addWidget(inputs_);
  both->addWidget(figures_);
  both->setStretchFactor(0, 1);
  both->setStretchFactor(1, 1);
  layout->addWidget(both, 1);
  connect(other_, &QComboBox::activated, this,
          [this] { document_.compareWith(other_->currentData().toString().toStdString()); });
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

/// Every other case; the one that was chosen stays.
void DifferencePage::fillChoice()
{
  const QString chosen = QString::fromStdString(document_.comparedCase());
  other_->clear();
  for (const Case& one : document_.project().cases)
    if (one.id != document_.shownCase())
      other_->addItem(words(one.name), words(one.id));
  other_->setCurrentIndex(std::max(0, other_->findData(chosen)));
}

std::optional<Compared> DifferencePage::sideOf(const std::string& caseId) const
{
  const Case* own = findById(document_.project().cases, caseId);
  if (own == nullptr)
    return std::nullopt;
  auto seen = projectForCase(document_.project(), *own);
  if (!seen)
    return std::nullopt;
  const CaseState& state = document_.state(caseId);
  return Compared{own->name, std::move(*seen), caseId, state.result, state.run.record, state.outOfDate.isEmpty()};
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
  const auto a = sideOf(document_.shownCase());
  const auto b = sideOf(other_->currentData().toString().toStdString());
  if (!a || !b)
    return notes_->setText(tr("There is no other case to compare with: copy this one and change something."));
  if (const auto fit = comparable(*a, *b); !fit)
    return notes_->setText(words(fit.error().sentence()));
  QStringList notes;
  for (const std::string& note : comparisonNotes(*a, *b))
    notes << words(note);
  notes_->setText(notes.join(" "));
  fillInputs(*a, *b);
  fillFigures(*a, *b);
  for (QTableWidget* table : {inputs_, figures_}) {
    table->resizeColumnsToContents();
    table->setSortingEnabled(true);
  }
  figures_->horizontalHeader()->setStretchLastSection(false);
  figures_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch); // numbers stay together
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
    auto* what = new QTableWidgetItem(words(input.label));
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
    name->setToolTip(words(figure.kind));
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
