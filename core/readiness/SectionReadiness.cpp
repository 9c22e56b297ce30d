// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "readiness/NetworkReadiness.h"

namespace kiln
{
namespace
{

using Severity = Finding::Severity;

/// Does the source give watts for all of what it heats together?
bool isTotal(const HeatSource& source)
{
  return std::holds_alternative<PartPower>(source.heat) || std::holds_alternative<SurfacePower>(source.heat) ||
         std::holds_alternative<PointPower>(source.heat);
}

class SectionCheck
{
public:
  explicit SectionCheck(const Project& project) : project_(project) {}

  std::vector<Finding> run()
  {
    if (!project_.section)
      return {};
    if (const auto* plane = std::get_if<PlaneSection>(&project_.section->cut)) {
      if (!plane->depth)
        needDepth();
    } else {
      refuseTurned();
    }
    return std::move(findings_);
  }

private:
  void add(Severity severity, const Object& object, const std::string& kind, const std::string& problem,
           const std::string& remedy)
  {
    findings_.push_back({severity, object.id, kind + " " + object.name, problem, remedy, {}, {}});
  }

  /// Heat is per metre: a total in watts has no meaning.
  void needDepth()
  {
    const std::string remedy = "Give the section a depth, or give the heat per volume or area.";
    for (const HeatSource& source : project_.sources)
      if (!source.muted && isTotal(source))
        add(Severity::Error, source, "source", "It gives watts in all, and the section has no depth.", remedy);
    for (const Link& link : project_.links)
      if (!link.muted)
        add(Severity::Error, link, "link", "It passes watts in all, and the section has no depth.",
            "Give the section a depth.");
    for (const Contact& contact : project_.contacts)
      if (std::holds_alternative<TotalResistance>(contact.exchange) && !contact.muted)
        add(Severity::Error, contact, "contact", "Its resistance is of the whole, and the section has no depth.",
            "Give the section a depth, or the resistance per area.");
    for (const Boundary& boundary : project_.boundaries)
      if (!boundary.muted && (std::holds_alternative<FlowPassage>(boundary.condition) ||
                              std::holds_alternative<CurrentIn>(boundary.condition)))
        add(Severity::Error, boundary, "boundary", "It works on the whole depth, and the section has none.",
            "Give the section a depth.");
    for (const Node& node : project_.nodes)
      needDepthOf(node);
  }

  /// A node's own power and store are of the whole.
  void needDepthOf(const Node& node)
  {
    if (node.muted)
      return;
    if (node.power)
      add(Severity::Error, node, "node", "Its power is in all, and the section has no depth.",
          "Give the section a depth.");
    if (!std::holds_alternative<NoStore>(node.storage))
      add(Severity::Hint, node, "node", "What it stores counts for a metre of depth.",
          "Give the section a depth, or what is stored for a metre.");
  }

  /// Parallel rays run in space, which the half plane of a turned section is not.
  void refuseTurned()
  {
    for (const HeatSource& source : project_.sources)
      if (!source.muted && std::holds_alternative<Beam>(source.heat))
        add(Severity::Error, source, "source", "Directed radiation has no meaning in a turned section.",
            "Give the flux on the surface instead.");
  }

  const Project& project_;
  std::vector<Finding> findings_;
};

} // namespace

std::vector<Finding> checkSection(const Project& project) { return SectionCheck(project).run(); }

} // namespace kiln
