// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/ShownText.h"

namespace kiln
{

QString shownText(const Number& number, Quantity quantity, TemperatureUnit unit)
{
  if (number.formula)
    return QString::fromStdString(number.text + " = " + formatQuantity(number.si, quantity, unit, 6));
  return QString::fromStdString(number.text.empty() ? formatQuantity(number.si, quantity, unit, 8) : number.text);
}

} // namespace kiln
