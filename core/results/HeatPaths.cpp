// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/HeatPaths.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

using Kind = PathBlock::Kind;

class PathBuilder
{
public:
  PathBuilder(const Project& project, const PathFigures& figures, const std::vector<std::string>& folded)
      : project_(project), figures_(figures)
  {
    for (const Part& part : project.parts)
      if (const PartGroup* group = findById(project.groups, part.group);
          group != nullptr && std::find(folded.begin(), folded.end(), group->id) != folded.end())
        groupOf_.emplace(part.id, group);
  }

  HeatPaths run()
  {
    for (const HeatToPart& path : figures_.paths)
      addPath(path);
    for (const ContactFigure& contact : figures_.contacts)
      add(part(contact.partA), part(contact.partB), contact.watts, pairId(contact.partA, contact.partB));
    for (const LedgerFlow& flow : figures_.links)
      addLink(flow);
    for (const NodeState& state : figures_.nodes)
      if (const Node* node = findById(project_.nodes, state.id); node != nullptr && state.watts != 0)
        add(block(node->temperature ? Kind::Outside : Kind::Source, state.id + " held", outsideOf(*node)),
            block(Kind::Node, node->id, node->name), state.watts, {});
    join();
    settle();
    dropRounding();
    placeColumns();
    placeRows();
    for (const PathBlock& own : result_.blocks)
      if (own.kind == Kind::Store)
        result_.stored += own.in - own.out;
      else if (own.kind == Kind::Source || own.kind == Kind::Outside)
        own.out > own.in ? result_.in += own.out - own.in : result_.out += own.in - own.out;
    return std::move(result_);
  }

private:
  std::size_t block(Kind kind, const std::string& id, const std::string& name)
  {
    const auto [found, isNew] = known_.emplace(id, result_.blocks.size());
    if (isNew)
      result_.blocks.push_back({kind, id, name, 0, 0, 0, 0});
    return found->second;
  }
  std::size_t part(const std::string& id)
  {
    if (const auto group = groupOf_.find(id); group != groupOf_.end())
      return block(Kind::Group, group->second->id, group->second->name);
    const Part* own = findById(project_.parts, id);
    return block(Kind::Part, id, own != nullptr ? own->name : id);
  }
  static std::string outsideOf(const Node& node)
  {
    return node.temperature ? "what holds " + node.name : "power of " + node.name;
  }

  /// \param watts  from the first to the second; the other way where negative
  void add(std::size_t from, std::size_t to, double watts, const std::string& via)
  {
    if (from == to || watts == 0)
      return;
    if (watts < 0)
      std::swap(from, to);
    result_.bands.push_back({from, to, std::abs(watts), via});
  }

  void addPath(const HeatToPart& path)
  {
    const std::size_t into = part(path.part);
    if (path.of == electricHeat)
      return add(block(Kind::Source, electricHeat, electricHeat), into, path.watts, {});
    if (const HeatSource* source = findById(project_.sources, path.of))
      return add(block(Kind::Source, source->id, source->name), into, path.watts, {});
    if (const Enclosure* enclosure = findById(project_.enclosures, path.of))
      return add(block(Kind::Between, enclosure->id, enclosure->name), into, path.watts, {});
    if (const Boundary* boundary = findById(project_.boundaries, path.of)) {
      if (const Node* node = findById(project_.nodes, nodeOf(*boundary)))
        return add(block(Kind::Node, node->id, node->name), into, path.watts, boundary->id);
      return add(block(Kind::Outside, boundary->id, boundary->name), into, path.watts, {});
    }
    if (const Link* link = findById(project_.links, path.of)) {
      const auto [first, second] = endsOf(*link);
      for (const std::string& end : {first, second})
        if (const Node* node = findById(project_.nodes, end))
          return add(block(Kind::Node, node->id, node->name), into, path.watts, link->id);
      add(block(Kind::Between, link->id, link->name), into, path.watts, {});
    }
  }

  static std::pair<std::string, std::string> endsOf(const Link& link)
  {
    return std::visit(
        [](const auto& kind) -> std::pair<std::string, std::string> {
          if constexpr (requires { kind.endA; })
            return {kind.endA, kind.endB};
          else
            return {kind.upstream, kind.downstream};
        },
        link.exchange);
  }

  /// From one node to another; what reaches parts is known already.
  void addLink(const LedgerFlow& flow)
  {
    const Link* link = findById(project_.links, flow.id);
    if (link == nullptr)
      return;
    const auto [first, second] = endsOf(*link);
    const Node* from = findById(project_.nodes, first);
    const Node* to = findById(project_.nodes, second);
    if (to == nullptr)
      return;
    const std::size_t into = block(Kind::Node, to->id, to->name);
    if (std::holds_alternative<FlowLink>(link->exchange)) // it takes nothing from where it comes from
      add(block(Kind::Outside, link->id, link->name), into, flow.watts, {});
    else if (from != nullptr)
      add(block(Kind::Node, from->id, from->name), into, flow.watts, link->id);
  }

  /// One band where several run between the same blocks by the same way, in the direction of their sum.
  void join()
  {
    std::map<std::tuple<std::size_t, std::size_t, std::string>, double> sums;
    for (const PathBand& band : result_.bands) {
      const auto [low, high] = std::minmax(band.from, band.to);
      sums[{low, high, band.via}] += band.from == low ? band.watts : -band.watts;
    }
    result_.bands.clear();
    for (const auto& [ends, watts] : sums)
      add(std::get<0>(ends), std::get<1>(ends), watts, std::get<2>(ends));
  }

  void sum()
  {
    for (PathBlock& own : result_.blocks)
      own.in = own.out = 0;
    for (const PathBand& band : result_.bands) {
      result_.blocks[band.from].out += band.watts;
      result_.blocks[band.to].in += band.watts;
    }
  }

  /// What does not come out again is stored in parts and nodes; of what lies between it leaves the model.
  void settle()
  {
    sum();
    const std::size_t count = result_.blocks.size();
    for (std::size_t b = 0; b < count; ++b) {
      const PathBlock own = result_.blocks[b];
      const double rest = own.in - own.out;
      if (std::abs(rest) <= std::max(figures_.floor, rounding * own.watts()))
        continue;
      if (own.kind == Kind::Between)
        add(b, block(Kind::Outside, own.id + " out", "out of " + own.name), rest, {});
      else if (own.kind == Kind::Part || own.kind == Kind::Group || own.kind == Kind::Node)
        add(b, rest > 0 ? block(Kind::Store, "+", "stored") : block(Kind::Store, "-", "from store"), rest, {});
    }
    sum();
  }

  void dropRounding()
  {
    double most = 0;
    for (const PathBand& band : result_.bands)
      most = std::max(most, band.watts);
    std::erase_if(result_.bands, [&](const PathBand& band) { return band.watts <= rounding * most; });
    sum();
    std::vector<std::size_t> now(result_.blocks.size());
    std::vector<PathBlock> kept;
    for (std::size_t b = 0; b < now.size(); ++b) {
      now[b] = kept.size();
      if (result_.blocks[b].watts() > 0)
        kept.push_back(result_.blocks[b]);
    }
    result_.blocks = std::move(kept);
    for (PathBand& band : result_.bands)
      band = {now[band.from], now[band.to], band.watts, band.via};
  }

  /// Is there a way from one block to another, over what was taken so far?
  [[nodiscard]] bool leads(std::size_t from, std::size_t to, const std::vector<std::vector<std::size_t>>& after) const
  {
    std::vector<std::size_t> open{from};
    std::vector<char> seen(result_.blocks.size(), 0);
    while (!open.empty()) {
      const std::size_t b = open.back();
      open.pop_back();
      if (b == to)
        return true;
      if (std::exchange(seen[b], char{1}) == 0)
        open.insert(open.end(), after[b].begin(), after[b].end());
    }
    return false;
  }

  /// Every band goes to a later column, the wide ones before all; a narrow one that would close a ring goes back.
  void placeColumns()
  {
    std::vector<PathBand> widest = result_.bands;
    std::sort(widest.begin(), widest.end(), [](const auto& a, const auto& b) { return a.watts > b.watts; });
    std::vector<std::vector<std::size_t>> after(result_.blocks.size());
    for (const PathBand& band : widest)
      if (!leads(band.to, band.from, after))
        after[band.from].push_back(band.to);
    for (bool moved = true; moved;) {
      moved = false;
      for (std::size_t b = 0; b < after.size(); ++b)
        for (const std::size_t next : after[b])
          if (result_.blocks[next].column <= result_.blocks[b].column)
            result_.blocks[next].column = result_.blocks[b].column + 1, moved = true;
    }
    for (const PathBlock& own : result_.blocks)
      result_.columns = std::max(result_.columns, own.column + 1);
    for (PathBlock& own : result_.blocks) // what leaves the model stands at the end
      if (own.out == 0 && (own.kind == Kind::Outside || own.kind == Kind::Store || own.kind == Kind::Source))
        own.column = result_.columns - 1;
  }

  /// Blocks stand in the order of what they are joined with on the left, so that bands cross little.
  void placeRows()
  {
    std::vector<double> place(result_.blocks.size(), 0);
    for (std::size_t column = 0; column < result_.columns; ++column) {
      std::vector<std::size_t> own;
      for (std::size_t b = 0; b < result_.blocks.size(); ++b)
        if (result_.blocks[b].column == column)
          own.push_back(b);
      std::map<std::size_t, double> wish;
      for (const std::size_t b : own) {
        double sum = 0;
        double weight = 0;
        for (const PathBand& band : result_.bands)
          if (const std::size_t other = band.to == b ? band.from : band.to;
              (band.to == b || band.from == b) && result_.blocks[other].column < column)
            sum += band.watts * place[other], weight += band.watts;
        wish[b] = weight > 0 ? sum / weight : 0;
      }
      std::stable_sort(own.begin(), own.end(), [&](std::size_t a, std::size_t b) {
        return wish[a] != wish[b] ? wish[a] < wish[b] : result_.blocks[a].watts() > result_.blocks[b].watts();
      });
      double total = 0;
      for (const std::size_t b : own)
        total += result_.blocks[b].watts();
      double at = -total / 2;
      for (std::size_t i = 0; i < own.size(); ++i) {
        result_.blocks[own[i]].row = i;
        place[own[i]] = at + result_.blocks[own[i]].watts() / 2;
        at += result_.blocks[own[i]].watts();
      }
    }
  }

  static constexpr double rounding = 1e-9; // of what flows

  const Project& project_;
  const PathFigures& figures_;
  std::map<std::string, const PartGroup*> groupOf_;
  std::map<std::string, std::size_t> known_; ///< blocks by id
  HeatPaths result_;
};

} // namespace

HeatPaths heatPaths(const Project& project, const PathFigures& figures, const std::vector<std::string>& folded)
{
  return PathBuilder(project, figures, folded).run();
}

} // namespace kiln
