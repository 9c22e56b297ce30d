// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <cstdint>
#include <functional>
#include <type_traits>

namespace kiln
{

/// The number of one thing of a kind, counted from 0; -1: none. It can be read as a number, but no number, and least
/// of all that of another kind, becomes one unasked: who mixes up a part and a face is told by the compiler.
template <class Kind>
class Id
{
public:
  constexpr Id() = default;
  template <class Number>
  requires std::is_integral_v<Number>
  constexpr explicit Id(Number number) : number_(static_cast<std::int32_t>(number)) {}

  // NOLINTNEXTLINE(google-explicit-constructor): reading it as a number is what it is for
  constexpr operator std::int32_t() const { return number_; }
  constexpr Id& operator++()
  {
    ++number_;
    return *this;
  }
  friend constexpr bool operator==(Id, Id) = default;
  friend constexpr auto operator<=>(Id, Id) = default; // NOLINT(modernize-use-nullptr): its comparison with 0
  template <class Other>
  friend bool operator==(Id, Id<Other>) = delete;

private:
  std::int32_t number_ = -1;
};

} // namespace kiln

template <class Kind>
struct std::hash<kiln::Id<Kind>> {
  std::size_t operator()(kiln::Id<Kind> id) const noexcept { return std::hash<std::int32_t>{}(id); }
};
