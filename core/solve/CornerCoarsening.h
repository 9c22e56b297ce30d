// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/CornerParents.h"
#include "heat/elements/SparseMatrix.h"

#include <span>
#include <vector>

namespace kiln
{

/// The part of a system of second order that its corners make: a field of the corners is halfway between them at the
/// mids of the edges (P), and the matrix of the corners is Pᵀ A P, on straight elements that of first order.
class CornerCoarsening
{
public:
  explicit CornerCoarsening(const CornerParents& parents);

  /// Takes the matrix: always of the same pattern. A row without anything beside its diagonal is held, and takes no
  /// part.
  void take(const SparseMatrix& matrix);

  [[nodiscard]] const SparseMatrix& matrix() const { return coarse_; }
  [[nodiscard]] std::size_t corners() const { return fineOf_.size(); }
  /// Pᵀ r; zero at held corners.
  void restrict(std::span<const double> fine, std::span<double> coarse) const;
  /// Adds P x.
  void addProlonged(std::span<const double> coarse, std::span<double> fine) const;

private:
  void makePattern(const SparseMatrix& matrix);
  template <class Visit>
  void eachEntry(const SparseMatrix& matrix, std::size_t row, Visit&& visit) const;

  struct Child {
    Index fine;
    double weight;
  };
  std::vector<std::array<Index, 2>> parents_; ///< by unknown, in corners
  std::vector<Index> fineOf_;                 ///< unknown of each corner
  std::vector<std::size_t> childStart_;       ///< by corner, one more at the end
  std::vector<Child> children_;
  std::vector<char> held_; ///< by unknown
  SparseMatrix coarse_;
};

} // namespace kiln
