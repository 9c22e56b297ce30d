// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/FacesPage.h"

#include "base/At.h"
#include "results/FaceFlows.h"
#include "strip/StripTable.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

namespace kiln
{
namespace
{

enum Column { Name, Kind, Area, Ledger, ByFlux, PerArea, ColumnCount };

QString watts(double value) { return QString::fromStdString(formatQuantity(value, Quantity::Power, {}, 4)); }

} // namespace

FacesPage::FacesPage(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), table_(new QTableWidget(0, ColumnCount)), sum_(new QLabel)
{
  setObjectName("facesPage");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 0, 8, 2);
  layout->setSpacing(2);
  auto* head = new QHBoxLayout;
  sum_->setObjectName("facesSum");
  sum_->setProperty("role", "quiet");
  sum_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  head->addWidget(sum_, 1);
  addTableButtons(*head, *table_, "faces");
  layout->addLayout(head);
  dressTable(*table_, "faces", tr("Heat through faces"));
  table_->setHorizontalHeaderLabels(
      {tr("Face"), tr("Kind"), tr("Area"), tr("Heat by the ledger"), tr("By the heat flux"), tr("Mean heat flux")});
  table_->setSortingEnabled(true);
  layout->addWidget(table_, 1);
  connect(table_, &QTableWidget::cellClicked, this, [this](int row, int) {
    document_.lightFaces({FaceId(table_->item(row, Name)->data(Qt::UserRole).toInt())});
  });
  for (auto signal : {&Document::resultChanged, &Document::shownCaseChanged})
    connect(&document, signal, this, [this] {
      if (isVisible())
        refresh();
    });
}

void FacesPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

void FacesPage::refresh()
{
  const auto result = document_.shownState().result;
  if (!result) {
    table_->setRowCount(0);
    filledOf_.reset();
    return sum_->setText(tr("Not solved yet."));
  }
  if (result == filledOf_)
    return;
  fill(*result);
  filledOf_ = result;
}

void FacesPage::fill(const CaseResult& result)
{
  table_->setSortingEnabled(false);
  const std::vector<FaceFlow> flows = faceFlows(result.mesh, result.faceHeat, result.contactHeat, result.flux);
  table_->setRowCount(static_cast<int>(flows.size()));
  double whole = 0;
  double leftOver = 0;
  int row = 0;
  for (const FaceFlow& flow : flows) {
    const Face& face = result.mesh.geometry.faces[at(flow.face)];
    auto* name = new QTableWidgetItem(QString::fromStdString(face.names.empty() ? "–" : face.names.front()));
    name->setData(Qt::UserRole, static_cast<int>(flow.face));
    table_->setItem(row, Name, name);
    table_->setItem(row, Kind,
                    new QTableWidgetItem(flow.besides != 0 ? tr("contact; enters besides: %1").arg(watts(flow.besides))
                                         : face.contact()  ? tr("contact, to the second part")
                                         : flow.insulated  ? tr("insulated: left over")
                                                           : tr("outside, into the part")));
    table_->setItem(
        row, Area, new NumberItem(QString::fromStdString(formatQuantity(flow.area, Quantity::Area, {}, 4)), flow.area));
    table_->setItem(row, Ledger, new NumberItem(watts(flow.ledger), flow.ledger));
    table_->setItem(row, ByFlux, new NumberItem(watts(flow.byFlux), flow.byFlux));
    const double mean = flow.area > 0 ? flow.ledger / flow.area : 0;
    table_->setItem(row, PerArea,
                    new NumberItem(QString::fromStdString(formatQuantity(mean, Quantity::HeatFlux, {}, 4)), mean));
    whole += face.contact() ? flow.besides : flow.ledger;
    if (flow.insulated)
      leftOver = std::max(leftOver, std::abs(flow.byFlux));
    ++row;
  }
  table_->setSortingEnabled(true);
  table_->resizeColumnsToContents();
  QString text =
      tr("Enters through faces: %1 in all; most left over at an insulated face: %2").arg(watts(whole), watts(leftOver));
  if (result.transient)
    text += tr(". At the end of the run.");
  sum_->setText(text);
}

} // namespace kiln
