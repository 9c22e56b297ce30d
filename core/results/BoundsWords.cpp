// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/BoundsWords.h"

#include "units/Quantity.h"

namespace kiln
{
namespace
{

std::string wordsOf(const BoundsExcess& excess, const char* side, const FaceTable& geometry)
{
  std::string text = formatQuantity(excess.kelvin, Quantity::TemperatureStep, {}, 2) + " " + side + ", at " +
                     formatQuantity(excess.time, Quantity::Time);
  if (excess.part >= 0)
    text += " in " + geometry.parts[static_cast<std::size_t>(excess.part)].name;
  return text;
}

} // namespace

std::string boundsWords(const BoundsReport& bounds, const FaceTable& geometry)
{
  if (!bounds.exceeded())
    return {};
  std::string text = "Temperatures left what start and surroundings allow: ";
  if (bounds.above.kelvin > bounds.tolerance)
    text += wordsOf(bounds.above, "above", geometry);
  if (bounds.below.kelvin > bounds.tolerance)
    text += (bounds.above.kelvin > bounds.tolerance ? "; " : "") + wordsOf(bounds.below, "below", geometry);
  return text + ". A finer mesh there brings them back.";
}

} // namespace kiln
