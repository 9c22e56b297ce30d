// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/EmptyScene.h"

#include "ledger/NewObjects.h"

#include <QEvent>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace kiln
{

EmptyScene::EmptyScene(Document& document, QWidget* scene) : QFrame(scene), document_(document)
{
  setObjectName("card");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(18, 14, 18, 14);
  auto* title = new QLabel(tr("Here is the model, once it has a part"));
  title->setProperty("role", "figure");
  layout->addWidget(title);
  auto* words = new QLabel(tr("Begin with a solid, or with geometry from a file. Then give it a material, say where "
                              "heat enters and where it leaves, and solve (F5)."));
  words->setProperty("role", "quiet");
  words->setWordWrap(true);
  layout->addWidget(words);
  const auto button = [&](const QString& text, const QString& name, auto&& action) {
    auto* made = new QPushButton(text);
    made->setObjectName(name);
    connect(made, &QPushButton::clicked, this, action);
    layout->addWidget(made);
  };
  const std::vector<NewKind> kinds = newKinds(document, Band::Parts);
  constexpr std::size_t most = 3; // the rest is behind the + of the ledger
  for (std::size_t i = 0; i < std::min(most, kinds.size()); ++i)
    button(tr("Add a part: %1").arg(kinds[i].label), QString("emptyPart:%1").arg(i), [this, i] { emit partWanted(i); });
  button(tr("Take in geometry… (Ctrl+Shift+O)"), "emptyGeometry", [this] { emit geometryWanted(); });
  button(tr("Open the demo"), "emptyDemo", [this] { emit demoWanted(); });
  scene->installEventFilter(this);
  connect(&document, &Document::projectChanged, this, &EmptyScene::refresh);
  refresh();
}

void EmptyScene::refresh()
{
  const Project& project = document_.project();
  setVisible(project.parts.empty() && project.nodes.empty());
  place();
}

void EmptyScene::place()
{
  const QSize room = parentWidget()->size();
  constexpr int widest = 420, margin = 12;
  const int wide = std::min(widest, room.width() - 2 * margin);
  const int high = std::min(heightForWidth(wide), room.height() - 2 * margin);
  setGeometry((room.width() - wide) / 2, std::max(margin, (room.height() - high) / 2), wide, high);
  raise();
}

bool EmptyScene::eventFilter(QObject* watched, QEvent* event)
{
  if (watched == parentWidget() && (event->type() == QEvent::Resize || event->type() == QEvent::Show))
    place();
  return QFrame::eventFilter(watched, event);
}

} // namespace kiln
