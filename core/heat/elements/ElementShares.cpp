// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/ElementShares.h"

#include <algorithm>
#include <tbb/parallel_for.h>

namespace kiln
{

ElementShares::ElementShares(const std::vector<std::size_t>& elements, const UnknownsOf& unknownsOf,
                             std::size_t unknowns)
{
  if (elements.empty())
    return;
  constexpr std::size_t worthAShare = 5'000; // elements, of a quarter of a microsecond each
  constexpr std::size_t most = 4;
  const std::size_t shares = std::clamp<std::size_t>(elements.size() / worthAShare, 1, most);
  constexpr signed char nobody = -1, several = -2;
  const auto shareOf = [&](std::size_t i) { return static_cast<signed char>(i * shares / elements.size()); };
  std::vector<signed char> owner(unknowns, nobody);
  for (std::size_t i = 0; i < elements.size(); ++i)
    for (const UnknownId unknown : unknownsOf(elements[i])) {
      signed char& own = owner[static_cast<std::size_t>(unknown)];
      own = own == nobody || own == shareOf(i) ? shareOf(i) : several;
    }
  apart_.resize(shares);
  for (std::size_t i = 0; i < elements.size(); ++i) {
    const auto own = unknownsOf(elements[i]);
    const bool alone = std::none_of(
        own.begin(), own.end(), [&](UnknownId unknown) { return owner[static_cast<std::size_t>(unknown)] == several; });
    (alone ? apart_[static_cast<std::size_t>(shareOf(i))] : between_).push_back(elements[i]);
  }
}

void ElementShares::forEach(const std::function<void(std::span<const std::size_t>)>& work) const
{
  tbb::parallel_for(std::size_t{0}, apart_.size(), [&](std::size_t share) { work(apart_[share]); });
  work(between_);
}

} // namespace kiln
