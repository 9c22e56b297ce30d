// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Views.h"

#include <QColor>

namespace kiln
{

/// “Kiln glow”: from dark through ember to near white, lightness rising all the way.
/// \param share  0…1, clamped
[[nodiscard]] QColor kilnGlow(double share);

/// “Glaze and ember”: from blue-green through the colour of paper to ember, for what lies below and above zero.
/// \param share  0…1, clamped; 0.5 is zero; grey where it is not a number
[[nodiscard]] QColor glazeAndEmber(double share);

/// Of any palette.
/// \param share  0…1, clamped; grey where it is not a number
[[nodiscard]] QColor colorOf(Palette palette, double share);

/// The same in so many steps, each of one colour; 0: smooth.
[[nodiscard]] QColor colorOf(Palette palette, double share, int steps);

/// Of what has no value.
[[nodiscard]] QColor nowhereColor();

/// Colours for kinds of things (materials, conditions): distinct, muted, the same index gives the same colour.
[[nodiscard]] QColor kindColor(int index);

} // namespace kiln
