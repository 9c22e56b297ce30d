// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/NetworkFile.h"

#include "base/At.h"
#include "base/Versions.h"
#include "io/JsonText.h"
#include "model/Edit.h"
#include "model/Walk.h"
#include "results/Figures.h"

#include <algorithm>
#include <cmath>
#include <initializer_list>
#include <map>
#include <set>

namespace kiln
{
namespace
{

using Kind = NetworkBranch::Kind;
constexpr std::size_t outside = NetworkBranch::outside;

/// Archive that finds the temperature that a condition goes by.
class ToTemperature : public Walk<ToTemperature>
{
public:
  std::optional<double> kelvin;
  void number(const NumberSpec& spec, Number& value) { take(spec, value); }
  void property(const NumberSpec& spec, Property& value)
  {
    if (value.table.empty())
      take(spec, value);
  }

private:
  void take(const NumberSpec& spec, const Number& value)
  {
    if (spec.quantity == Quantity::Temperature && !kelvin)
      kelvin = value.si;
  }
};

/// J/K; nothing: it stores nothing, or by what is not known here.
std::optional<double> capacityOf(const Node& node)
{
  if (const auto* own = std::get_if<CapacityStore>(&node.storage))
    return own->capacity.si;
  if (const auto* mass = std::get_if<MassStore>(&node.storage))
    return mass->mass.si * mass->specificHeat.si;
  return std::nullopt;
}

/// Builds the network from what a result says of its heat.
class NetworkBuilder
{
public:
  NetworkBuilder(const Project& project, const CaseResult& result) : project_(project), result_(result) {}

  ThermalNetwork run()
  {
    addNodes();
    for (const ContactFigure& contact : contactFigures(result_))
      join(contact.partA, contact.partB, contact.watts, contact.partA + "|" + contact.partB, "contact");
    for (const EnclosureFigure& enclosure : result_.enclosures)
      addEnclosure(enclosure);
    for (const HeatToPart& path : result_.paths)
      addPath(path);
    for (const Link& link : project_.links)
      addLink(link);
    for (const NodeState& state : result_.nodes)
      addOwnHeat(state);
    if (!result_.transient)
      for (std::size_t i = 0; i < network_.nodes.size(); ++i)
        addRest(i);
    return std::move(network_);
  }

private:
  void addNodes()
  {
    const std::vector<double> volumes = meshedVolumes(result_.mesh);
    for (const PartFigures& figure : partFigures(result_)) {
      const Part* part = findById(project_.parts, figure.id);
      const Material* material = part != nullptr ? findById(project_.materials, part->material) : nullptr;
      const PartId index = result_.mesh.geometry.partIndex(figure.id);
      std::optional<double> capacity;
      if (material != nullptr && material->density && material->specificHeat && index != noPart && !project_.section)
        capacity = volumes[at(index)] * material->density->si * valueAt(*material->specificHeat, figure.mean).value;
      add({NetworkNode::Kind::Part, figure.id, part != nullptr ? part->name : figure.name, figure.mean, capacity});
    }
    for (const NodeState& state : result_.nodes)
      if (const Node* node = findById(project_.nodes, state.id))
        add({node->temperature ? NetworkNode::Kind::Held : NetworkNode::Kind::Lumped, node->id, node->name,
             state.temperature, node->temperature ? std::nullopt : capacityOf(*node)});
  }

  std::size_t add(NetworkNode node)
  {
    byId_[node.id] = network_.nodes.size();
    network_.nodes.push_back(std::move(node));
    return network_.nodes.size() - 1;
  }

  [[nodiscard]] std::optional<std::size_t> find(const std::string& id) const
  {
    const auto found = byId_.find(id);
    return found != byId_.end() ? std::optional(found->second) : std::nullopt;
  }

  /// Surroundings at a temperature, those of one condition or opening.
  std::size_t held(const std::string& id, const std::string& name, double kelvin)
  {
    const auto found = find("held:" + id);
    return found ? *found : add({NetworkNode::Kind::Held, "held:" + id, name, kelvin, std::nullopt});
  }

  /// A resistance where heat follows the difference, else so much heat.
  void join(std::size_t from, std::size_t to, double watts, const std::string& id, const std::string& name)
  {
    if (std::abs(watts) <= result_.heatFloor)
      return;
    const double difference = network_.nodes[from].kelvin - network_.nodes[to].kelvin;
    constexpr double least = 1e-6; // K: below it a quotient is noise
    if (difference * watts > 0 && std::abs(difference) > least)
      network_.branches.push_back({Kind::Resistance, from, to, id, name, watts, difference / watts, false});
    else
      network_.branches.push_back({Kind::Heat, from, to, id, name, watts, 0, false});
  }
  void join(const std::string& from, const std::string& to, double watts, const std::string& id,
            const std::string& name)
  {
    const auto a = find(from);
    const auto b = find(to);
    if (a && b)
      join(*a, *b, watts, id, name);
  }

  void give(std::size_t to, double watts, const std::string& id, const std::string& name)
  {
    if (std::abs(watts) > result_.heatFloor)
      network_.branches.push_back({Kind::Heat, outside, to, id, name, watts, 0, true});
  }

  void addEnclosure(const EnclosureFigure& figure)
  {
    const Enclosure* own = findById(project_.enclosures, figure.id);
    const std::string name = own != nullptr ? own->name : figure.id;
    for (const EnclosureFigure::Exchange& exchange : figure.exchanges)
      join(exchange.partA, exchange.partB, exchange.watts, figure.id, name);
    for (const EnclosureFigure::OpeningShare& share : figure.throughOpening)
      if (const auto part = find(share.part); part && own != nullptr && own->opening)
        join(*part, held(figure.id, "opening of " + name, own->opening->si), share.watts, figure.id, name);
  }

  /// Heat into a part by what is no enclosure and no link between lumped nodes.
  void addPath(const HeatToPart& path)
  {
    const auto part = find(path.part);
    if (!part || findById(project_.enclosures, path.of) != nullptr)
      return;
    if (const Boundary* boundary = findById(project_.boundaries, path.of)) {
      if (const auto node = find(nodeOf(*boundary)); node && !nodeOf(*boundary).empty())
        return join(*node, *part, path.watts, boundary->id, boundary->name);
      ToTemperature walk;
      std::visit(
          [&](const auto& condition) { describe(walk, const_cast<std::decay_t<decltype(condition)>&>(condition)); },
          boundary->condition);
      if (walk.kelvin)
        return join(held(boundary->id, boundary->name, *walk.kelvin), *part, path.watts, boundary->id, boundary->name);
      return give(*part, path.watts, boundary->id, boundary->name);
    }
    if (const Link* link = findById(project_.links, path.of)) {
      for (const auto& [node, id] : nodesOf(*link))
        return join(node, *part, path.watts, link->id, link->name);
      partEnds_[link->id].emplace_back(*part, path.watts);
      return;
    }
    const HeatSource* source = findById(project_.sources, path.of);
    give(*part, path.watts, path.of, source != nullptr ? source->name : path.of);
  }

  /// Ends of a link that are lumped nodes.
  [[nodiscard]] std::vector<std::pair<std::size_t, std::string>> nodesOf(const Link& link) const
  {
    std::vector<std::pair<std::size_t, std::string>> ends;
    const auto take = [&](const std::string& id) {
      if (findById(project_.nodes, id) != nullptr)
        if (const auto found = find(id))
          ends.emplace_back(*found, id);
    };
    std::visit(
        [&](const auto& kind) {
          if constexpr (requires { kind.endA; })
            take(kind.endA), take(kind.endB);
          else
            take(kind.upstream), take(kind.downstream);
        },
        link.exchange);
    return ends;
  }

  /// Between two lumped nodes by its own law; between two parts by the heat that passed.
  void addLink(const Link& link)
  {
    if (link.muted)
      return;
    const auto ends = nodesOf(link);
    if (const auto& parts = partEnds_[link.id]; parts.size() == 2 && ends.empty())
      return join(parts[0].first, parts[1].first, parts[1].second, link.id, link.name);
    if (ends.size() != 2)
      return;
    const std::size_t a = ends[0].first;
    const std::size_t b = ends[1].first;
    if (const auto* conductor = std::get_if<Conductor>(&link.exchange))
      network_.branches.push_back(
          {Kind::Resistance, a, b, link.id, link.name, wattsOf(link.id), 1 / conductor->conductance.si, true});
    else if (const auto* flow = std::get_if<FlowLink>(&link.exchange))
      network_.branches.push_back({Kind::Flow, a, b, link.id, link.name, wattsOf(link.id),
                                   1 / (flow->massFlow.si * flow->specificHeat.si), true});
    else
      join(a, b, wattsOf(link.id), link.id, link.name);
  }

  [[nodiscard]] double wattsOf(const std::string& linkId) const
  {
    for (const LedgerFlow& flow : result_.links)
      if (flow.id == linkId)
        return flow.watts;
    return 0;
  }

  /// Its own power; what holds its temperature is no heat of the network.
  void addOwnHeat(const NodeState& state)
  {
    const auto index = find(state.id);
    if (index && network_.nodes[*index].kind == NetworkNode::Kind::Lumped)
      give(*index, state.watts, state.id, "power of " + network_.nodes[*index].name);
  }

  /// What the branches do not say: in a steady state no heat is left over.
  void addRest(std::size_t index)
  {
    if (network_.nodes[index].kind == NetworkNode::Kind::Held)
      return;
    double rest = 0;
    double most = 0;
    for (const NetworkBranch& branch : network_.branches) {
      const double in = branch.to == index ? branch.watts : 0;
      const double out = branch.from == index && branch.kind != Kind::Flow ? branch.watts : 0;
      rest += in - out;
      most = std::max({most, std::abs(in), std::abs(out)});
    }
    constexpr double rounding = 1e-12;
    if (std::abs(rest) > rounding * most)
      network_.branches.push_back({Kind::Heat, outside, index, "rest:" + network_.nodes[index].id,
                                   "what its branches leave over", -rest, 0, false});
  }

  const Project& project_;
  const CaseResult& result_;
  ThermalNetwork network_;
  std::map<std::string, std::size_t> byId_;
  std::map<std::string, std::vector<std::pair<std::size_t, double>>> partEnds_; ///< of links between parts
};

const char* wordOf(NetworkNode::Kind kind)
{
  return kind == NetworkNode::Kind::Part ? "part" : kind == NetworkNode::Kind::Lumped ? "lumped node" : "held";
}
const char* wordOf(Kind kind) { return kind == Kind::Resistance ? "resistance" : kind == Kind::Flow ? "flow" : "heat"; }

/// Letters that every reader of netlists takes, lower case, with a number where two would be the same.
class NetlistNames
{
public:
  std::string of(const std::string& name)
  {
    std::string plain;
    for (const char c : name) {
      const auto letter = static_cast<unsigned char>(c);
      plain += std::isalnum(letter) != 0 && letter < 128 ? static_cast<char>(std::tolower(letter)) : '_';
    }
    if (plain.empty() || plain == "0" || std::isalpha(static_cast<unsigned char>(plain[0])) == 0)
      plain.insert(0, "n");
    std::string free = plain;
    for (int i = 2; !taken_.insert(free).second; ++i)
      free = plain + "_" + std::to_string(i);
    return free;
  }

private:
  std::set<std::string> taken_;
};

/// A line of words.
std::string lineOf(std::initializer_list<std::string> words)
{
  std::string line;
  for (const std::string& word : words)
    line += (line.empty() ? "" : " ") + word;
  return line + "\n";
}

/// A comment must not end its line.
std::string oneLine(std::string text)
{
  std::replace_if(
      text.begin(), text.end(), [](unsigned char c) { return c < ' '; }, ' ');
  return text;
}

} // namespace

ThermalNetwork thermalNetwork(const Project& project, const CaseResult& result)
{
  return NetworkBuilder(project, result).run();
}

std::string networkJson(const ThermalNetwork& network, const Project& project, const CaseResult& result)
{
  Json json{{"format", "usual-kiln network"},
            {"version", 1},
            {"project", project.name},
            {"case", result.caseName},
            {"instant", result.transient ? Json(result.time) : Json("steady")},
            {"what",
             {{"temperature", "K; of a part its mean by volume"},
              {"capacity", "J/K at that temperature; null: it stores nothing, or that is not known"},
              {"heat", "W as solved, from the first to the second; null as the first: from outside the model"},
              {"resistance", "K/W"},
              {"exact", "true: it holds at all temperatures; false: at those that were solved"},
              {"flow", "a stream: the second gets (T1 − T2)/resistance, the first gives nothing"}}}};
  json["nodes"] = Json::array();
  for (const NetworkNode& node : network.nodes)
    json["nodes"].push_back({{"id", node.id},
                             {"name", node.name},
                             {"kind", wordOf(node.kind)},
                             {"temperature", node.kelvin},
                             {"capacity", node.perKelvin ? Json(*node.perKelvin) : Json()}});
  json["branches"] = Json::array();
  for (const NetworkBranch& branch : network.branches) {
    const auto end = [&](std::size_t i) { return i == outside ? Json() : Json(network.nodes[i].id); };
    Json one{{"of", branch.id},      {"name", branch.name},  {"kind", wordOf(branch.kind)}, {"from", end(branch.from)},
             {"to", end(branch.to)}, {"heat", branch.watts}, {"exact", branch.exact}};
    if (branch.kind != Kind::Heat)
      one["resistance"] = branch.kelvinPerWatt;
    json["branches"].push_back(std::move(one));
  }
  return prettyJson(json) + "\n";
}

std::string networkNetlist(const ThermalNetwork& network, const Project& project, const CaseResult& result)
{
  NetlistNames names;
  std::vector<std::string> nodes;
  const auto number = [](double value) { return plainNumber(value); };
  std::string text = "* " + oneLine(project.name) + ", case " + oneLine(result.caseName) +
                     ": thermal network, Usual Kiln " + ownVersion() +
                     "\n* 1 V is 1 K (absolute temperature), 1 A is 1 W; R in K/W, C in J/K.\n";
  for (const NetworkNode& node : network.nodes) {
    nodes.push_back(names.of(node.id));
    text +=
        "* " + nodes.back() + ": " + wordOf(node.kind) + " " + oneLine(node.name) + ", " + number(node.kelvin) + " K\n";
  }
  int count = 0;
  for (const NetworkBranch& branch : network.branches) {
    const std::string of = std::to_string(++count);
    const std::string to = nodes[branch.to];
    const std::string from = branch.from == outside ? "0" : nodes[branch.from];
    text += "* " + oneLine(branch.name) + (branch.exact ? "\n" : " (as solved)\n");
    if (branch.kind == Kind::Resistance)
      text += lineOf({"R" + of, from, to, number(branch.kelvinPerWatt)});
    else if (branch.kind == Kind::Flow)
      text += lineOf({"G" + of, "0", to, from, to, number(1 / branch.kelvinPerWatt)});
    else
      text += lineOf({"I" + of, from, to, "DC", number(branch.watts)});
  }
  std::string conditions;
  for (std::size_t i = 0; i < nodes.size(); ++i) {
    const NetworkNode& node = network.nodes[i];
    if (node.kind == NetworkNode::Kind::Held)
      text += lineOf({"V" + std::to_string(i + 1), nodes[i], "0", "DC", number(node.kelvin)});
    else if (node.perKelvin)
      text +=
          lineOf({"C" + std::to_string(i + 1), nodes[i], "0", number(*node.perKelvin), "IC=" + number(node.kelvin)});
    if (node.kind != NetworkNode::Kind::Held)
      conditions += "+ V(" + nodes[i] + ")=" + number(node.kelvin) + "\n";
  }
  if (!conditions.empty())
    text += ".IC\n" + conditions;
  return text + ".OP\n.END\n";
}

} // namespace kiln
