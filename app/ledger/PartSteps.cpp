// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The steps of a part's shape in its editor.
#include "fields/OutlineEditor.h"
#include "fields/SwitchButton.h"
#include "ledger/NewObjects.h"
#include "ledger/PartEditor.h"
#include "ledger/RowEditor.h"
#include "look/Icons.h"
#include "model/Edit.h"

#include <QFormLayout>
#include <QLineEdit>
#include <QMenu>
#include <QTimer>
#include <QToolButton>
#include <algorithm>

namespace kiln
{
namespace
{

Number millimetres(double value) { return {value / 1000, plainNumber(value) + " mm", false}; }

QString stepWord(const ShapeStep& step)
{
  static const std::vector<QString> words{
      QObject::tr("join"),        QObject::tr("cut"),          QObject::tr("round edges"),
      QObject::tr("bevel edges"), QObject::tr("push face"),    QObject::tr("tilt face"),
      QObject::tr("divide face"), QObject::tr("remove faces"), QObject::tr("thicken face")};
  return words[step.action.index()];
}

/// Unfolds a new step and gives the keyboard to its first field.
void openStep(Document& document, QWidget* window, const std::string& step)
{
  document.toggleStep(step); // whoever asked is built anew by this
  const QString fields = "field:" + QString::fromStdString(step) + ".";
  QTimer::singleShot(0, window, [window, fields] { // once the new fields are shown
    for (auto* field : window->findChildren<QLineEdit*>())
      if (field->objectName().startsWith(fields) && field->isVisible()) {
        field->setFocus(Qt::TabFocusReason);
        return;
      }
  });
}

PlacedForm* formOf(Part& part, const std::string& stepId)
{
  if (stepId.empty())
    return &part.shape;
  for (ShapeStep& step : part.steps)
    if (step.id == stepId) {
      if (auto* join = std::get_if<Join>(&step.action))
        return &join->shape;
      if (auto* cut = std::get_if<Cut>(&step.action))
        return &cut->shape;
    }
  return nullptr;
}

} // namespace

void PartEditor::addSteps()
{
  const Part* shown = findById(document_.shownProject().parts, id_); // a step may be on in this case alone
  for (const ShapeStep& step : shown != nullptr ? shown->steps : part().steps)
    addStep(step);
  addStepMenu();
}

void PartEditor::addStep(const ShapeStep& step)
{
  addStepTools(step);
  const bool open = document_.openSteps().contains(id_ + "." + step.id);
  if (!open)
    return;
  addStepFaces(step);
  addFields(step.id + ".", {step.id + ".outline", step.id + ".repeat"});
  const bool outline = std::holds_alternative<SplitFace>(step.action)
                           ? std::holds_alternative<SplitByOutline>(std::get<SplitFace>(step.action).line)
                           : [&] {
                               Part copy = part();
                               const PlacedForm* form = formOf(copy, step.id);
                               return form != nullptr && (std::holds_alternative<Prism>(form->form) ||
                                                          std::holds_alternative<TurnedProfile>(form->form) ||
                                                          std::holds_alternative<FlatOutline>(form->form));
                             }();
  Part copy = part();
  if (PlacedForm* form = formOf(copy, step.id))
    if (const auto reach = reachOf(form->form))
      addUpTo(step.id, *reach->upTo);
  if (outline) {
    auto* edit = new QToolButton;
    edit->setText(tr("Outline…"));
    connect(edit, &QToolButton::clicked, this, [this, stepId = step.id] {
      auto* editor = new OutlineEditor(document_, id_, stepId, window());
      editor->setAttribute(Qt::WA_DeleteOnClose);
      editor->show();
    });
    form_->addRow(quietLabel({}), edit);
  }
  const auto repeats = [&](const auto& action, auto tag) {
    using Action = decltype(tag);
    addRepeat(step.id + ".repeat", action.repeat, [stepId = step.id](Part& own, const Repeat& repeat) {
      for (ShapeStep& one : own.steps)
        if (one.id == stepId)
          std::get<Action>(one.action).repeat = repeat;
    });
  };
  if (const auto* join = std::get_if<Join>(&step.action))
    repeats(*join, Join{});
  if (const auto* cut = std::get_if<Cut>(&step.action))
    repeats(*cut, Cut{});
}

/// The height of a form follows a face where one is named: the one that is picked, or typed.
/// \param stepId  of the step that the form is of; empty: the part's own shape
void PartEditor::addUpTo(const std::string& stepId, const std::string& face)
{
  auto* row = new QWidget;
  auto* layout = new QHBoxLayout(row);
  layout->setContentsMargins(0, 0, 0, 0);
  auto* upTo = new QLineEdit(QString::fromStdString(face));
  upTo->setObjectName(stepId.empty() ? QString("upTo") : "upTo:" + QString::fromStdString(stepId));
  upTo->setAccessibleName(tr("Up to a face"));
  upTo->setPlaceholderText(tr("by its height; or a face, e.g. lid.bottom"));
  const auto set = [this, stepId](const std::string& name) {
    editPart(tr("Up to a face"), [&](Part& own) {
      if (PlacedForm* form = formOf(own, stepId))
        if (const auto reach = reachOf(form->form))
          *reach->upTo = name;
    });
  };
  connect(upTo, &QLineEdit::editingFinished, this, [upTo, set] { set(upTo->text().trimmed().toStdString()); });
  auto* picked = new QToolButton;
  setIcon(*picked, "draw-arrow-down");
  picked->setToolTip(tr("Up to the picked face"));
  picked->setAccessibleName(picked->toolTip());
  picked->setObjectName(upTo->objectName() + ":picked");
  connect(picked, &QToolButton::clicked, this, [this, set] {
    if (document_.pickedFaces().empty())
      emit said(tr("Pick a flat face in the scene first."), true);
    else
      set(document_.pickedFaces().back());
  });
  layout->addWidget(upTo, 1);
  layout->addWidget(picked);
  form_->addRow(quietLabel(tr("Up to")), row);
}

void PartEditor::addStepTools(const ShapeStep& step)
{
  const std::string key = id_ + "." + step.id;
  auto* head = new QWidget;
  auto* layout = new QHBoxLayout(head);
  layout->setContentsMargins(0, 2, 0, 0);
  layout->setSpacing(2);
  auto* fold = new QToolButton;
  fold->setText((document_.openSteps().contains(key) ? "▾ " : "▸ ") + stepWord(step) + " " +
                QString::fromStdString(step.id));
  fold->setObjectName("step:" + QString::fromStdString(step.id));
  connect(fold, &QToolButton::clicked, this, [this, key] { document_.toggleStep(key); });
  layout->addWidget(fold);
  layout->addStretch();
  auto* on = new SwitchButton; // what stands in the way of a case's own step is the step itself
  on->setFocusPolicy(Qt::TabFocus);
  on->setChecked(!step.muted);
  on->setToolTip(tr("Switches the step off, or on again"));
  on->setAccessibleName(on->toolTip());
  on->setObjectName("stepOn:" + QString::fromStdString(step.id));
  connect(on, &SwitchButton::clicked, this, [this, key](bool in) { document_.set(key + ".muted", !in); });
  layout->addWidget(on);
  const auto tool = [&](const QString& iconName, const QString& tip, const char* name, auto&& change) {
    auto* button = new QToolButton;
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    setIcon(*button, iconName);
    button->setObjectName(QString(name) + ":" + QString::fromStdString(step.id));
    connect(button, &QToolButton::clicked, this, [this, tip, change, id = step.id] {
      editPart(tip, [&](Part& own) {
        const auto at = std::find_if(own.steps.begin(), own.steps.end(), [&](const auto& s) { return s.id == id; });
        change(own, at);
      });
    });
    layout->addWidget(button);
  };
  tool("arrow-up", tr("Earlier"), "stepUp", [](Part& own, auto at) {
    if (at != own.steps.begin())
      std::iter_swap(at, at - 1);
  });
  tool("list-remove", tr("Remove the step"), "stepRemove", [](Part& own, auto at) { own.steps.erase(at); });
  form_->addRow(head);
}

void PartEditor::addStepFaces(const ShapeStep& step)
{
  std::string faces;
  std::visit(
      [&](const auto& action) {
        if constexpr (requires { action.faces; })
          for (const std::string& face : action.faces)
            faces += (faces.empty() ? "" : ", ") + face;
        if constexpr (requires { action.face; })
          faces = action.face;
      },
      step.action);
  if (step.action.index() < 2)
    return;
  auto* edit = new QLineEdit(QString::fromStdString(faces));
  edit->setObjectName("stepFaces:" + QString::fromStdString(step.id));
  edit->setToolTip(tr("Names of faces, as shown when the pointer is over them"));
  connect(edit, &QLineEdit::editingFinished, this, [this, edit, id = step.id] {
    editPart(tr("Faces of a step"), [&](Part& own) {
      for (ShapeStep& one : own.steps)
        if (one.id == id)
          std::visit(
              [&](auto& action) {
                if constexpr (requires { action.faces; }) {
                  action.faces.clear();
                  for (const QString& name : edit->text().split(',', Qt::SkipEmptyParts))
                    action.faces.push_back(name.trimmed().toStdString());
                }
                if constexpr (requires { action.face; })
                  action.face = edit->text().trimmed().toStdString();
              },
              one.action);
    });
  });
  form_->addRow(quietLabel(tr("Faces")), edit);
}

void PartEditor::addStepMenu()
{
  QMenu* menu = nullptr;
  auto* button = menuButton(tr("Add a step ▾"), "addStep", menu);
  const auto add = [this](const std::string& base, const decltype(ShapeStep::action)& action) {
    std::string id;
    id = document_.addStep(id_, [&](const Part& own) { return ShapeStep{freeStepId(own, base), action, {}}; });
    openStep(document_, window(), id_ + "." + id);
  };
  QMenu* join = menu->addMenu(tr("Join a shape"));
  QMenu* cut = menu->addMenu(tr("Cut a shape"));
  for (const auto& [name, form] : startingForms(document_.project())) {
    join->addAction(name, this, [=, form = form] { add("join", Join{{form, {}}}); });
    cut->addAction(name, this, [=, form = form] { add("cut", Cut{{form, {}}}); });
  }
  for (const GeometryFile& file : document_.project().files)
    for (const TakenBody& body : file.bodies) {
      const QString name = tr("%1 of %2").arg(QString::fromStdString(body.name), QString::fromStdString(file.name));
      const FileBody form{file.id, body.id};
      join->addAction(name, this, [=] { add("join", Join{{form, {}}}); });
      cut->addAction(name, this, [=] { add("cut", Cut{{form, {}}}); });
    }
  const auto face = [this] {
    for (const std::string& name : document_.pickedFaces())
      if (name.starts_with(id_ + "."))
        return name;
    return id_ + ".top";
  };
  menu->addAction(tr("Round edges"), this, [=] { add("round", RoundEdges{{face()}, millimetres(2)}); });
  menu->addAction(tr("Bevel edges"), this, [=] { add("bevel", BevelEdges{{face()}, millimetres(2)}); });
  menu->addAction(tr("Push a face"), this, [=] { add("push", PushFace{face(), millimetres(5)}); });
  menu->addAction(tr("Thicken a face"), this, [=] { add("thicken", ThickenFace{face(), millimetres(5)}); });
  menu->addAction(tr("Remove small round faces"), this, [=] { add("remove", RemoveFaces{{}, millimetres(1)}); });
  menu->addAction(tr("Remove the picked faces"), this, [=, this] {
    RemoveFaces remove;
    for (const std::string& name : document_.pickedFaces())
      if (name.starts_with(id_ + "."))
        remove.faces.push_back(name);
    add("remove", remove);
  });
  menu->addAction(tr("Tilt a face"), this, [=] { add("tilt", TiltFace{face(), {0.0872664626, "5 deg"}}); });
  QMenu* divide = menu->addMenu(tr("Divide a face"));
  divide->addAction(tr("Line"), this, [=] {
    add("divide", SplitFace{face(), SplitByLine{millimetres(-10), millimetres(0), millimetres(10), millimetres(0)}});
  });
  divide->addAction(tr("Rectangle"), this, [=] {
    add("divide",
        SplitFace{face(), SplitByRectangle{millimetres(0), millimetres(0), millimetres(20), millimetres(20)}});
  });
  divide->addAction(tr("Circle"), this, [=] {
    add("divide", SplitFace{face(), SplitByCircle{millimetres(0), millimetres(0), millimetres(10)}});
  });
  divide->addAction(tr("Outline"), this, [=] {
    add("divide", SplitFace{face(), SplitByOutline{{{millimetres(-10), millimetres(-10), {}},
                                                    {millimetres(10), millimetres(-10), {}},
                                                    {millimetres(0), millimetres(10), {}}}}});
  });
  form_->addRow(button);
}

} // namespace kiln
