// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Pictures of the scene that are kept: of any size, with legend and caption, as pixels or as a drawing.
#include "look/Theme.h"
#include "scene/Legend.h"
#include "scene/LookPanel.h"
#include "scene/SceneColoring.h"
#include "scene/SceneExtras.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"

#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QMessageBox>
#include <QPainter>
#include <QSpinBox>
#include <QSvgGenerator>

namespace kiln
{
namespace
{

constexpr int captionHeight = 30, legendWidth = 96; // px

} // namespace

QString ScenePanel::pictureCaption() const
{
  QString text = QString::fromStdString(document_.project().name) + " · " + overlay_->caption();
  if (colorBy() == Shown::Temperature)
    text += " · " + colorBy_->currentText();
  if (const auto quantity = quantityOf(colorBy()); quantity && !legend_->isHidden())
    text += ", " + QString::fromStdString(displayUnit(*quantity, preferences_.temperatureUnit()));
  return text;
}

/// The canvas takes the wanted size for as long as it draws one frame.
void ScenePanel::paintPicture(QPainter& painter, const QSize& size, const QColor& background)
{
  const bool scale = !legend_->isHidden();
  const QSize room(size.width() - (scale ? legendWidth : 0), size.height() - captionHeight);
  const QRect before = canvas_->geometry();
  const int covered = canvas_->covered();
  const int coveredRight = canvas_->coveredRight();
  canvas_->setBackground(background, theme().sceneLine);
  canvas_->setCovered(0, 0);
  canvas_->resize(room);
  overlay_->resize(room);
  canvas_->drawNextSmooth();
  const QImage drawn = canvas_->grabFramebuffer();
  painter.fillRect(QRect(QPoint(), size), background);
  painter.drawImage(QRect(QPoint(), room), drawn);
  painter.save();
  painter.setClipRect(QRect(QPoint(), room));
  overlay_->paintOn(painter);
  painter.restore();
  painter.setPen(theme().text);
  if (scale)
    legend_->paintScale(painter, QRectF(room.width() + 6, 16, legendWidth - 8, std::min(420, room.height() - 32)));
  painter.setFont(font());
  painter.setPen(theme().text); // the scale has one of its own
  painter.drawText(QRectF(10, room.height(), size.width() - 20, captionHeight), Qt::AlignVCenter | Qt::AlignLeft,
                   pictureCaption());
  canvas_->setGeometry(before);
  canvas_->setCovered(covered, coveredRight);
  applyTheme();
  placeOverlays();
}

QImage ScenePanel::picture(const QSize& size, const QColor& background, int finer)
{
  QImage image(size * finer, QImage::Format_RGB32);
  image.setDevicePixelRatio(finer);
  QPainter painter(&image);
  paintPicture(painter, size, background);
  painter.end();
  image.setText("Title", pictureCaption());
  return image;
}

bool ScenePanel::savePicture(const QString& file, const QSize& size, const QColor& background)
{
  if (file.endsWith(".svg", Qt::CaseInsensitive)) {
    QSvgGenerator generator;
    generator.setFileName(file);
    generator.setSize(size);
    generator.setViewBox(QRect(QPoint(), size));
    generator.setTitle(pictureCaption());
    QPainter painter;
    if (!painter.begin(&generator))
      return false;
    paintPicture(painter, size, background);
    return painter.end();
  }
  return picture(size, background).save(file);
}

void ScenePanel::askForPicture()
{
  auto* dialog = new QDialog(this);
  dialog->setObjectName("pictureDialog");
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->setWindowTitle(tr("Save the picture"));
  auto* form = new QFormLayout(dialog);
  const auto pixels = [&](const char* name, int now) {
    auto* box = new QSpinBox;
    box->setObjectName(name);
    box->setRange(200, 6000);
    box->setSuffix(" px");
    box->setValue(now);
    return box;
  };
  auto* wide = pixels("pictureWidth", 1600);
  auto* high = pixels("pictureHeight", 1000);
  form->addRow(tr("Width"), wide);
  form->addRow(tr("Height"), high);
  auto* background = new QComboBox;
  background->setObjectName("pictureBackground");
  background->addItems({tr("as shown"), tr("white")});
  form->addRow(tr("Background"), background);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Save | QDialogButtonBox::Cancel);
  form->addRow(buttons);
  connect(buttons, &QDialogButtonBox::rejected, dialog, &QDialog::reject);
  connect(buttons, &QDialogButtonBox::accepted, dialog, [=, this] {
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Save the picture"), "scene.png", tr("Pixels (*.png);;Drawing (*.svg)"));
    if (file.isEmpty())
      return;
    const QColor paper = background->currentIndex() == 1 ? QColor(Qt::white) : theme().scene;
    dialog->accept();
    if (!savePicture(file, {wide->value(), high->value()}, paper))
      QMessageBox::warning(this, tr("Not saved"),
                           tr("%1 could not be written. Choose another folder, or free some room.").arg(file));
  });
  dialog->open();
}

} // namespace kiln
