// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Index.h"

#include <cstddef>
#include <functional>
#include <span>
#include <vector>

namespace kiln
{

/// Elements shared out among threads. No two shares touch the same unknown; the elements between them come last, by
/// one thread. How they are shared out depends on the mesh alone, so that sums are the same on every machine.
class ElementShares
{
public:
  using UnknownsOf = std::function<std::span<const UnknownId>(std::size_t)>;

  ElementShares() = default;
  /// \param elements    to be worked on, increasing; neighbours in number are neighbours in space
  /// \param unknownsOf  an element; what it returns is read before the next call
  /// \param unknowns    how many there are
  ElementShares(const std::vector<std::size_t>& elements, const UnknownsOf& unknownsOf, std::size_t unknowns);

  [[nodiscard]] bool empty() const { return apart_.empty() && between_.empty(); }

  /// Calls a function with every element, with several at once where they are many.
  void forEach(const std::function<void(std::span<const std::size_t>)>& work) const;

private:
  std::vector<std::vector<std::size_t>> apart_;
  std::vector<std::size_t> between_;
};

} // namespace kiln
