// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "heat/elements/VolumeElement.h"

#include <span>
#include <vector>

namespace kiln
{

struct SparseMatrix;

/// A place that a term gives heat to, with its share of the area (m²), of the volume (m³), or 1 for a lumped node.
struct Receiver {
  double weight = 1;
  PartId part{};
  FaceId face{};
  Vec3 place = Vec3::Zero(); ///< m, where something varies in place
  std::uint32_t first = 0;   ///< of its unknowns' shares among those of all
  std::uint32_t count = 0;
};

/// The places of a term. The temperature at each is that of the field there, and heat that arrives there goes to the
/// nodes around by the same shape functions: what leaves one end of a term arrives in the field of the other.
class Receivers
{
public:
  /// \param shares  of the unknowns whose temperatures make up that of the place; they sum to 1
  void add(Receiver receiver, std::span<const UnknownShare> shares);
  /// A lumped node, or whatever else has one temperature of its own.
  void addUnknown(UnknownId unknown);
  void append(const Receivers& others);

  [[nodiscard]] std::size_t size() const { return receivers_.size(); }
  [[nodiscard]] bool empty() const { return receivers_.empty(); }
  [[nodiscard]] const Receiver& operator[](std::size_t i) const { return receivers_[i]; }
  [[nodiscard]] auto begin() const { return receivers_.begin(); }
  [[nodiscard]] auto end() const { return receivers_.end(); }
  [[nodiscard]] std::span<const UnknownShare> sharesOf(const Receiver& receiver) const
  {
    return std::span(shares_).subspan(receiver.first, receiver.count);
  }

  [[nodiscard]] double totalWeight() const;
  /// Multiplies all weights, so that for example they sum to 1.
  void scale(double factor);
  /// Only those that \p wanted says, with weights times what it says.
  template <class Factor>
  [[nodiscard]] Receivers chosen(Factor&& factor) const
  {
    Receivers some;
    for (Receiver receiver : receivers_)
      if (const double own = factor(receiver); own != 0) {
        receiver.weight *= own;
        some.add(receiver, sharesOf(receiver));
      }
    return some;
  }

  /// A field (by unknown) at a place.
  [[nodiscard]] double valueAt(const Receiver& receiver, std::span<const double> field) const
  {
    double value = 0;
    for (const UnknownShare& own : sharesOf(receiver))
      value += own.share * field[static_cast<std::size_t>(own.unknown)];
    return value;
  }
  /// Gives what arrives at a place to its unknowns.
  void spread(const Receiver& receiver, double amount, std::span<double> byUnknown) const
  {
    for (const UnknownShare& own : sharesOf(receiver))
      byUnknown[static_cast<std::size_t>(own.unknown)] += own.share * amount;
  }
  /// Adds slope · N Nᵀ of a place to the lower half of a matrix.
  void addSlope(const Receiver& receiver, double slope, SparseMatrix& matrix) const;

private:
  std::vector<Receiver> receivers_;
  std::vector<UnknownShare> shares_;
};

} // namespace kiln
