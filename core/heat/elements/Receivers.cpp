// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/Receivers.h"

#include "heat/elements/SparseMatrix.h"

namespace kiln
{

void Receivers::add(Receiver receiver, std::span<const UnknownShare> shares)
{
  receiver.first = static_cast<std::uint32_t>(shares_.size());
  receiver.count = static_cast<std::uint32_t>(shares.size());
  shares_.insert(shares_.end(), shares.begin(), shares.end());
  receivers_.push_back(receiver);
}

void Receivers::addUnknown(UnknownId unknown)
{
  const UnknownShare own{unknown, 1};
  add({}, std::span(&own, 1));
}

void Receivers::append(const Receivers& others)
{
  for (const Receiver& receiver : others.receivers_)
    add(receiver, others.sharesOf(receiver));
}

double Receivers::totalWeight() const
{
  double sum = 0;
  for (const Receiver& receiver : receivers_)
    sum += receiver.weight;
  return sum;
}

void Receivers::scale(double factor)
{
  for (Receiver& receiver : receivers_)
    receiver.weight *= factor;
}

void Receivers::addSlope(const Receiver& receiver, double slope, SparseMatrix& matrix) const
{
  const auto shares = sharesOf(receiver);
  for (const UnknownShare& row : shares)
    for (const UnknownShare& column : shares)
      if (column.unknown <= row.unknown && row.share * column.share != 0)
        matrix.values[static_cast<std::size_t>(matrix.position(row.unknown, column.unknown))] +=
            slope * row.share * column.share;
}

} // namespace kiln
