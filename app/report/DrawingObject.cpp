// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/DrawingObject.h"

#include <QSvgRenderer>
#include <QTextFormat>

namespace kiln
{

QSizeF DrawingObject::intrinsicSize(QTextDocument* /*document*/, int /*position*/, const QTextFormat& format)
{
  return {format.doubleProperty(QTextFormat::ImageWidth), format.doubleProperty(QTextFormat::ImageHeight)};
}

void DrawingObject::drawObject(QPainter* painter, const QRectF& rect, QTextDocument* /*document*/, int /*position*/,
                               const QTextFormat& format)
{
  QSvgRenderer renderer(format.property(svg).toByteArray());
  renderer.render(painter, rect);
}

} // namespace kiln
