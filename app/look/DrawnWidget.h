// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QByteArray>
#include <QImage>

class QWidget;

namespace kiln
{

/// What a widget draws, as lines and letters: the text of an SVG picture of its size.
[[nodiscard]] QByteArray drawnAsSvg(QWidget& widget, const QString& title);
/// The same as pixels. \param finer  pixels for each of the widget's
[[nodiscard]] QImage drawnAsPixels(QWidget& widget, double finer);
/// Writes it as SVG or, by the ending of the file, as PNG. \return whether it was written
[[nodiscard]] bool saveDrawn(QWidget& widget, const QString& title, const QString& file);
/// Both, to the clipboard.
void copyDrawn(QWidget& widget, const QString& title);

} // namespace kiln
