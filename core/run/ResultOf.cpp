// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/ResultOf.h"

#include "results/HeatAccount.h"
#include "results/PatchError.h"
#include "results/PerfectContacts.h"
#include "run/InputHash.h"

namespace kiln
{
namespace
{

std::vector<LedgerFlow> flowsOf(const auto& objects, const std::vector<double>& watts)
{
  std::vector<LedgerFlow> flows;
  for (std::size_t i = 0; i < objects.size(); ++i)
    if (!objects[i].muted)
      flows.push_back({objects[i].id, watts[i]});
  return flows;
}

std::vector<bool> jumpsOf(const Mesh& mesh, const Unknowns& unknowns)
{
  std::vector<bool> jump(mesh.geometry.faces.size(), false);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const auto f = static_cast<std::size_t>(mesh.triangleFace[t]);
    const auto& sides = unknowns.ofTriangle[t];
    const bool sheet = mesh.geometry.faces[f].exposed() && sides[1][0] >= 0;
    if (sheet || (mesh.geometry.faces[f].contact() && sides[0] != sides[1]))
      jump[f] = true;
  }
  return jump;
}

} // namespace

CaseResult resultOf(const Project& project, const Case& oneCase, const Mesh& mesh, std::string meshHash,
                    const Conditions& conditions, const ThermalSystem& system, SteadySolution solution,
                    std::span<const double> storing)
{
  const HeatAccount account = accountHeat(project, mesh, conditions, system, solution.temperature, storing);
  CaseResult result;
  result.caseId = oneCase.id;
  result.caseName = oneCase.name;
  result.meshHash = std::move(meshHash);
  result.solutionHash = solutionHash(project, oneCase);
  result.flux = heatFlux(mesh, conditions, solution.temperature);
  result.jump = jumpsOf(mesh, conditions.unknowns);
  result.faceHeat = account.faceHeat;
  result.contactHeat = account.contactHeat;
  result.gaps = account.gaps;
  result.caught = account.caught;
  result.paths = account.paths;
  result.enclosures = account.enclosures;
  result.sources = flowsOf(project.sources, account.source);
  result.boundaries = flowsOf(project.boundaries, account.boundary);
  result.heatIn = account.in;
  result.heatOut = account.out;
  result.stored = account.stored;
  result.imbalance = account.imbalance;
  result.heatFloor = account.floor;
  result.links = flowsOf(project.links, account.link);
  for (std::size_t i = 0; i < project.nodes.size(); ++i)
    if (const UnknownId unknown = conditions.nodeUnknowns[i]; unknown >= 0)
      result.nodes.push_back(
          {project.nodes[i].id, solution.temperature[static_cast<std::size_t>(unknown)], account.node[i]});
  for (const Conditions::Outlet& outlet : conditions.outlets)
    result.nodes.push_back({project.boundaries[static_cast<std::size_t>(outlet.boundary)].id,
                            solution.temperature[static_cast<std::size_t>(outlet.unknown)], 0});
  for (const ElectrodeFigure& electrode : account.electrodes)
    result.electrodes.push_back(
        {project.boundaries[static_cast<std::size_t>(electrode.boundary)].id, electrode.voltage, electrode.current});
  result.unknowns = conditions.unknowns;
  result.unknowns.count = static_cast<Index>(result.unknowns.node.size()); // of the mesh; the lumped ones stand apart
  result.temperature = std::move(solution.temperature);
  result.temperature.resize(result.unknowns.node.size());
  result.info = {solution.linearSolver, solution.newtonSteps, solution.linearIterations, solution.residual, {}};
  return result;
}

void addPatchErrors(CaseResult& result, const Mesh& mesh, const Conditions& conditions)
{
  std::size_t next = 0;
  for (const auto* exchange : flowsOf<EnclosureExchange>(conditions.flows))
    result.enclosures[next++].patchError = patchErrorOf(mesh, conditions, *exchange, result.temperature);
}

} // namespace kiln
