// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/ShownDifference.h"

namespace kiln
{

std::shared_ptr<const DifferenceField> ShownDifference::of(const DifferentSide& own, const DifferentSide& other)
{
  const auto same = [](const DifferentSide& a, const DifferentSide& b) {
    return a.result == b.result && a.kelvin == b.kelvin;
  };
  if (same(own, own_) && same(other, other_))
    return field_;
  own_ = own;
  other_ = other;
  field_.reset();
  problem_.clear();
  if (!own.result || !other.result || !own.kelvin || !other.kelvin)
    return nullptr;
  auto found = differenceOf(*own.result, *own.kelvin, *other.result, *other.kelvin);
  if (found)
    field_ = std::make_shared<const DifferenceField>(std::move(*found));
  else
    problem_ = found.error().sentence();
  return field_;
}

} // namespace kiln
