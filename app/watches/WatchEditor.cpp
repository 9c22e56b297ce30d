// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "watches/WatchEditor.h"

#include "fields/FormRows.h"
#include "fields/SettingRows.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace kiln
{

QString formulaWords(const Project& project, const Watch& watch)
{
  const auto* own = std::get_if<FormulaFigure>(&watch.figure);
  if (own == nullptr)
    return {};
  QStringList letters;
  char letter = 'a';
  for (const std::string& id : own->watches) {
    const Watch* other = findById(project.watches, id);
    letters << WatchEditor::tr("%1 is %2")
                   .arg(QChar(letter++))
                   .arg(QString::fromStdString(other != nullptr ? other->name : id));
  }
  return WatchEditor::tr("%1, where %2").arg(QString::fromStdString(own->formula), letters.join(", "));
}

WatchEditor::WatchEditor(Document& document, Preferences& preferences, std::string watchId, QWidget* parent)
    : QDialog(parent), document_(document), preferences_(preferences), id_(std::move(watchId)),
      layout_(new QVBoxLayout(this))
{
  setObjectName("watchEditor");
  setAttribute(Qt::WA_DeleteOnClose);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  buttons->button(QDialogButtonBox::Close)->setAutoDefault(false); // Enter ends a field, not the dialog
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::close);
  layout_->addWidget(buttons);
  rebuild();
  connect(&document, &Document::projectChanged, this, &WatchEditor::rebuild);
  constexpr int characters = 64;
  resize(fontMetrics().averageCharWidth() * characters, sizeHint().height());
}

void WatchEditor::rebuild()
{
  const Watch* own = findById(document_.project().watches, id_);
  if (own == nullptr) {
    close();
    return;
  }
  setWindowTitle(tr("Watch %1").arg(QString::fromStdString(own->name)));
  if (body_ != nullptr) {
    body_->hide();
    body_->deleteLater(); // an editor of it may be at work
  }
  body_ = new QWidget;
  auto* inside = new QVBoxLayout(body_);
  inside->setContentsMargins(0, 0, 0, 0);
  auto* form = new QFormLayout;
  auto* said = quietLabel(formulaWords(document_.project(), *own));
  said->setObjectName("watchSaid");
  SettingRows rows{document_, preferences_, *form};
  rows.say = [said](const QString& sentence, bool) { said->setText(sentence); };
  addSettingRows(rows, id_, [](const Field&) { return true; });
  inside->addLayout(form);
  inside->addWidget(said);
  layout_->insertWidget(0, body_);
}

} // namespace kiln
