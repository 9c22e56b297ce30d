// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "look/DrawnWidget.h"

#include "look/Theme.h"

#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QMimeData>
#include <QPainter>
#include <QSaveFile>
#include <QSvgGenerator>
#include <QWidget>

namespace kiln
{

QByteArray drawnAsSvg(QWidget& widget, const QString& title)
{
  QByteArray bytes;
  QBuffer buffer(&bytes);
  QSvgGenerator generator;
  generator.setOutputDevice(&buffer);
  generator.setSize(widget.size());
  generator.setViewBox(QRect(QPoint(), widget.size()));
  generator.setResolution(widget.logicalDpiX());
  generator.setTitle(title);
  QPainter painter(&generator);
  widget.render(&painter, QPoint(), QRegion(), QWidget::DrawChildren);
  painter.end();
  return bytes;
}

QImage drawnAsPixels(QWidget& widget, double finer)
{
  QImage image((QSizeF(widget.size()) * finer).toSize(), QImage::Format_RGB32);
  image.setDevicePixelRatio(finer);
  image.fill(theme().panel);
  widget.render(&image, QPoint(), QRegion(), QWidget::DrawChildren);
  return image;
}

bool saveDrawn(QWidget& widget, const QString& title, const QString& file)
{
  constexpr double finer = 2;
  QSaveFile out(file);
  if (!out.open(QIODevice::WriteOnly))
    return false;
  if (file.endsWith(".png", Qt::CaseInsensitive)) {
    if (!drawnAsPixels(widget, finer).save(&out, "PNG"))
      return false;
  } else {
    const QByteArray svg = drawnAsSvg(widget, title);
    if (out.write(svg) != svg.size())
      return false;
  }
  return out.commit();
}

void copyDrawn(QWidget& widget, const QString& title)
{
  constexpr double finer = 2;
  auto* data = new QMimeData; // the clipboard takes it
  data->setData("image/svg+xml", drawnAsSvg(widget, title));
  data->setImageData(drawnAsPixels(widget, finer));
  QApplication::clipboard()->setMimeData(data);
}

} // namespace kiln
