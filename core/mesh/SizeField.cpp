// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/SizeField.h"

#include <algorithm>
#include <array>
#include <limits>

namespace kiln
{

SizeField::SizeField(std::vector<SizeSource> sources) : sources_(std::move(sources))
{
  if (!sources_.empty())
    build(0, sources_.size());
}

int SizeField::build(std::size_t begin, std::size_t end)
{
  constexpr std::size_t leafSize = 8;
  constexpr double infinite = std::numeric_limits<double>::infinity();
  Node node;
  node.low = Vec3::Constant(infinite);
  node.high = Vec3::Constant(-infinite);
  node.smallest = infinite;
  node.begin = begin;
  node.end = end;
  for (std::size_t i = begin; i < end; ++i) {
    node.low = node.low.cwiseMin(sources_[i].place);
    node.high = node.high.cwiseMax(sources_[i].place);
    node.smallest = std::min(node.smallest, sources_[i].size);
  }
  const int index = static_cast<int>(nodes_.size());
  nodes_.push_back(node);
  if (end - begin <= leafSize)
    return index;
  Eigen::Index axis = 0;
  (node.high - node.low).maxCoeff(&axis);
  const std::size_t middle = (begin + end) / 2;
  const auto first = sources_.begin();
  std::nth_element(first + static_cast<std::ptrdiff_t>(begin), first + static_cast<std::ptrdiff_t>(middle),
                   first + static_cast<std::ptrdiff_t>(end),
                   [axis](const SizeSource& a, const SizeSource& b) { return a.place[axis] < b.place[axis]; });
  const int left = build(begin, middle);
  const int right = build(middle, end);
  nodes_[static_cast<std::size_t>(index)].left = left;
  nodes_[static_cast<std::size_t>(index)].right = right;
  return index;
}

double SizeField::at(const Vec3& place, double most) const
{
  if (nodes_.empty())
    return most;
  const auto lowerBound = [&](const Node& node) {
    const Vec3 outside = (node.low - place).cwiseMax(place - node.high).cwiseMax(0);
    return node.smallest + growth * outside.norm();
  };
  double best = most;
  std::array<int, 64> stack{};
  std::size_t depth = 0;
  stack[depth++] = 0;
  while (depth > 0) {
    const Node& node = nodes_[static_cast<std::size_t>(stack[--depth])];
    if (lowerBound(node) >= best)
      continue;
    if (node.left < 0) {
      for (std::size_t i = node.begin; i < node.end; ++i)
        best = std::min(best, sources_[i].size + growth * (sources_[i].place - place).norm());
      continue;
    }
    stack[depth++] = node.left;
    stack[depth++] = node.right;
  }
  return best;
}

} // namespace kiln
