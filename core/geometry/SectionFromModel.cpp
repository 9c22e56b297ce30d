// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/SectionFromModel.h"

#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "units/Quantity.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// A number divided by another, as a formula where it was one.
void divide(Number& number, double by, const std::string& unit)
{
  if (number.formula)
    number.text = "(" + number.text + ")/(" + plainNumber(by) + " " + unit + ")";
  else
    number.text.clear();
  number.si /= by;
}
void divide(Property& property, double by, const std::string& unit)
{
  divide(static_cast<Number&>(property), by, unit);
  for (TablePoint& point : property.table)
    divide(point.value, by, unit);
}

class Cutter
{
public:
  Cutter(const Project& project, const FaceTable& geometry, const Section& section)
      : geometry_(geometry), result_{project, {}}
  {
    result_.project.section = section;
    result_.project.name += " – section";
  }

  SectionFromModel run()
  {
    if (const auto* plane = std::get_if<PlaneSection>(&result_.project.section->cut)) {
      for (HeatSource& source : result_.project.sources)
        share(source);
      for (Contact& contact : result_.project.contacts)
        share(contact);
      for (Boundary& boundary : result_.project.boundaries)
        if (std::holds_alternative<FlowPassage>(boundary.condition) ||
            std::holds_alternative<CurrentIn>(boundary.condition))
          mute(boundary, "boundary");
      for (Link& link : result_.project.links)
        mute(link, "link");
      intoPlane(*plane);
    } else {
      for (HeatSource& source : result_.project.sources)
        if (std::holds_alternative<Beam>(source.heat))
          mute(source, "source");
    }
    applyParameters(result_.project);
    return std::move(result_);
  }

private:
  void mute(auto& object, const std::string& kind)
  {
    if (object.muted)
      return;
    object.muted = true;
    result_.notes.push_back("The " + kind + " " + object.name + " has no share in a section: it is switched off.");
  }
  void noted(const std::string& object, const std::string& what)
  {
    result_.notes.push_back(object + " is given " + what + " now.");
  }

  void share(HeatSource& source)
  {
    if (const auto* power = std::get_if<PartPower>(&source.heat)) {
      double volume = 0;
      for (const std::string& id : expandGroups(result_.project, power->parts))
        if (const PartId part = geometry_.partIndex(id); part != noPart)
          volume += geometry_.parts[static_cast<std::size_t>(part)].volume;
      if (volume <= 0)
        return;
      PartDensity density{power->parts, power->power};
      divide(density.density, volume, "m^3");
      source.heat = std::move(density);
      shareChanges(source.id, "density", volume, "m^3");
      noted("Source " + source.name, "per volume");
    } else if (const auto* onSurface = std::get_if<SurfacePower>(&source.heat)) {
      const double area = facesOf(result_.project, geometry_, onSurface->surface).area;
      if (area <= 0)
        return;
      SurfaceFlux flux{onSurface->surface, onSurface->power};
      divide(flux.flux, area, "m^2");
      source.heat = std::move(flux);
      shareChanges(source.id, "flux", area, "m^2");
      noted("Source " + source.name, "per area");
    } else if (std::holds_alternative<PointPower>(source.heat)) {
      mute(source, "source");
    }
  }

  /// Other powers in cases, in sets and in rules of runs are shared out alike.
  void shareChanges(const std::string& source, const std::string& key, double by, const std::string& unit)
  {
    const auto share = [&](Change& change) {
      if (change.field != source + ".power")
        return;
      change.field = source + "." + key;
      if (Property* own = change.number())
        divide(*own, by, unit);
    };
    forEachOwnValues(result_.project, [&](std::vector<Change>& changes) {
      for (Change& change : changes)
        share(change);
    });
  }

  void share(Contact& contact)
  {
    const auto* total = std::get_if<TotalResistance>(&contact.exchange);
    if (total == nullptr)
      return;
    double area = 0;
    for (const Face& face : geometry_.faces)
      if (face.contact() && face.touches(geometry_.partIndex(contact.partA)) &&
          face.touches(geometry_.partIndex(contact.partB)))
        area += face.area;
    if (area <= 0)
      return;
    AreaResistance perArea{total->resistance};
    divide(perArea.resistance, 1 / area, "m^-2");
    contact.exchange = std::move(perArea);
    noted("Contact " + contact.name, "as a resistance per area");
  }

  void intoPlane(const PlaneSection& plane)
  {
    const auto move = [&](Number3& place) {
      (plane.across == Across::X ? place.x : plane.across == Across::Y ? place.y : place.z) = plane.at;
    };
    for (Watch& watch : result_.project.watches)
      if (auto* point = std::get_if<PointFigure>(&watch.figure))
        move(point->place);
    for (Line& line : result_.project.lines) {
      move(line.from);
      move(line.to);
    }
  }

  const FaceTable& geometry_;
  SectionFromModel result_;
};

} // namespace

SectionFromModel sectionFrom(const Project& project, const FaceTable& geometry, const Section& section)
{
  return Cutter(project, geometry, section).run();
}

} // namespace kiln
