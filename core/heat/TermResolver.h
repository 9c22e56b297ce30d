// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "heat/network/HeatTerm.h"
#include "model/Project.h"

namespace kiln
{

/// Turns lumped nodes, links, flow passages, beams and sources that follow a temperature into terms of the conditions.
/// Lumped unknowns come after those of the mesh.
class TermResolver
{
public:
  /// \param areaScale  exact over meshed area, by face
  TermResolver(const Project& project, const Mesh& mesh, const std::vector<double>& areaScale, Conditions& conditions);

  /// Gives every node that is not muted an unknown; before all else, once the mesh has its own.
  void numberNodes();
  /// Own powers and held temperatures of nodes, and all links.
  void addNodesAndLinks();
  /// A boundary whose ambient is a lumped node.
  void addToNode(int boundary, const std::string& surface, const std::string& node, const ExchangeLaw& law);
  /// Radiation between a surface and a lumped node.
  void addRadiationToNode(int boundary, const Radiation& radiation);
  void addPassage(int boundary, const FlowPassage& passage);
  /// Keeps the unknowns of what is muted now but may work at another instant.
  void reserveFor(const Boundary& boundary);
  void addBeam(int source, const Beam& beam);
  /// A source given as a table, in parts or on a surface; \p total where the table is of all of it together.
  void addFollowing(int source, Receivers receivers, const Property& heat, bool total);

  /// Heat spread over faces: where it is integrated, with the areas. At first order a node of several triangles is one
  /// place.
  [[nodiscard]] Receivers onFaces(const std::vector<FaceId>& faces) const;
  [[nodiscard]] Receivers inParts(const std::vector<std::string>& parts) const;
  [[nodiscard]] Receivers onSurface(const std::string& surface) const;
  [[nodiscard]] Receivers atPoint(const Vec3& place) const;

  [[nodiscard]] const std::optional<Failure>& failed() const { return failed_; }

private:
  void fail(const std::string& object, const std::string& problem, const std::string& remedy);
  [[nodiscard]] UnknownId nodeUnknown(const std::string& id) const;
  UnknownId newUnknown();
  [[nodiscard]] Receivers receiversOf(const std::string& end) const;
  [[nodiscard]] std::vector<Receivers> stretchesOf(const std::vector<FaceId>& faces, const Vec3& along,
                                                   int count) const;
  void addWire(int index, const Link& link, const Wire& wire);
  void addLink(int link, bool muted, const std::string& endA, const std::string& endB, ExchangeLaw law);
  void add(std::shared_ptr<const HeatFlow> flow) { conditions_.flows.push_back(std::move(flow)); }

  const Project& project_;
  const Mesh& mesh_;
  const std::vector<double>& areaScale_;
  Conditions& conditions_;
  std::optional<Failure> failed_;
};

} // namespace kiln
