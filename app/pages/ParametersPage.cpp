// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "pages/ParametersPage.h"

#include "fields/BoundField.h"
#include "fields/KeepFocus.h"
#include "fields/QuantityField.h"
#include "fields/TableEditor.h"
#include "io/ParameterTable.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "model/Edit.h"
#include "model/Parameters.h"
#include "run/TakenFigures.h"

#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QSlider>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr int sliderSteps = 200;

QString words(std::string_view text) { return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size())); }

/// What decides which rows there are; numbers and names are brought up to date in place.
std::string structureOf(const Project& project)
{
  std::string text;
  for (const Parameter& parameter : project.parameters)
    text += parameter.id + ":" + std::to_string(static_cast<int>(parameter.quantity)) +
            std::to_string(parameter.points.size()) + (parameter.schedule ? "t" : "") +
            (parameter.taken ? parameter.taken->ofCase + "." + parameter.taken->watch : std::string()) + ";";
  return text;
}

/// Ends of a slider: those that were set, or half to one and a half of the value.
std::pair<double, double> endsOf(const Parameter& parameter)
{
  const double value = parameter.value.si;
  const double size = value != 0 ? std::abs(value) / 2 : 1;
  return {parameter.low ? parameter.low->si : value - size, parameter.high ? parameter.high->si : value + size};
}

} // namespace

std::vector<std::pair<std::string, QString>> usesOf(const Project& project, const std::string& name)
{
  std::vector<std::pair<std::string, QString>> uses;
  Project copy = project;
  for (const Field& field : fields(copy)) {
    const Number* value = field.value();
    if (value == nullptr || !value->formula)
      continue;
    const std::vector<std::string> names = namesIn(value->text);
    if (std::find(names.begin(), names.end(), name) != names.end())
      uses.emplace_back(field.objectId, inWords(field.objectName) + ", " + inWords(field.label));
  }
  return uses;
}

ParametersPage::ParametersPage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), message_(new QLabel)
{
  setObjectName("parametersPage");
  auto* layout = new QVBoxLayout(this);
  auto* head = new QHBoxLayout;
  auto* title = new QLabel(tr("PARAMETERS"));
  title->setProperty("role", "title");
  head->addWidget(title);
  head->addStretch();
  auto* add = new QPushButton(tr("Add a parameter"));
  add->setObjectName("addParameter");
  connect(add, &QPushButton::clicked, this, &ParametersPage::addParameter);
  head->addWidget(add);
  auto* pasted = new QPushButton(tr("Paste a table"));
  pasted->setObjectName("pasteParameters");
  pasted->setToolTip(
      tr("Two columns copied from a spreadsheet: names, and values with their units; a third one for the "
         "unit, a last one for a note"));
  connect(pasted, &QPushButton::clicked, this, &ParametersPage::paste);
  head->addWidget(pasted);
  auto* points = new QPushButton(tr("Read points from a file…"));
  points->setObjectName("readPoints");
  points->setToolTip(tr("A value measured at places: x, y, z and the value, each with its unit in the first line"));
  connect(points, &QPushButton::clicked, this, &ParametersPage::askForPoints);
  head->addWidget(points);
  layout->addLayout(head);
  auto* scroll = new QScrollArea;
  scroll->setObjectName("parameterScroll");
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  layout->addWidget(scroll, 1);
  message_->setWordWrap(true);
  message_->setObjectName("parameterMessage");
  layout->addWidget(message_);
  QStringList constants;
  for (const NamedConstant& constant : namedConstants())
    constants << words(constant.name) + " " + words(constant.meaning);
  auto* known = new QLabel(tr("Any field takes a formula of these names, for example 2*wall + 5 mm. "
                              "A unit follows its number: 12 W/(m²·K). Known: %1.")
                               .arg(constants.join(", ")));
  known->setProperty("role", "quiet");
  known->setWordWrap(true);
  layout->addWidget(known);
  connect(&document, &Document::projectChanged, this, &ParametersPage::refresh);
  rebuild();
}

void ParametersPage::addParameter()
{
  std::string id;
  document_.edit(tr("Add a parameter"), [&](Project& project) {
    Parameter parameter;
    parameter.quantity = Quantity::Length;
    parameter.value = {0.01, "10 mm", false};
    std::string name = "p1";
    for (int i = 2; badParameterName(project, {}, name); ++i)
      name = "p" + std::to_string(i);
    id = addObject(project, project.parameters, parameter, name);
  });
  if (auto* name = findChild<QLineEdit*>("parameterName:" + QString::fromStdString(id))) {
    name->setFocus(Qt::OtherFocusReason);
    name->selectAll();
  }
}

void ParametersPage::askForPoints()
{
  const QString file = QFileDialog::getOpenFileName(this, tr("Read points from a file"), {},
                                                    tr("Tables (*.csv *.txt *.tsv *.dat);;All files (*)"));
  if (!file.isEmpty())
    addPoints(file);
}

void ParametersPage::addPoints(const QString& file)
{
  const auto table = loadPoints(file.toStdString());
  if (!table)
    return say(inWords(table.error()), true);
  takePoints(*table, QFileInfo(file).fileName());
}

void ParametersPage::paste()
{
  const std::string text = QGuiApplication::clipboard()->text().toStdString();
  if (const auto table = readPoints(text, tr("clipboard").toStdString()))
    return takePoints(*table, tr("clipboard"));
  Project after = document_.project();
  const auto taken = takeParameters(after, text);
  if (!taken)
    return say(inWords(taken.error()), true);
  document_.edit(tr("Paste parameters"), [&](Project& project) { project = after; });
  say(tr("%n parameter(s) taken from the clipboard.", nullptr, static_cast<int>(taken->size())), false);
}

void ParametersPage::keyPressEvent(QKeyEvent* event)
{
  if (event->matches(QKeySequence::Paste))
    return paste();
  QWidget::keyPressEvent(event);
}

void ParametersPage::takePoints(const PointTable& table, const QString& from)
{
  document_.edit(tr("Read points"), [&](Project& project) {
    Parameter parameter;
    parameter.quantity = table.quantity;
    parameter.value = {table.mean(), {}, false};
    parameter.points = table.points;
    parameter.pointsFrom = from.toStdString();
    std::string name = "map";
    for (int i = 2; badParameterName(project, {}, name); ++i)
      name = "map" + std::to_string(i);
    addObject(project, project.parameters, parameter, name);
  });
  say(tr("%n point(s) read. Use the name in a field that may vary in place.", nullptr,
         static_cast<int>(table.points.size())),
      false);
}

void ParametersPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

void ParametersPage::refresh()
{
  const std::string structure = structureOf(document_.project());
  if (structure != structure_)
    return rebuild();
  if (!isVisible())
    return; // brought up to date when it is shown
  for (const Parameter& parameter : document_.project().parameters) {
    const QString id = QString::fromStdString(parameter.id);
    if (auto* name = findChild<QLineEdit*>("parameterName:" + id); name != nullptr && !name->hasFocus())
      name->setText(QString::fromStdString(parameter.name));
    const auto uses = usesOf(document_.project(), parameter.name);
    if (auto* used = findChild<QToolButton*>("uses:" + id))
      used->setText(uses.empty() ? tr("unused") : tr("%n use(s)", nullptr, static_cast<int>(uses.size())));
    if (auto* slider = findChild<QSlider*>("slider:" + id); slider != nullptr && !slider->isSliderDown()) {
      const QSignalBlocker quiet(slider);
      slider->setEnabled(!parameter.value.formula && parameter.points.empty() && !parameter.taken);
      const auto [low, high] = endsOf(parameter);
      slider->setValue(static_cast<int>(std::lround((parameter.value.si - low) / (high - low) * sliderSteps)));
    }
  }
}

void ParametersPage::rebuild()
{
  structure_ = structureOf(document_.project());
  const KeepFocus focus(body_);
  auto* scroll = findChild<QScrollArea*>("parameterScroll");
  if (QWidget* old = scroll->takeWidget()) {
    old->hide();
    old->deleteLater();
  }
  body_ = new QWidget;
  grid_ = new QGridLayout(body_);
  grid_->setContentsMargins(0, 0, 0, 0);
  const QStringList heads{tr("Name"), tr("Kind"), tr("Value or formula"), tr("What if"), tr("Note"), tr("Used"), {}};
  for (int column = 0; column < heads.size(); ++column) {
    auto* label = new QLabel(heads[column]);
    label->setProperty("role", "quiet");
    grid_->addWidget(label, 0, column);
  }
  int row = 1;
  for (const Parameter& parameter : document_.project().parameters)
    addRow(row++, parameter);
  if (row == 1) {
    auto* none = new QLabel(tr("None yet. A parameter is a named value: change it once, and everything that is "
                               "written with it follows."));
    none->setWordWrap(true);
    grid_->addWidget(none, 1, 0, 1, 7);
  }
  grid_->setRowStretch(row + 1, 1);
  grid_->setColumnStretch(2, 2);
  grid_->setColumnStretch(4, 2);
  scroll->setWidget(body_);
  focus.giveTo(body_);
  refresh();
}

void ParametersPage::addRow(int row, const Parameter& parameter)
{
  const std::string id = parameter.id;
  const QString key = QString::fromStdString(id);
  auto* name = new QLineEdit(QString::fromStdString(parameter.name));
  name->setObjectName("parameterName:" + key);
  name->setAccessibleName(tr("Name of the parameter"));
  connect(name, &QLineEdit::editingFinished, this, [this, id, name] { rename(id, name->text().trimmed()); });
  grid_->addWidget(name, row, 0);

  auto* kind = new QComboBox;
  kind->setObjectName("parameterKind:" + key);
  kind->setAccessibleName(tr("Kind of the parameter"));
  for (std::size_t i = 0; i < describing::quantityKinds.size(); ++i) {
    QString text = inWords(quantityName(static_cast<Quantity>(i)));
    kind->addItem(text.mid(text.indexOf(' ') + 1));
  }
  kind->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  kind->setCurrentIndex(static_cast<int>(parameter.quantity));
  connect(kind, &QComboBox::activated, this, [this, id](int index) {
    document_.edit(tr("Kind of a parameter"), [&](Project& project) {
      Parameter* own = findById(project.parameters, id);
      own->quantity = static_cast<Quantity>(index);
      own->value.text = formatQuantity(own->value.si, own->quantity);
      own->value.formula = false;
      own->low.reset();
      own->high.reset();
    });
  });
  grid_->addWidget(kind, row, 1);

  if (!parameter.points.empty()) {
    auto* table = new QLabel(tr("%n point(s) of %1, mean %2", nullptr, static_cast<int>(parameter.points.size()))
                                 .arg(QString::fromStdString(parameter.pointsFrom),
                                      QString::fromStdString(formatQuantity(parameter.value.si, parameter.quantity,
                                                                            preferences_.temperatureUnit(), 4))));
    table->setObjectName("points:" + key);
    table->setWordWrap(true);
    grid_->addWidget(table, row, 2);
  } else if (const Field* field = document_.shownField(id + ".value")) {
    auto* value = new BoundField(document_, preferences_, *field);
    connect(value, &BoundField::said, this, &ParametersPage::say);
    value->setEnabled(!parameter.taken); // it is overwritten whenever its case is solved
    grid_->addWidget(value, row, 2);
  }
  auto* slider = new QSlider(Qt::Horizontal);
  slider->setObjectName("slider:" + key);
  slider->setAccessibleName(tr("What if %1 were").arg(QString::fromStdString(parameter.name)));
  slider->setRange(0, sliderSteps);
  slider->setValue(sliderSteps / 2);
  slider->setEnabled(!parameter.value.formula && !parameter.taken);
  slider->setMinimumWidth(90);
  slider->setTracking(false); // one edit when it is let go
  connect(slider, &QSlider::valueChanged, this, [this, id](int at) { slide(id, at / double(sliderSteps)); });
  grid_->addWidget(slider, row, 3);
  auto* note = new QLineEdit(QString::fromStdString(parameter.comment));
  note->setObjectName("parameterNote:" + key);
  note->setPlaceholderText(tr("note"));
  note->setMinimumWidth(fontMetrics().averageCharWidth() * 16);
  connect(note, &QLineEdit::editingFinished, this, [this, id, note] {
    document_.edit(tr("Note of a parameter"), [&](Project& project) {
      findById(project.parameters, id)->comment = note->text().trimmed().toStdString();
    });
  });
  grid_->addWidget(note, row, 4);
  auto* uses = new QToolButton;
  uses->setObjectName("uses:" + key);
  uses->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(uses);
  connect(menu, &QMenu::aboutToShow, this, [this, menu, id] {
    menu->clear();
    const Parameter* own = findById(document_.project().parameters, id);
    for (const auto& [object, what] : usesOf(document_.project(), own != nullptr ? own->name : std::string()))
      menu->addAction(what, this, [this, object = object] { emit objectWanted(QString::fromStdString(object)); });
  });
  uses->setMenu(menu);
  grid_->addWidget(uses, row, 5);
  auto* schedule = new QToolButton;
  schedule->setObjectName("schedule:" + key);
  schedule->setText(parameter.schedule ? tr("in time ●") : tr("in time…"));
  schedule->setToolTip(tr("Let the value follow a schedule: a table against time"));
  connect(schedule, &QToolButton::clicked, this, [this, id] {
    auto* editor = new TableEditor(document_, preferences_, scheduleOf(document_, id), this);
    editor->setAttribute(Qt::WA_DeleteOnClose);
    editor->open();
  });
  grid_->addWidget(schedule, row, 7);
  grid_->addWidget(takenButton(parameter), row, 8);
  auto* remove = new QToolButton;
  setIcon(*remove, "list-remove");
  remove->setToolTip(tr("Remove the parameter; fields that use it keep their value and are reported"));
  remove->setObjectName("removeParameter:" + key);
  connect(remove, &QToolButton::clicked, this, [this, id] {
    document_.edit(tr("Remove a parameter"), [&](Project& project) { removeObject(project, id); });
  });
  grid_->addWidget(remove, row, 6);
}

/// Which figure of which case the value is, and a menu of all there are.
QWidget* ParametersPage::takenButton(const Parameter& parameter)
{
  const Project& project = document_.project();
  auto* button = new QToolButton;
  button->setObjectName("taken:" + QString::fromStdString(parameter.id));
  button->setPopupMode(QToolButton::InstantPopup);
  button->setToolTip(tr("Let the value be a figure of a case, taken whenever that is solved"));
  const auto nameOf = [](const auto* object) { return object != nullptr ? words(object->name) : tr("nothing"); };
  button->setText(parameter.taken ? tr("%1: %2 ●")
                                        .arg(nameOf(findById(project.cases, parameter.taken->ofCase)),
                                             nameOf(findById(project.watches, parameter.taken->watch)))
                                  : tr("of a case…"));
  auto* menu = new QMenu(button);
  connect(menu, &QMenu::aboutToShow, this, [this, menu, id = parameter.id] { fillTakenMenu(*menu, id); });
  button->setMenu(menu);
  return button;
}

void ParametersPage::fillTakenMenu(QMenu& menu, const std::string& id)
{
  menu.clear();
  const Project& project = document_.project();
  for (const Case& one : project.cases) {
    QMenu* ofCase = menu.addMenu(words(one.name));
    for (const Watch& watch : project.watches) {
      const auto add = [&](QMenu& to, AskedFigure figure, const QString& text) {
        to.addAction(text, this, [this, id, taken = TakenFigure{one.id, watch.id, figure, {}}] { take(id, taken); });
      };
      if (one.kind == Case::Kind::Steady) {
        add(*ofCase, AskedFigure::AtEnd, words(watch.name));
        continue;
      }
      QMenu* ofWatch = ofCase->addMenu(words(watch.name));
      for (std::size_t i = 0; i < describing::askedFigures.size(); ++i)
        add(*ofWatch, static_cast<AskedFigure>(i), inWords(describing::askedFigures[i].label));
    }
  }
  const Parameter* own = findById(project.parameters, id);
  menu.addSeparator();
  QAction* none = menu.addAction(tr("Of none: as it is typed"), this, [this, id] { take(id, std::nullopt); });
  none->setEnabled(own != nullptr && own->taken);
}

void ParametersPage::take(const std::string& id, const std::optional<TakenFigure>& taken)
{
  document_.edit(tr("Take a figure of a case"), [&](Project& project) {
    Parameter* own = findById(project.parameters, id);
    own->taken = taken;
    const Watch* watch = taken ? findById(project.watches, taken->watch) : nullptr;
    if (watch == nullptr)
      return;
    own->quantity = taken->figure == AskedFigure::TimeToLimit ? Quantity::Time : quantityOf(project, *watch);
    own->value.formula = false;
    own->value.text.clear();
    own->low.reset();
    own->high.reset();
  });
  document_.takeFigures();
  const auto of = taken ? findById(document_.project().cases, taken->ofCase) : nullptr;
  const bool known = taken && figureToTake(document_.project(), *taken, document_.resultsFolder());
  say(taken && !known ? tr("Its value is taken when “%1” is solved.").arg(of != nullptr ? words(of->name) : QString())
                      : QString(),
      false);
}

void ParametersPage::rename(const std::string& id, const QString& name)
{
  const Parameter* own = findById(document_.project().parameters, id);
  if (own == nullptr || own->name == name.toStdString())
    return;
  if (const auto bad = badParameterName(document_.project(), id, name.toStdString())) {
    say(QString::fromStdString(*bad) + " " + tr("The old name is kept."), true);
    if (auto* edit = findChild<QLineEdit*>("parameterName:" + QString::fromStdString(id)))
      edit->setText(QString::fromStdString(own->name));
    return;
  }
  say({}, false);
  document_.edit(tr("Rename a parameter"), [&](Project& project) { renameParameter(project, id, name.toStdString()); });
}

void ParametersPage::slide(const std::string& id, double share)
{
  const Parameter* own = findById(document_.project().parameters, id);
  if (own == nullptr)
    return;
  const auto [low, high] = endsOf(*own);
  const double value = low + share * (high - low);
  constexpr int digits = 4;
  const Quantity quantity = own->quantity;
  const std::string text = formatQuantity(value, quantity, TemperatureUnit::Celsius, digits);
  const auto read = parseQuantity(text, quantity);
  const std::pair ends{low, high};
  document_.edit(tr("What if"), [&](Project& project) {
    Parameter* changed = findById(project.parameters, id);
    if (!changed->low) // the slider keeps its ends while it is used
      changed->low = Number{ends.first, {}, false};
    if (!changed->high)
      changed->high = Number{ends.second, {}, false};
    changed->value = {read ? read->si : value, text, false};
  });
}

void ParametersPage::say(const QString& sentence, bool wrong)
{
  message_->setText(sentence);
  message_->setStyleSheet(wrong ? "color: " + theme().bad.name() : QString());
}

} // namespace kiln
