// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QColor>
#include <QString>

class QApplication;

namespace kiln
{

/// Colours of the window. The surfaces stay quiet: the data carries the colour.
struct Theme {
  bool dark = false;
  QColor window, panel, raised, line, text, quiet, accent, bad, good, warning, scene, sceneLine;

  [[nodiscard]] static Theme light();
  [[nodiscard]] static Theme night();
  [[nodiscard]] QString styleSheet() const;
};

enum class ThemeChoice { System, Light, Dark };

/// Theme in use; changes with applyTheme.
[[nodiscard]] const Theme& theme();

/// While there is one, colours are those for paper, whatever the look of the window: what is drawn goes elsewhere.
class PaperColors
{
public:
  PaperColors();
  ~PaperColors();
  PaperColors(const PaperColors&) = delete;
  PaperColors& operator=(const PaperColors&) = delete;

private:
  Theme before_;
};

/// Sets palette, style sheet and font of the application.
void applyTheme(QApplication& application, ThemeChoice choice);

} // namespace kiln
