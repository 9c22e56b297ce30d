// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/SurfaceSentence.h"

#include "fields/BoundField.h"
#include "fields/FlowLayout.h"
#include "fields/FormRows.h"
#include "fields/KeepFocus.h"
#include "fields/QuantityField.h"
#include "geometry/SurfaceFaces.h"
#include "look/Language.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <array>
#include <cmath>

namespace kiln
{
namespace
{

struct NamedDirection {
  const char* word;
  Vec3 direction;
};

const std::array<NamedDirection, 6>& directions()
{
  static const std::array<NamedDirection, 6> list{{{QT_TRANSLATE_NOOP("SurfaceSentence", "up"), {0, 0, 1}},
                                                   {QT_TRANSLATE_NOOP("SurfaceSentence", "down"), {0, 0, -1}},
                                                   {QT_TRANSLATE_NOOP("SurfaceSentence", "right (+x)"), {1, 0, 0}},
                                                   {QT_TRANSLATE_NOOP("SurfaceSentence", "left (−x)"), {-1, 0, 0}},
                                                   {QT_TRANSLATE_NOOP("SurfaceSentence", "back (+y)"), {0, 1, 0}},
                                                   {QT_TRANSLATE_NOOP("SurfaceSentence", "front (−y)"), {0, -1, 0}}}};
  return list;
}

Number3 numbersOf(const Vec3& v) { return {{v.x(), {}}, {v.y(), {}}, {v.z(), {}}}; }

} // namespace

SurfaceSentence::SurfaceSentence(Document& document, Preferences& preferences, std::string surfaceId, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), id_(std::move(surfaceId)), count_(new QLabel)
{
  setObjectName("surfaceSentence");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(4);
  count_->setObjectName("surfaceCount");
  count_->setProperty("role", "quiet");
  count_->setWordWrap(true);
  layout->addWidget(count_);
  rebuild();
  connect(&document, &Document::projectChanged, this, &SurfaceSentence::rebuild);
  connect(&document, &Document::resultChanged, this, &SurfaceSentence::refreshCount);
  connect(&document, &Document::pickedFacesChanged, this, &SurfaceSentence::rebuild);
}

const Surface* SurfaceSentence::surface() const { return findById(document_.project().surfaces, id_); }

void SurfaceSentence::edit(const QString& name, const std::function<void(Surface&)>& change)
{
  document_.edit(name, [&](Project& project) {
    if (Surface* own = findById(project.surfaces, id_))
      change(*own);
  });
}

void SurfaceSentence::rebuild()
{
  if (surface() == nullptr)
    return;
  QWidget* old = words_;
  const KeepFocus focus(this);
  if (numbers_ != nullptr && numbers_->isAncestorOf(focusWidget()))
    return refreshCount(); // a number of the rule is being typed
  words_ = new QWidget;
  flow_ = new FlowLayout(words_);
  QWidget* oldNumbers = numbers_;
  numbers_ = new QWidget;
  new QFormLayout(numbers_);
  numbers_->layout()->setContentsMargins(0, 0, 0, 0);
  auto* name = new QLineEdit(QString::fromStdString(surface()->name));
  name->setObjectName("surfaceName");
  name->setAccessibleName(tr("Name of the surface"));
  connect(name, &QLineEdit::editingFinished, this, [this, name] {
    const std::string typed = name->text().trimmed().toStdString();
    if (!typed.empty())
      edit(tr("Name of a surface"), [&](Surface& own) { own.name = typed; });
  });
  qobject_cast<QFormLayout*>(numbers_->layout())->addRow(quietLabel(tr("Surface name")), name);
  word(tr("faces of"));
  addOfChip();
  word(tr("that are exposed"));
  addFacingChip();
  addWithinChip();
  addNearChip();
  addExceptChip();
  addPickedChips();
  addConditionMenu();
  auto* layout = qobject_cast<QVBoxLayout*>(this->layout());
  layout->insertWidget(0, words_);
  layout->insertWidget(1, numbers_);
  numbers_->setVisible(qobject_cast<QFormLayout*>(numbers_->layout())->rowCount() > 0);
  focus.giveTo(words_);
  for (QWidget* gone : {old, oldNumbers})
    if (gone != nullptr) {
      gone->hide();
      gone->deleteLater();
    }
  refreshCount();
}

void SurfaceSentence::word(const QString& text)
{
  auto* label = new QLabel(text);
  label->setProperty("role", "quiet");
  label->setContentsMargins(0, 3, 0, 3);
  flow_->addWidget(label);
}

QToolButton* SurfaceSentence::chip(const QString& text, const char* name)
{
  auto* button = new QToolButton;
  button->setText(text);
  button->setObjectName(name);
  button->setProperty("chip", true);
  button->setPopupMode(QToolButton::InstantPopup);
  button->setMenu(new QMenu(button));
  flow_->addWidget(button);
  return button;
}

void SurfaceSentence::checkList(QToolButton& chip, const std::vector<std::pair<std::string, QString>>& entries,
                                std::vector<std::string> Surface::*list)
{
  for (const auto& [id, name] : entries) {
    QAction* action = chip.menu()->addAction(name);
    action->setCheckable(true);
    const std::vector<std::string>& chosen = surface()->*list;
    action->setChecked(std::find(chosen.begin(), chosen.end(), id) != chosen.end());
    connect(action, &QAction::triggered, this, [this, id = id, list](bool on) {
      edit(tr("Rule of a surface"), [&](Surface& own) {
        std::erase(own.*list, id);
        if (on)
          (own.*list).push_back(id);
      });
    });
  }
}

void SurfaceSentence::addOfChip()
{
  const Project& project = document_.project();
  std::vector<std::pair<std::string, QString>> entries;
  for (const PartGroup& group : project.groups)
    entries.emplace_back(group.id, QString::fromStdString(group.name));
  for (const Part& part : project.parts)
    entries.emplace_back(part.id, QString::fromStdString(part.name));
  QStringList names;
  for (const auto& [id, name] : entries)
    if (std::find(surface()->exposedOf.begin(), surface()->exposedOf.end(), id) != surface()->exposedOf.end())
      names << name;
  for (const std::string& face : surface()->faces)
    names << QString::fromStdString(face);
  QToolButton* button = chip(names.isEmpty() ? tr("choose parts") : names.join(", "), "chipOf");
  checkList(*button, entries, &Surface::exposedOf);
  if (!surface()->faces.empty())
    button->menu()->addSeparator();
  for (const std::string& face : surface()->faces)
    button->menu()->addAction(tr("Take out %1").arg(QString::fromStdString(face)), this, [this, face] {
      edit(tr("Rule of a surface"), [&](Surface& own) { std::erase(own.faces, face); });
    });
}

void SurfaceSentence::addFacingChip()
{
  if (!surface()->facing)
    return;
  const Number3& n = surface()->facing->direction;
  QString name = tr("a direction");
  for (const NamedDirection& one : directions())
    if ((Vec3(n.x.si, n.y.si, n.z.si).normalized() - one.direction).norm() < 1e-9)
      name = tr(one.word);
  word(tr("and"));
  const double degrees = toDisplay(surface()->facing->within.si, Quantity::Angle);
  QToolButton* button = chip(tr("facing %1 ±%2°").arg(name).arg(degrees, 0, 'g', 4), "chipFacing");
  for (const NamedDirection& one : directions())
    button->menu()->addAction(tr(one.word), this, [this, one] {
      edit(tr("Rule of a surface"), [&](Surface& own) { own.facing->direction = numbersOf(one.direction); });
    });
  button->menu()->addSeparator();
  button->menu()->addAction(tr("Any direction"), this,
                            [this] { edit(tr("Rule of a surface"), [](Surface& own) { own.facing.reset(); }); });
  addFields("facing.within");
}

void SurfaceSentence::addWithinChip()
{
  if (!surface()->within)
    return;
  word(tr("and"));
  chip(tr("within a box"), "chipWithin")->menu()->addAction(tr("Anywhere"), this, [this] {
    edit(tr("Rule of a surface"), [](Surface& own) { own.within.reset(); });
  });
  addFields("within.");
}

void SurfaceSentence::addNearChip()
{
  if (!surface()->near)
    return;
  word(tr("and"));
  chip(tr("near a point"), "chipNear")->menu()->addAction(tr("At any distance"), this, [this] {
    edit(tr("Rule of a surface"), [](Surface& own) { own.near.reset(); });
  });
  addFields("near.");
}

void SurfaceSentence::addExceptChip()
{
  if (document_.project().surfaces.size() < 2)
    return;
  QStringList names;
  std::vector<std::pair<std::string, QString>> entries;
  for (const Surface& other : document_.project().surfaces)
    if (other.id != id_) {
      entries.emplace_back(other.id, QString::fromStdString(other.name));
      if (std::find(surface()->except.begin(), surface()->except.end(), other.id) != surface()->except.end())
        names << QString::fromStdString(other.name);
    }
  word(tr("except"));
  checkList(*chip(names.isEmpty() ? tr("none") : names.join(", "), "chipExcept"), entries, &Surface::except);
}

void SurfaceSentence::addPickedChips()
{
  const auto listChip = [&](const QString& text, const char* name, std::vector<std::string> Surface::*list) {
    QToolButton* button = chip(text, name);
    for (const std::string& face : surface()->*list)
      button->menu()->addAction(tr("Forget %1").arg(QString::fromStdString(face)), this, [this, face, list] {
        edit(tr("Faces picked by hand"), [&](Surface& own) { std::erase(own.*list, face); });
      });
  };
  if (!surface()->added.empty())
    listChip(tr("plus %n by hand", nullptr, static_cast<int>(surface()->added.size())), "chipAdded", &Surface::added);
  if (!surface()->without.empty())
    listChip(tr("minus %n by hand", nullptr, static_cast<int>(surface()->without.size())), "chipWithout",
             &Surface::without);
}

void SurfaceSentence::addConditionMenu()
{
  QToolButton* button = chip("+", "chipMore");
  button->setToolTip(tr("Narrow the rule, or add faces picked in the scene"));
  if (!surface()->facing)
    button->menu()->addAction(tr("facing up ±20°"), this, [this] {
      edit(tr("Rule of a surface"), [](Surface& own) {
        own.facing = Facing{numbersOf({0, 0, 1}), {fromDisplay(20, Quantity::Angle), "20 deg"}};
      });
    });
  if (!surface()->within) {
    button->menu()->addAction(tr("within a box"), this,
                              [this] { edit(tr("Rule of a surface"), [](Surface& own) { own.within = Within{}; }); });
    button->menu()->addAction(tr("above z = 0"), this, [this] {
      edit(tr("Rule of a surface"), [](Surface& own) {
        own.within = Within{};
        own.within->lowZ = Number{0, "0 mm"};
      });
    });
  }
  if (!surface()->near)
    button->menu()->addAction(tr("near a point"), this, [this] {
      edit(tr("Rule of a surface"), [](Surface& own) { own.near = Near{{}, {0.1, "100 mm"}}; });
    });
  const std::vector<std::string> picked = document_.pickedFaces();
  button->menu()->addSeparator();
  const auto pickedAction = [&](const QString& text, std::vector<std::string> Surface::*to,
                                std::vector<std::string> Surface::*from) {
    QAction* action = button->menu()->addAction(text, this, [this, picked, to, from] {
      edit(tr("Faces picked by hand"), [&](Surface& own) {
        for (const std::string& face : picked) {
          std::erase(own.*from, face);
          if (std::find((own.*to).begin(), (own.*to).end(), face) == (own.*to).end())
            (own.*to).push_back(face);
        }
      });
    });
    action->setEnabled(!picked.empty());
  };
  pickedAction(tr("Add the %n picked face(s)", nullptr, static_cast<int>(picked.size())), &Surface::added,
               &Surface::without);
  pickedAction(tr("Without the %n picked face(s)", nullptr, static_cast<int>(picked.size())), &Surface::without,
               &Surface::added);
}

void SurfaceSentence::addFields(const std::string& under)
{
  auto* form = qobject_cast<QFormLayout*>(numbers_->layout());
  Project shown = document_.shownProject();
  for (const Field& field : fieldsOf(shown, id_)) {
    if (!field.path.starts_with(id_ + "." + under))
      continue;
    auto* field_ = new BoundField(document_, preferences_, field);
    connect(field_, &BoundField::said, this, &SurfaceSentence::said);
    form->addRow(quietLabel(inWords(field.label)), field_);
  }
}

void SurfaceSentence::refreshCount()
{
  const auto mesh = document_.shownMesh();
  if (surface() == nullptr || !mesh || !document_.geometryIsCurrent()) {
    count_->setText(tr("its faces are counted when the shapes are built"));
    return;
  }
  const SurfaceFaces faces = facesOf(document_.shownProject(), mesh->geometry, *surface());
  QString text = tr("%n face(s)", nullptr, static_cast<int>(faces.faces.size())) + " · " +
                 QString::fromStdString(formatQuantity(faces.area, Quantity::Area, {}, 4));
  QStringList missing;
  for (const std::string& name : faces.notFound)
    missing << QString::fromStdString(name);
  if (!missing.isEmpty())
    text += " · " + tr("not found: %1").arg(missing.join(", "));
  count_->setText(text);
}

} // namespace kiln
