// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The menu of the mesh: its sizes and order, edited in place, its refinement, its worst elements.
#include "fields/QuantityField.h"
#include "look/Language.h"
#include "mesh/CountEstimate.h"
#include "mesh/MeshQuality.h"
#include "readiness/Effort.h"
#include "results/Figures.h"
#include "scene/ScenePanel.h"
#include "window/LargeModels.h"
#include "window/MainWindow.h"

#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>
#include <QTabWidget>
#include <QWidgetAction>

namespace kiln
{
namespace
{

/// How many elements the sizes as they are now will give, beside what is there.
QString countText(const Document& document)
{
  const auto words = [](double count) { return QString::fromStdString(countWords(count)); };
  const auto mesh = document.shownMesh();
  if (!mesh)
    return MainWindow::tr("The shapes are not built yet");
  const double next = estimateCount(document.project(), mesh->geometry).elements;
  const QString about = mesh->geometry.section.is() ? MainWindow::tr("About %1 triangles by these sizes")
                                                    : MainWindow::tr("About %1 tetrahedra by these sizes");
  return about.arg(words(next)) +
         MainWindow::tr(", %1 to solve")
             .arg(QString::fromStdString(memoryWords(memoryToSolve(next, document.project().mesh.secondOrder)))) +
         (mesh->tets.empty() ? QString()
                             : MainWindow::tr("; now %1").arg(words(static_cast<double>(countElements(*mesh)))));
}

void addMeshCount(QMenu& menu, const Document& document)
{
  auto* count = new QLabel;
  count->setObjectName("meshCount");
  count->setProperty("role", "quiet");
  count->setContentsMargins(24, 2, 8, 4);
  count->setToolTip(MainWindow::tr("From areas, volumes and sizes, before anything is meshed: within a factor of two"));
  const auto show = [count, &document] { count->setText(countText(document)); };
  QObject::connect(&menu, &QMenu::aboutToShow, count, show);
  QObject::connect(&document, &Document::projectChanged, count, [count, show] {
    if (count->isVisible())
      show();
  });
  auto* action = new QWidgetAction(&menu);
  action->setDefaultWidget(count);
  menu.addAction(action);
}

} // namespace

/// What the mesh goes by, and what is made of it.
void MainWindow::buildMeshMenu()
{
  QMenu& mesh = *menuBar()->addMenu(tr("&Mesh"));
  mesh.addAction(tr("&Mesh without solving"), QKeySequence(Qt::Key_F6), &solver_, &SolverQueue::prepare);
  mesh.addAction(tr("&How sure? Solve on three meshes"), QKeySequence(Qt::Key_F7), this,
                 [this] { solver_.askHowSure(document_.shownCase()); });
  mesh.addAction(tr("&Refine the mesh where it matters…"), QKeySequence(Qt::CTRL | Qt::Key_F7), this,
                 &MainWindow::refineShown);
  auto* forget = mesh.addAction(tr("Fo&rget the refinement"), this, [this] {
    document_.edit(tr("Forget the refinement"), [](Project& project) { project.mesh.finerAt = {}; });
  });
  forget->setObjectName("forgetRefinement");
  const auto showForget = [this, forget] { forget->setEnabled(!document_.project().mesh.finerAt.empty()); };
  connect(&document_, &Document::projectChanged, forget, showForget);
  showForget();
  auto* second = mesh.addAction(tr("Elements of &second order"), this, [this](bool on) {
    document_.edit(tr("Order of elements"), [on](Project& project) { project.mesh.secondOrder = on; });
  });
  second->setCheckable(true);
  second->setObjectName("secondOrder");
  second->setToolTip(tr("With nodes on the edges: for answers that count. First order is a quick look."));
  const auto showOrder = [this, second] { second->setChecked(document_.project().mesh.secondOrder); };
  connect(&document_, &Document::projectChanged, second, showOrder);
  showOrder();
  addMeshFields(mesh);
  addWorstTets(mesh);
  mesh.addAction(tr("Ask &before large models…"), this, [this] { chooseLargeModels(preferences_, this); })
      ->setObjectName("largeModels");
}

void MainWindow::refineShown()
{
  bool given = false;
  const QString within = QInputDialog::getText(
      this, tr("Refine the mesh"), tr("Until the hottest place moves by less than (kelvin, or a share of the rise)"),
      QLineEdit::Normal, "1 K", &given);
  if (!given)
    return;
  const bool percent = within.trimmed().endsWith('%');
  const auto read =
      parseQuantity(within.trimmed().toStdString(), percent ? Quantity::Plain : Quantity::TemperatureStep);
  if (!read || read->si <= 0)
    return showSentence(tr("Refine the mesh"),
                        read ? tr("Enter a value above zero, for example 1 K or 1 %.") : inWords(read.error()));
  solver_.refine(document_.shownCase(), within.trimmed());
}

/// What the mesh goes by, edited in the menu itself; empty: chosen from the parts.
void MainWindow::addMeshFields(QMenu& menu)
{
  addMeshField(menu, tr("Largest size"), "size", Quantity::Length, &MeshSettings::size);
  addMeshField(menu, tr("Smallest size"), "smallest", Quantity::Length, &MeshSettings::smallest);
  addMeshField(menu, tr("Divide all sizes by"), "fineness", Quantity::Plain, &MeshSettings::fineness);
  addMeshField(menu, tr("Elements through walls"), "acrossWalls", Quantity::Plain, &MeshSettings::acrossWalls);
  addMeshCount(menu, document_);
}

/// The flattest tetrahedra of the shown mesh; one leads to its place.
void MainWindow::addWorstTets(QMenu& menu)
{
  QMenu* worst = menu.addMenu(tr("Flattest tetrahedra"));
  worst->setObjectName("worstTets");
  connect(worst, &QMenu::aboutToShow, this, [this, worst] {
    worst->clear();
    const auto mesh = document_.shownMesh();
    constexpr std::size_t most = 10;
    for (const std::size_t tet : mesh ? flattestTets(*mesh, most) : std::vector<std::size_t>{}) {
      const GeometryPart& part = mesh->geometry.parts[static_cast<std::size_t>(mesh->tetPart[tet])];
      const Vec3 place = tetMiddle(*mesh, tet);
      const QString angle =
          QString::fromStdString(formatQuantity(smallestDihedral(*mesh, tet), Quantity::Angle, {}, 3));
      const QString where = QString::fromStdString(part.name) + ", " + inWords(placeWords(part, place));
      worst->addAction(angle + "   " + where, this, [this, place, angle] {
        centre_->setCurrentIndex(0);
        scene_->setColorBy(static_cast<int>(Shown::MeshQuality));
        scene_->pointAt(place, tr("smallest angle %1").arg(angle));
      });
    }
    if (worst->isEmpty())
      worst->addAction(tr("Not meshed yet"))->setEnabled(false);
  });
}

void MainWindow::addMeshField(QMenu& menu, const QString& text, const std::string& key, Quantity quantity,
                              std::optional<Number> MeshSettings::*member)
{
  auto* body = new QWidget;
  auto* row = new QHBoxLayout(body);
  row->setContentsMargins(24, 2, 8, 2);
  auto* field = new QuantityField(quantity, Range::Positive);
  field->setObjectName("field:mesh." + QString::fromStdString(key));
  field->setAccessibleName(text);
  field->setOptional(true);
  auto* label = new QLabel(text);
  label->setBuddy(field);
  row->addWidget(label, 1);
  row->addWidget(field);
  auto* message = new QLabel;
  message->setProperty("role", "bad");
  row->addWidget(message);
  const auto show = [this, field, member] {
    field->setNumber(document_.project().mesh.*member);
    field->setPlaceholderText(tr("automatic"));
  };
  connect(field, &QuantityField::said, message,
          [message](const QString& sentence, bool wrong) { message->setText(wrong ? sentence : QString()); });
  connect(field, &QuantityField::committed, this,
          [this, key](const Number& number) { document_.setNumber("mesh." + key, number); });
  connect(field, &QuantityField::cleared, this, [this, text, member] {
    document_.edit(tr("%1 automatic").arg(text), [member](Project& project) { (project.mesh.*member).reset(); });
  });
  connect(&document_, &Document::projectChanged, field, show);
  show();
  auto* action = new QWidgetAction(&menu);
  action->setDefaultWidget(body);
  menu.addAction(action);
}

} // namespace kiln
