// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/JsonReader.h"
#include "io/JsonWriter.h"
#include "io/SureRecord.h"
#include "results/CaseResult.h"
#include "results/RunRecord.h"

/// What of results is kept as text: described once, read and written by the archives of the project.
namespace kiln
{

template <class A>
void describe(A& a, LedgerFlow& f)
{
  a.value("id", f.id), a.value("watts", f.watts);
}
template <class A>
void describe(A& a, NodeState& n)
{
  a.value("id", n.id), a.value("temperature", n.temperature), a.value("watts", n.watts);
}
template <class A>
void describe(A& a, ElectrodeState& e)
{
  a.value("id", e.id), a.value("voltage", e.voltage), a.value("current", e.current);
}
template <class A>
void describe(A& a, CaughtHeat& c)
{
  a.value("source", c.source), a.value("surface", c.surface), a.value("watts", c.watts);
}
template <class A>
void describe(A& a, HeatToPart& h)
{
  a.value("of", h.of), a.value("part", h.part), a.value("watts", h.watts);
}
template <class A>
void describe(A& a, ContactFigure& c)
{
  a.value("partA", c.partA), a.value("partB", c.partB), a.value("area", c.area), a.value("watts", c.watts);
}
template <class A>
void describe(A& a, EnclosureFigure::SurfaceNet& s)
{
  a.value("surface", s.surface), a.value("watts", s.watts);
}
template <class A>
void describe(A& a, EnclosureFigure::Exchange& e)
{
  a.value("partA", e.partA), a.value("partB", e.partB), a.value("watts", e.watts);
}
template <class A>
void describe(A& a, EnclosureFigure::OpeningShare& s)
{
  a.value("part", s.part), a.value("watts", s.watts);
}
template <class A>
void describe(A& a, EnclosureFigure& e)
{
  a.value("id", e.id);
  a.list("surfaces", e.surfaces);
  a.list("exchanges", e.exchanges);
  a.value("opening", e.opening);
  a.list("throughOpening", e.throughOpening);
  a.value("patchError", e.patchError);
  a.value("moved", e.moved);
  a.value("patches", e.patches);
  a.value("rays", e.rays);
  a.value("escaped", e.escaped);
  a.value("reciprocityError", e.reciprocityError);
  a.value("correction", e.correction);
}
template <class A>
void describe(A& a, BoundsExcess& e)
{
  a.value("kelvin", e.kelvin);
  a.value("time", e.time);
  std::array<double, 3> place{e.place.x(), e.place.y(), e.place.z()};
  a.value("place", place);
  e.place = Vec3(place[0], place[1], place[2]);
  a.value("part", e.part);
}
template <class A>
void describe(A& a, BoundsReport& b)
{
  a.nested("above", b.above);
  a.nested("below", b.below);
  a.value("upperKnown", b.upperKnown);
  a.value("lowerKnown", b.lowerKnown);
  a.value("tolerance", b.tolerance);
  a.value("limitedSteps", b.limitedSteps);
  a.value("low", b.low);
  a.value("high", b.high);
}
template <class A>
void describe(A& a, StageTime& t)
{
  a.value("stage", t.stage), a.value("seconds", t.seconds);
}
/// The summary of a solved case; fields and mesh are arrays beside it.
template <class A>
void describe(A& a, CaseResult& r)
{
  a.value("caseId", r.caseId);
  a.value("caseName", r.caseName);
  a.value("meshHash", r.meshHash);
  a.value("solutionHash", r.solutionHash);
  a.value("startIdentity", r.startIdentity);
  a.value("notes", r.notes);
  a.nested("bounds", r.bounds);
  a.list("sources", r.sources);
  a.list("boundaries", r.boundaries);
  a.list("links", r.links);
  a.list("nodes", r.nodes);
  a.list("electrodes", r.electrodes);
  a.list("gaps", r.gaps);
  a.list("caught", r.caught);
  a.list("paths", r.paths);
  a.list("enclosures", r.enclosures);
  a.value("heatIn", r.heatIn);
  a.value("heatOut", r.heatOut);
  a.value("stored", r.stored);
  a.value("imbalance", r.imbalance);
  a.value("heatFloor", r.heatFloor);
  a.value("transient", r.transient);
  a.value("time", r.time);
  a.value("solver", r.info.solver);
  a.value("newtonSteps", r.info.newtonSteps);
  a.value("linearIterations", r.info.linearIterations);
  a.value("residual", r.info.residual);
  a.list("times", r.info.times);
}

template <class A>
void describe(A& a, RunTrace& t)
{
  a.value("kind", t.kind), a.value("id", t.id);
}
template <class A>
void describe(A& a, RunMark& m)
{
  a.value("time", m.time), a.value("kind", m.kind), a.value("id", m.id), a.value("text", m.text);
}
/// What a run knows when it begins.
template <class A>
void describeHead(A& a, RunRecord& r)
{
  a.value("caseId", r.caseId);
  a.value("solutionHash", r.solutionHash);
  a.value("courseHash", r.courseHash);
  a.value("startTime", r.startTime);
  a.value("startNote", r.startNote);
  a.value("startIdentity", r.startIdentity);
  a.list("traces", r.traces);
}
/// What it knows when it has ended.
template <class A>
void describeEnd(A& a, RunRecord& r)
{
  a.value("reason", r.reason);
  a.value("byCap", r.byCap);
  a.nested("bounds", r.bounds);
  a.value("worstImbalance", r.worstImbalance);
  a.value("imbalance", r.imbalance);
  a.value("steps", r.steps);
  a.value("rejected", r.rejected);
  a.value("newtonSteps", r.newtonSteps);
  a.value("seconds", r.seconds);
  a.value("remaining", r.remaining);
  a.value("steadyAfter", r.steadyAfter);
  a.list("marks", r.marks);
}

template <class A>
void describe(A& a, SureRecord::OfWatch& w)
{
  a.value("id", w.id);
  a.value("values", w.values);
  a.value("verdict", w.convergence.verdict);
  a.value("order", w.convergence.order);
  a.value("extrapolated", w.convergence.extrapolated);
  a.value("bar", w.convergence.bar);
}
template <class A>
void describe(A& a, SureRecord& s)
{
  a.value("solutionHash", s.solutionHash);
  a.value("tets", s.tets);
  a.list("watches", s.watches);
}

} // namespace kiln
