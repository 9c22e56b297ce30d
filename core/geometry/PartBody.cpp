// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/PartBody.h"

#include "geometry/NamedFaces.h"
#include "geometry/ShapeSteps.h"
#include "geometry/TakenShape.h"

#include <BRepAdaptor_Surface.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Pln.hxx>

namespace kiln
{
namespace
{

constexpr const char* flatInSolid = "A flat form has no thickness, and the model is solid";
constexpr const char* useSolid = "Give it a solid form, or make the project a section model.";

/// An area from a file: faces without a solid.
bool isArea(const NamedBody& body)
{
  return !TopExp_Explorer(body.shape, TopAbs_SOLID).More() && TopExp_Explorer(body.shape, TopAbs_FACE).More();
}

/// Builds a part; knows which parts are being built, so that two that reach up to each other are found out.
class PartBuilder
{
public:
  explicit PartBuilder(const Project& project) : project_(project) {}

  Expected<NamedBody> build(const Part& part)
  {
    building_.push_back(part.id);
    Expected<NamedBody> body = buildGuarded(part);
    building_.pop_back();
    return body;
  }

private:
  static tl::unexpected<Failure> refused(const Part& part, const std::string& problem, const std::string& remedy)
  {
    return failure(Failure::Kind::NotReady, "part " + part.name, problem + ".", remedy);
  }

  Expected<NamedBody> buildGuarded(const Part& part)
  {
    try {
      return buildSteps(part);
    } catch (const Standard_Failure&) { // its words are the kernel's own and help nobody
      return refused(part, "Its shape cannot be built with these sizes and steps",
                     "Switch its steps off one after the other to find the one that does not fit.");
    }
  }

  Expected<NamedBody> buildSteps(const Part& part)
  {
    const gp_Trsf placement = transformOf(part.shape.placement);
    PlacedForm own = part.shape;
    if (auto reached = reachUp(part, own, gp_Trsf()); !reached)
      return tl::unexpected(reached.error());
    own.placement = {};
    Expected<NamedBody> made = firstBody(part, own);
    if (!made)
      return made;
    NamedBody body = std::move(*made);
    for (ShapeStep step : part.steps) {
      if (step.muted)
        continue;
      PlacedForm* form = nullptr;
      if (auto* join = std::get_if<Join>(&step.action))
        form = &join->shape;
      if (auto* cut = std::get_if<Cut>(&step.action))
        form = &cut->shape;
      if (form != nullptr) {
        if (auto reached = reachUp(part, *form, placement, &body); !reached)
          return tl::unexpected(reached.error());
        if (const auto problem = problemOf(form->form))
          return refused(part, "Step " + step.id + ": " + *problem, "Correct its dimensions.");
        if (isFlat(form->form) && !project_.section)
          return refused(part, "Step " + step.id + ": " + flatInSolid, useSolid);
      }
      auto after = afterStep(body, step, part.id + "." + step.id,
                             [this](const PlacedForm& own, const std::string& prefix) { return placed(own, prefix); });
      if (!after)
        return refused(part, "Step " + step.id + ": " + after.error().problem, after.error().remedy);
      body = std::move(*after);
    }
    body = repeated(body, part.repeat, part.id);
    if (!isArea(body) && volumeOf(body.shape) <= 0)
      return refused(part, "Nothing is left of it after its cuts", "Make a cut smaller or remove it.");
    return part.shape.placement == Placement{} ? body : moved(std::move(body), placement);
  }

  /// A form that is joined or cut; also a body of a file.
  Expected<NamedBody> placed(const PlacedForm& own, const std::string& prefix)
  {
    const auto* taken = std::get_if<FileBody>(&own.form);
    if (taken == nullptr)
      return makePlaced(own, prefix);
    Expected<NamedBody> body = makeFileBody(project_, *taken, prefix);
    return body ? Expected<NamedBody>(moved(std::move(*body), transformOf(own.placement))) : body;
  }

  Expected<NamedBody> firstBody(const Part& part, const PlacedForm& own)
  {
    if (const auto* taken = std::get_if<FileBody>(&own.form)) {
      Expected<NamedBody> body = makeFileBody(project_, *taken, part.id);
      if (!body)
        return refused(part,
                       body.error().object + ": " + body.error().problem.substr(0, body.error().problem.size() - 1),
                       body.error().remedy);
      if (isArea(*body) && !project_.section)
        return refused(part, flatInSolid, useSolid);
      return body;
    }
    if (const auto problem = problemOf(own.form))
      return refused(part, *problem, "Correct its dimensions.");
    if (isFlat(own.form) && !project_.section)
      return refused(part, flatInSolid, useSolid);
    return makePlaced(own, part.id);
  }

  /// Sets the height of a form that reaches up to a face.
  /// \param frame  of the part the form belongs to; none for its first form, whose placement is the part's
  /// \param soFar  the part itself before the step, in its own frame: a step may reach up to a face of it
  Expected<void> reachUp(const Part& part, PlacedForm& form, const gp_Trsf& frame, const NamedBody* soFar = nullptr)
  {
    const auto reach = reachOf(form.form);
    if (!reach || reach->upTo->empty())
      return {};
    const std::string& upTo = *reach->upTo;
    const std::string id = upTo.substr(0, upTo.find('.'));
    const Part* other = findById(project_.parts, id);
    if (other == nullptr)
      return refused(part, "It reaches up to “" + upTo + "”, and there is no such part", "Name another face.");
    if (id == part.id && soFar != nullptr)
      return reachFace(part, *reach, *soFar, transformOf(form.placement));
    if (std::find(building_.begin(), building_.end(), id) != building_.end())
      return refused(part, "It reaches up to part " + other->name + ", which depends on it",
                     "Give one of them a height.");
    const Expected<NamedBody> body = build(*other);
    if (!body)
      return tl::unexpected(body.error());
    return reachFace(part, *reach, *body, frame * transformOf(form.placement));
  }

  /// \param place  of the form in the frame that the body has
  static Expected<void> reachFace(const Part& part, const Reach& reach, const NamedBody& body, const gp_Trsf& place)
  {
    const std::string& upTo = *reach.upTo;
    const gp_Pnt base = gp_Pnt(0, 0, 0).Transformed(place);
    const gp_Dir axis = gp_Dir(0, 0, 1).Transformed(place);
    for (const auto& [face, name] : body.names) {
      if (name != upTo)
        continue;
      const BRepAdaptor_Surface surface(face);
      if (surface.GetType() != GeomAbs_Plane || !surface.Plane().Axis().Direction().IsParallel(axis, 1e-9))
        return refused(part, "It reaches up to “" + upTo + "”, which is not a flat face across its axis",
                       "Name a face that is parallel to its base.");
      const double height = gp_Vec(base, surface.Plane().Location()).Dot(gp_Vec(axis));
      if (height <= 0)
        return refused(part, "The face “" + upTo + "” lies below its base", "Move it, or name another face.");
      *reach.height = {height, {}, false};
      return {};
    }
    return refused(part, "It reaches up to “" + upTo + "”, and there is no such face", "Name another face.");
  }

  const Project& project_;
  std::vector<std::string> building_;
};

} // namespace

Expected<NamedBody> buildPart(const Project& project, const Part& part) { return PartBuilder(project).build(part); }

} // namespace kiln
