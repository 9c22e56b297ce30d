// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "readiness/NetworkReadiness.h"

#include "model/Edit.h"
#include "model/References.h"

#include <algorithm>
#include <map>
#include <set>

namespace kiln
{
namespace
{

using Severity = Finding::Severity;

class NetworkCheck
{
public:
  explicit NetworkCheck(const Project& project) : project_(project) {}

  std::vector<Finding> run()
  {
    for (const Link& link : project_.links)
      std::visit([&](const auto& kind) { checkLink(link, kind); }, link.exchange);
    checkFlowRings();
    for (const Boundary& boundary : project_.boundaries)
      checkBoundary(boundary);
    for (const HeatSource& source : project_.sources)
      checkSource(source);
    for (const Material& material : project_.materials)
      checkMelting(material);
    for (const Watch& watch : project_.watches)
      checkWatch(watch);
    return std::move(findings_);
  }

private:
  void add(Severity severity, const Object& object, const std::string& kind, const std::string& problem,
           const std::string& remedy, std::vector<Mend> mends = {})
  {
    findings_.push_back({severity, object.id, kind + " " + object.name, problem, remedy, {}, std::move(mends)});
  }

  template <class Kind>
  void checkLink(const Link& link, const Kind& kind)
  {
    const Mend remove{Mend::Action::RemoveObject, "Remove it", {link.id}};
    if constexpr (requires { kind.endA; }) {
      for (const std::string& end : {kind.endA, kind.endB})
        if (const Watch* watch = findById(project_.watches, end); watch != nullptr &&
                                                                  !std::holds_alternative<PointFigure>(watch->figure) &&
                                                                  kindOfObject(project_, end) == Refers::Watch)
          add(Severity::Error, link, "link", "Its end " + watch->name + " is no watched point.",
              "Choose a node, a part, a surface or a watched point.", {remove});
      if (kind.endA == kind.endB && !kind.endA.empty())
        add(Severity::Error, link, "link", "Both its ends are the same.", "Choose another end.", {remove});
      if constexpr (std::is_same_v<Kind, Wire>)
        checkWire(link, kind);
    } else if (kind.upstream == kind.downstream && !kind.upstream.empty()) {
      add(Severity::Error, link, "link", "It flows from a node into itself.", "Choose another node.", {remove});
    }
  }

  void checkWire(const Link& link, const Wire& wire)
  {
    if (wire.coefficient && !wire.ambient)
      add(Severity::Error, link, "link", "The wire loses heat at its side, but to what temperature is not said.",
          "Give the ambient.");
    if (wire.length.si < wire.diameter.si)
      add(Severity::Hint, link, "link", "The wire is thicker than it is long.",
          "A wire counts on heat flowing along it; make it a part instead.");
  }

  /// A flow that only goes round takes nothing in and gives nothing away.
  void checkFlowRings()
  {
    std::map<std::string, const Link*> feeds; // by downstream node
    for (const Link& link : project_.links)
      if (const auto* flow = std::get_if<FlowLink>(&link.exchange); flow != nullptr && !link.muted)
        feeds[flow->downstream] = &link;
    std::set<std::string> told;
    for (const auto& [start, first] : feeds) {
      std::vector<std::string> way;
      std::string node = start;
      while (feeds.contains(node) && std::find(way.begin(), way.end(), node) == way.end()) {
        way.push_back(node);
        node = std::get<FlowLink>(feeds.at(node)->exchange).upstream;
      }
      const bool ring = std::find(way.begin(), way.end(), node) != way.end();
      const bool held = std::any_of(way.begin(), way.end(), [&](const std::string& id) {
        const Node* own = findById(project_.nodes, id);
        return own != nullptr && own->temperature.has_value();
      });
      const auto least = std::min_element(way.begin(), way.end());
      if (ring && !held && told.insert(*least).second)
        add(Severity::Error, *first, "link", "The flow goes round in a ring without an inlet.",
            "Hold the temperature of one of its nodes, or open the ring.");
    }
  }

  void checkBoundary(const Boundary& boundary)
  {
    if (const auto* flow = std::get_if<FlowPassage>(&boundary.condition))
      if (flow->direction.x.si == 0 && flow->direction.y.si == 0 && flow->direction.z.si == 0)
        add(Severity::Error, boundary, "boundary", "Its flow has no direction.",
            "Give the direction, for example 1, 0, 0.");
    const auto fixesVoltage = [](const Boundary& other) {
      return !other.muted && std::holds_alternative<FixedVoltage>(other.condition);
    };
    if (!boundary.muted && std::holds_alternative<CurrentIn>(boundary.condition) &&
        std::none_of(project_.boundaries.begin(), project_.boundaries.end(), fixesVoltage))
      add(Severity::Error, boundary, "boundary",
          "Current is given, but nowhere a voltage: the potential is only known up to a constant.",
          "Fix the voltage of one surface, for example 0 V where the current leaves.");
  }

  void checkSource(const HeatSource& source)
  {
    if (const auto* beam = std::get_if<Beam>(&source.heat))
      checkBeamDirection(source, *beam);
    if (!source.follows.empty() && source.follows != "mean")
      needsTemperature(source, source.follows, "It follows");
    if (source.thermostat)
      needsTemperature(source, source.thermostat->watch, "Its thermostat reads");
  }

  void needsTemperature(const HeatSource& source, const std::string& id, const std::string& words)
  {
    const Watch* watch = findById(project_.watches, id);
    if (watch != nullptr && quantityOf(*watch) != Quantity::Temperature &&
        quantityOf(*watch) != Quantity::TemperatureStep)
      add(Severity::Error, source, "source", words + " " + watch->name + ", which is no temperature.",
          "Choose a watch of a temperature.");
  }

  void checkBeamDirection(const HeatSource& source, const Beam& beam)
  {
    const Number3& from = beam.from;
    if (from.x.si == 0 && from.y.si == 0 && from.z.si == 0) {
      add(Severity::Error, source, "source", "Its rays have no direction.",
          "Give the direction it comes from, for example 0, 0, 1 for straight from above.");
      return;
    }
    const Number3 down = project_.environment.value_or(Environment{}).gravity;
    if (from.x.si * down.x.si + from.y.si * down.y.si + from.z.si * down.z.si > 0)
      add(Severity::Hint, source, "source", "Its rays come from below the horizon: they meet what faces down.",
          "Give the direction in which the sun or lamp is seen, not the one in which the rays go.");
  }

  void checkMelting(const Material& material)
  {
    if (material.latentHeat && !material.meltsFrom && !material.meltsTo)
      add(Severity::Error, material, "material", "It has a latent heat but no temperature at which it melts.",
          "Say from where to where it melts.");
    if (!material.latentHeat && (material.meltsFrom || material.meltsTo))
      add(Severity::Hint, material, "material", "It has a melting temperature but no latent heat; melting takes none.",
          "Give its latent heat.");
    if (material.meltsFrom && material.meltsTo && material.meltsTo->si < material.meltsFrom->si)
      add(Severity::Error, material, "material", "It would be molten below the temperature at which it starts to melt.",
          "Exchange the two.");
  }

  void checkWatch(const Watch& watch)
  {
    if (const auto* node = std::get_if<NodeFigure>(&watch.figure)) {
      const Boundary* passage = findById(project_.boundaries, node->node);
      if (passage != nullptr && !std::holds_alternative<FlowPassage>(passage->condition))
        add(Severity::Error, watch, "watch", "It reads " + passage->name + ", which is no node and no flow passage.",
            "Choose a lumped node or a flow passage.");
    } else if (const auto* between = std::get_if<BetweenWatches>(&watch.figure)) {
      const auto is = [&](const std::string& id, Quantity quantity) {
        const Watch* own = findById(project_.watches, id);
        return own != nullptr && quantityOf(*own) == quantity;
      };
      if (!is(between->hot, Quantity::Temperature) || !is(between->cold, Quantity::Temperature) ||
          !is(between->heat, Quantity::Power))
        add(Severity::Error, watch, "watch", "A resistance needs two watches of temperatures and one of a heat.",
            "Choose them.");
    }
  }

  const Project& project_;
  std::vector<Finding> findings_;
};

} // namespace

std::vector<Finding> checkNetwork(const Project& project) { return NetworkCheck(project).run(); }

} // namespace kiln
