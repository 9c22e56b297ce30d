// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/LinePage.h"

#include "fields/BoundField.h"
#include "fields/FormRows.h"
#include "io/AtomicFile.h"
#include "io/Export.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "results/EdgeProfile.h"
#include "results/ResultFields.h"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMessageBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

/// A place along the line, in the unit shown.
double alongShown(double metres) { return toDisplay(metres, Quantity::Length); }

Number lengthNumber(double metres) { return {metres, formatQuantity(metres, Quantity::Length, {}, 6), false}; }

Number3 placeNumber(const Vec3& place)
{
  return {lengthNumber(place.x()), lengthNumber(place.y()), lengthNumber(place.z())};
}

Vec3 placeOf(const Number3& numbers) { return {numbers.x.si, numbers.y.si, numbers.z.si}; }

QColor pinColor(std::size_t index)
{
  static const std::vector<QColor> colors{QColor(86, 140, 190), QColor(120, 160, 90), QColor(170, 120, 170),
                                          QColor(190, 150, 70)};
  return colors[index % colors.size()];
}

} // namespace

LinePage::LinePage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), lines_(new QComboBox), quantity_(new QComboBox),
      pin_(new QToolButton), empty_(new QLabel), chart_(new LineChart)
{
  setObjectName("linePage");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 0, 8, 2);
  layout->setSpacing(2);
  auto* head = new QHBoxLayout;
  head->setSpacing(4);
  buildHead(*head);
  layout->addLayout(head);
  layout->addWidget(fields_); // in a row of their own: the window may be narrow
  empty_->setProperty("role", "quiet");
  empty_->setAlignment(Qt::AlignCenter);
  empty_->setWordWrap(true);
  layout->addWidget(empty_, 1);
  chart_->setObjectName("lineChart");
  chart_->setAccessibleName(tr("Values along the line"));
  layout->addWidget(chart_, 1);
  connect(&document, &Document::projectChanged, this, [this] {
    rebuildLines();
    refresh();
  });
  connect(&document, &Document::resultChanged, this, &LinePage::refresh);
  connect(&document, &Document::instantMoved, this, [this] {
    if (isVisible())
      refresh();
  });
  connect(&document, &Document::shownCaseChanged, this, &LinePage::refresh);
  rebuildLines();
  refresh();
}

void LinePage::buildHead(QHBoxLayout& head)
{
  lines_->setObjectName("lines");
  lines_->setAccessibleName(tr("Line"));
  lines_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
  head.addWidget(lines_);
  connect(lines_, &QComboBox::activated, this, [this] {
    lineId_ = lines_->currentData().toString().toStdString();
    rebuildFields();
    refresh();
  });
  const auto button = [&](const QString& iconName, const QString& tip, const char* name, auto&& action) {
    auto* tool = new QToolButton;
    tool->setToolTip(tip);
    setIcon(*tool, iconName);
    tool->setAccessibleName(tip);
    tool->setObjectName(name);
    connect(tool, &QToolButton::clicked, this, action);
    head.addWidget(tool);
    return tool;
  };
  button("list-add", tr("Lay a line through the model"), "newLine", [this] { showAddMenu(); });
  button("list-remove", tr("Remove this line"), "removeLine", [this] {
    document_.edit(tr("Remove a line"), [&](Project& project) {
      std::erase_if(project.lines, [&](const Line& one) { return one.id == lineId_; });
    });
  });
  fields_ = new QWidget;
  head.addStretch();
  quantity_->setObjectName("lineQuantity");
  quantity_->setAccessibleName(tr("What is shown"));
  quantity_->addItems({tr("Temperature"), tr("Heat flux along it"), tr("Difference to the first pinned")});
  connect(quantity_, &QComboBox::activated, this, &LinePage::refresh);
  head.addWidget(quantity_);
  setIcon(*pin_, "pin");
  pin_->setObjectName("linePin");
  pin_->setToolTip(tr("Keep this instant's curve beside what comes; once more to let all go"));
  pin_->setAccessibleName(pin_->toolTip());
  connect(pin_, &QToolButton::clicked, this, &LinePage::pin);
  head.addWidget(pin_);
  instants_ = new QLineEdit;
  instants_->setObjectName("lineInstants");
  instants_->setPlaceholderText(tr("10 min, 1 h"));
  instants_->setToolTip(tr("Pin these instants of the run: times, “every 5” stored ones, “marks”; Enter"));
  instants_->setAccessibleName(tr("Instants to pin"));
  constexpr int characters = 12;
  instants_->setFixedWidth(fontMetrics().averageCharWidth() * characters);
  connect(instants_, &QLineEdit::returnPressed, this, &LinePage::pinTyped);
  head.addWidget(instants_);
  button("edit-copy", tr("Copy the values (Ctrl+C)"), "lineCopy", [this] { copy(); });
  button("document-export-table", tr("Save the values as comma-separated text"), "lineCsv", [this] { saveCsv(); });
}

const Line* LinePage::line() const { return findById(document_.project().lines, lineId_); }

bool LinePage::showsFlux() const { return quantity_->currentIndex() == 1; }

bool LinePage::showsDifference() const { return quantity_->currentIndex() == 2 && !pinned_.empty(); }

void LinePage::addLine(const Vec3& from, const Vec3& to)
{
  document_.edit(tr("Add a line"), [&](Project& project) {
    Line added;
    added.from = placeNumber(from);
    added.to = placeNumber(to);
    lineId_ = addObject(project, project.lines, added, freeName(project, "Line"));
  });
  rebuildLines();
  refresh();
}

void LinePage::addEdge(const std::vector<std::string>& faces, const Vec3& near)
{
  if (faces.size() != 2)
    return;
  document_.edit(tr("Add an edge"), [&](Project& project) {
    Line added;
    added.faces = faces;
    added.from = added.to = placeNumber(near);
    lineId_ = addObject(project, project.lines, added, freeName(project, "Edge"));
  });
  rebuildLines();
  refresh();
}

void LinePage::showLine(const std::string& lineId)
{
  lineId_ = lineId;
  rebuildLines();
  refresh();
}

/// Lines from end to end of the model, through its hottest place or its middle.
void LinePage::showAddMenu()
{
  const auto mesh = document_.shownMesh();
  if (!mesh || mesh->nodes.empty())
    return;
  Vec3 low = mesh->placeOf(NodeId(0));
  Vec3 high = low;
  for (const Vec3& node : mesh->nodes) {
    low = low.cwiseMin(node);
    high = high.cwiseMax(node);
  }
  std::vector<std::pair<QString, Vec3>> places;
  if (const ShownFigures* figures = document_.shownFigures(); figures != nullptr && !figures->parts.empty()) {
    const auto hottest = std::max_element(figures->parts.begin(), figures->parts.end(),
                                          [](auto& a, auto& b) { return a.hottest.value < b.hottest.value; });
    places.emplace_back(tr("through the hottest place"), hottest->hottest.place);
  }
  places.emplace_back(tr("through the middle"), (low + high) / 2);
  auto* menu = new QMenu(this);
  menu->setObjectName("newLineMenu");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  menu->addAction(tr("Between two places clicked in the scene"), this, [this] { emit placesWanted(); });
  menu->addAction(tr("Along an edge clicked in the scene"), this, [this] { emit edgeWanted(); });
  menu->addSeparator();
  for (const auto& [name, place] : places)
    for (int axis = 2; axis >= 0; --axis) {
      Vec3 from = place;
      Vec3 to = place;
      from[axis] = low[axis];
      to[axis] = high[axis];
      menu->addAction(tr("Along %1, %2").arg(QString("xyz")[axis]).arg(name), this,
                      [this, from = from, to = to] { addLine(from, to); });
    }
  auto* tool = findChild<QToolButton*>("newLine");
  menu->popup(tool->mapToGlobal(QPoint(0, tool->height())));
}

void LinePage::rebuildLines()
{
  const std::vector<Line>& lines = document_.project().lines;
  if (line() == nullptr)
    lineId_ = lines.empty() ? std::string() : lines.back().id;
  lines_->clear();
  for (const Line& one : lines)
    lines_->addItem(QString::fromStdString(one.name), QString::fromStdString(one.id));
  lines_->setCurrentIndex(lines_->findData(QString::fromStdString(lineId_)));
  lines_->setVisible(!lines.empty());
  rebuildFields();
}

/// The two ends, as six small fields that follow the document.
void LinePage::rebuildFields()
{
  static const QStringList labels{tr("from"), "", "", tr("to"), "", ""};
  const QString shown = fields_->property("line").toString();
  if (line() != nullptr && shown == QString::fromStdString(lineId_))
    return;
  auto* fresh = new QWidget;
  fresh->setProperty("line", QString::fromStdString(lineId_));
  auto* row = new QHBoxLayout(fresh);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(2);
  if (line() != nullptr) {
    if (!line()->faces.empty())
      row->addWidget(quietLabel(
          tr("the edge between %1 and %2")
              .arg(QString::fromStdString(line()->faces.front()), QString::fromStdString(line()->faces.back()))));
    Project walked = document_.shownProject();
    if (!line()->faces.empty())
      walked.lines.clear(); // an edge has no ends to type
    int i = 0;
    for (const Field& field : fields(walked)) {
      if (!field.path.starts_with(lineId_ + "."))
        continue;
      if (!labels[i].isEmpty())
        row->addWidget(quietLabel(labels[i]));
      auto* edit = new BoundField(document_, preferences_, field);
      constexpr int characters = 10;
      edit->setFixedWidth(fontMetrics().averageCharWidth() * characters);
      row->addWidget(edit);
      ++i;
    }
  }
  row->addStretch();
  layout()->replaceWidget(fields_, fresh);
  fields_->hide();
  fields_->deleteLater();
  fields_ = fresh;
}

std::vector<Vec3> LinePage::placesOf(const Line& line) const
{
  if (line.faces.empty())
    return {placeOf(line.from), placeOf(line.to)};
  std::vector<Vec3> places;
  if (const auto mesh = document_.shownMesh())
    for (const NodeId node : edgePath(*mesh, line.faces, placeOf(line.from)))
      places.push_back(mesh->placeOf(node));
  return places;
}

void LinePage::announceLine()
{
  const Line* shown = isVisible() ? findById(document_.shownProject().lines, lineId_) : nullptr;
  if (shown != nullptr)
    emit lineShown(placesOf(*shown));
  else
    emit lineShown({});
}

void LinePage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

void LinePage::hideEvent(QHideEvent* event)
{
  QWidget::hideEvent(event);
  emit lineShown({});
}

void LinePage::refresh()
{
  announceLine();
  findChild<QToolButton*>("removeLine")->setVisible(line() != nullptr);
  pieces_.clear();
  const auto result = document_.shownState().result;
  const auto temperature = document_.shownTemperature();
  if (line() != nullptr && result && temperature)
    if (const Line* shown = findById(document_.shownProject().lines, lineId_)) {
      const bool atEnd = !document_.shownFigures() || document_.shownFigures()->atEnd;
      std::vector<Vec3> flux;
      if (showsFlux() && !atEnd)
        flux = elementFlux(document_.shownProject(), *result, *temperature);
      else if (atEnd)
        flux = result->flux;
      const Vec3 from = placeOf(shown->from);
      pieces_ = shown->faces.empty()
                    ? lineProfile(result->mesh, result->unknowns, *temperature, flux, from, placeOf(shown->to))
                    : edgeProfile(result->mesh, result->unknowns, *temperature, flux, shown->faces,
                                  edgePath(result->mesh, shown->faces, from));
    }
  const bool any = !pieces_.empty();
  empty_->setVisible(!any);
  chart_->setVisible(any);
  pin_->setEnabled(any || !pinned_.empty());
  empty_->setText(!result                  ? tr("Solve the case to see values along a line.")
                  : line() == nullptr      ? tr("Lay a line through the model: New line.")
                  : !line()->faces.empty() ? tr("This edge is not in the mesh.")
                                           : tr("This line passes no part."));
  if (!any)
    return;
  std::vector<LineChart::Curve> curves;
  const auto shownOf = [this](const std::vector<LinePiece>& pieces) {
    return showsDifference() ? lessProfile(pieces, pinned_.front().pieces) : pieces;
  };
  for (std::size_t i = showsDifference() ? 1 : 0; i < pinned_.size(); ++i)
    curves.push_back({pinned_[i].name, pinColor(i), 1.2, curveOf(shownOf(pinned_[i].pieces))});
  const QString name = document_.caseAndInstant();
  curves.push_back(
      {showsDifference() ? name + " − " + pinned_.front().name : name, theme().accent, 2.2, curveOf(shownOf(pieces_))});
  std::vector<LineChart::Border> marks = borders();
  if (quantity_->currentIndex() == 0)
    for (LineChart::Border& mark : limitMarks())
      marks.push_back(std::move(mark));
  const std::string up = displayUnit(quantityShown(), preferences_.temperatureUnit());
  chart_->show(std::move(curves), std::move(marks),
               tr("%1 along the line").arg(QString::fromStdString(displayUnit(Quantity::Length))),
               QString::fromStdString(up));
}

Quantity LinePage::quantityShown() const
{
  return showsFlux() ? Quantity::HeatFlux : showsDifference() ? Quantity::TemperatureStep : Quantity::Temperature;
}

/// A jump between pieces is a vertical stroke, an empty stretch is left open.
std::vector<QPolygonF> LinePage::curveOf(const std::vector<LinePiece>& pieces) const
{
  const TemperatureUnit unit = preferences_.temperatureUnit();
  const Quantity quantity = quantityShown();
  std::vector<QPolygonF> curve;
  double before = -1;
  for (const LinePiece& piece : pieces) {
    constexpr double gap = 1e-6; // m
    if (curve.empty() || piece.from > before + gap)
      curve.emplace_back();
    const auto add = [&](double at, double value) {
      curve.back() << QPointF(alongShown(at), toDisplay(value, quantity, unit));
    };
    add(piece.from, showsFlux() ? piece.flux : piece.temperatureFrom);
    add(piece.to, showsFlux() ? piece.flux : piece.temperatureTo);
    before = piece.to;
  }
  return curve;
}

/// Where a part begins or ends; its name once, where there is room.
std::vector<LineChart::Border> LinePage::borders() const
{
  std::vector<LineChart::Border> borders;
  const auto result = document_.shownState().result;
  PartId part{};
  double last = pieces_.front().from;
  double named = -1e300; // where the latest name stands
  for (const LinePiece& piece : pieces_) {
    if (piece.part != part || piece.from > last + 1e-6) {
      const bool room = piece.from - named > 0.05 * (pieces_.back().to - pieces_.front().from);
      const std::string& name = result->mesh.geometry.parts[static_cast<std::size_t>(piece.part)].name;
      borders.push_back({alongShown(piece.from), room ? QString::fromStdString(name) : QString()});
      named = room ? piece.from : named;
    }
    part = piece.part;
    last = piece.to;
  }
  borders.push_back({alongShown(last), {}});
  return borders;
}

QString LinePage::tableText(const QString& separator) const
{
  const TemperatureUnit unit = preferences_.temperatureUnit();
  const auto result = document_.shownState().result;
  const auto number = [](double value) { return QString::fromStdString(plainNumber(value)); };
  QStringList rows{
      QStringList{tr("Distance, %1").arg(QString::fromStdString(displayUnit(Quantity::Length))), tr("Part"),
                  tr("Temperature, %1").arg(QString::fromStdString(displayUnit(Quantity::Temperature, unit))),
                  tr("Heat flux along it, W/m²")}
          .join(separator)};
  for (const LinePiece& piece : pieces_) {
    const std::string name = result->mesh.geometry.parts[static_cast<std::size_t>(piece.part)].name;
    const QString part = QString::fromStdString(separator == "," ? csvField(name) : name);
    for (const auto& [at, kelvin] : {std::pair{piece.from, piece.temperatureFrom}, {piece.to, piece.temperatureTo}})
      rows << QStringList{number(alongShown(at)), part, number(toDisplay(kelvin, Quantity::Temperature, unit)),
                          number(piece.flux)}
                  .join(separator);
  }
  return rows.join("\n") + "\n";
}

void LinePage::copy() { QApplication::clipboard()->setText(tableText("\t")); }

void LinePage::saveCsv()
{
  const QString file =
      QFileDialog::getSaveFileName(this, tr("Save the values"), {}, tr("Comma-separated text (*.csv)"));
  if (file.isEmpty())
    return;
  if (auto written = writeAtomically(file.toStdString(), tableText(",").toStdString()); !written)
    QMessageBox::warning(this, tr("Not saved"), inWords(written.error()));
}

} // namespace kiln
