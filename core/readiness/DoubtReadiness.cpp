// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "heat/boundaries/Correlations.h"
#include "heat/elements/Enthalpy.h"
#include "mesh/CountEstimate.h"
#include "mesh/MeshSizes.h"
#include "model/Fields.h"
#include "model/SteadyView.h"
#include "model/TimeSeries.h"
#include "readiness/NetworkReadiness.h"
#include "units/Quantity.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

// What can be solved but is doubtful, and would else pass in silence.
namespace kiln
{
namespace
{

using Severity = Finding::Severity;

std::string kelvins(double kelvin) { return formatQuantity(kelvin, Quantity::Temperature, TemperatureUnit::Kelvin); }
std::string celsius(double kelvin) { return formatQuantity(kelvin, Quantity::Temperature); }

class ModelDoubts
{
public:
  ModelDoubts(const Project& project, const std::vector<Field>& fields) : project_(project), fields_(fields) {}

  std::vector<Finding> run()
  {
    checkCorrelations();
    checkColdFields();
    for (const Case& one : project_.cases) {
      checkInstant(one);
      checkMeltingStart(one);
    }
    return std::move(findings_);
  }

private:
  void add(Severity severity, const std::string& id, const std::string& object, const std::string& problem,
           const std::string& remedy)
  {
    findings_.push_back({severity, id, object, problem, remedy, {}, {}, {}});
  }

  /// A correlation without its speed, size or tube length is not ready.
  void checkCorrelations()
  {
    const Environment environment = project_.environment.value_or(Environment{});
    for (const Boundary& boundary : project_.boundaries)
      if (const auto* flow = std::get_if<CorrelatedConvection>(&boundary.condition); flow != nullptr && !boundary.muted)
        if (const auto curve = coefficientCurve(*flow, environment); !curve)
          add(Severity::Error, boundary.id, "boundary " + boundary.name, curve.error().problem, curve.error().remedy);
  }

  /// "20" typed where kelvin are meant: far below all other temperatures, and plausible in degrees Celsius.
  void checkColdFields()
  {
    constexpr double coldest = 150; // K
    std::vector<std::pair<const Field*, double>> cold;
    double othersLow = 1e300;
    for (const Field& field : fields_) {
      const Number* value = field.value();
      if (value == nullptr || field.quantity != Quantity::Temperature || !surrounds(field))
        continue;
      if (value->si < coldest && value->si > 0)
        cold.emplace_back(&field, value->si);
      else
        othersLow = std::min(othersLow, value->si);
    }
    if (othersLow > 1e299 && cold.size() > 1)
      return; // a cold world
    for (const auto& [field, kelvin] : cold) {
      const std::string others =
          othersLow < 1e299 ? ", far below all other temperatures (" + celsius(othersLow) + " and more)" : "";
      add(Severity::Hint, field->objectId, field->objectName,
          field->label + " is " + kelvins(kelvin) + ", that is " + celsius(kelvin) + others + ".",
          "Was " + formatQuantity(kelvin + 273.15, Quantity::Temperature, TemperatureUnit::Celsius) +
              " meant? Type the unit with the number.");
    }
  }
  /// Is it the temperature of something around the model, or where it starts?
  [[nodiscard]] bool surrounds(const Field& field) const
  {
    return findById(project_.boundaries, field.objectId) != nullptr ||
           findById(project_.nodes, field.objectId) != nullptr ||
           findById(project_.enclosures, field.objectId) != nullptr ||
           (findById(project_.cases, field.objectId) != nullptr && field.path.find(".start.") != std::string::npos);
  }

  void checkInstant(const Case& one)
  {
    if (one.kind != Case::Kind::Steady || one.instant || one.period)
      return;
    if (const std::string words = steadyWords(project_, one); !words.empty())
      add(Severity::Hint, one.id, "case " + one.name, "It is steady and takes " + words + ".",
          "Choose another instant, or the mean over a period, in the case's editor.");
  }

  void checkMeltingStart(const Case& one)
  {
    const auto* start =
        one.kind == Case::Kind::Transient && one.run ? std::get_if<StartUniform>(&one.run->start) : nullptr;
    if (start == nullptr || start->moltenShare)
      return;
    for (const Part& part : project_.parts) {
      const Material* material = findById(project_.materials, part.material);
      if (material == nullptr || !meltsAtOnce(*material))
        continue;
      double kelvin = start->temperature.si;
      for (const PartStart& own : start->parts)
        if (own.id == part.id)
          kelvin = own.temperature.si;
      const MeltingRange range = meltingRange(*material);
      if (kelvin < range.from || kelvin > range.to)
        continue;
      add(Severity::Hint, one.id, "case " + one.name,
          "Part " + part.name +
              " starts at its melting temperature, which does not say how much of it is molten; all is taken to be.",
          "Give the molten share of the start: 0 for solid, 1 for molten.");
    }
  }

  const Project& project_;
  const std::vector<Field>& fields_;
  std::vector<Finding> findings_;
};

class GeometryDoubts
{
public:
  GeometryDoubts(const Project& project, const FaceTable& geometry) : project_(project), geometry_(geometry) {}

  std::vector<Finding> run()
  {
    checkHeld();
    checkSameKind();
    checkFronts();
    return std::move(findings_);
  }

private:
  void add(const std::string& id, const std::string& object, const std::string& problem, const std::string& remedy,
           std::vector<FaceId> faces = {}, std::vector<Mend> mends = {})
  {
    findings_.push_back({Severity::Hint, id, object, problem, remedy, std::move(faces), std::move(mends), {}});
  }
  [[nodiscard]] std::vector<FaceId> facesOn(const std::string& surface) const
  {
    return facesOf(project_, geometry_, surface).faces;
  }
  [[nodiscard]] std::string namesOf(const std::vector<FaceId>& faces) const
  {
    constexpr std::size_t most = 3;
    std::string text;
    for (std::size_t i = 0; i < std::min(faces.size(), most); ++i)
      if (const auto& names = geometry_.faces[at(faces[i])].names; !names.empty())
        text += (text.empty() ? "" : ", ") + names.front();
    return text + (faces.size() > most ? ", …" : "");
  }
  static std::vector<FaceId> common(const std::vector<FaceId>& a, const std::vector<FaceId>& b)
  {
    std::vector<FaceId> both;
    std::set_intersection(a.begin(), a.end(), b.begin(), b.end(), std::back_inserter(both));
    return both;
  }

  struct Held {
    const Boundary* boundary;
    double kelvin;
    std::vector<FaceId> faces;
  };
  /// Two temperatures cannot hold one face.
  void checkHeld()
  {
    std::vector<Held> held;
    for (const Boundary& boundary : project_.boundaries) {
      if (boundary.muted)
        continue;
      if (const auto* surface = std::get_if<FixedSurface>(&boundary.condition)) {
        held.push_back({&boundary, surface->temperature.si, facesOn(surface->surface)});
      } else if (const auto* whole = std::get_if<FixedPart>(&boundary.condition)) {
        const PartId part = geometry_.partIndex(whole->part);
        std::vector<FaceId> faces;
        for (std::size_t f = 0; f < geometry_.faces.size(); ++f)
          if (part != noPart && geometry_.faces[f].touches(part))
            faces.push_back(FaceId(f));
        held.push_back({&boundary, whole->temperature.si, std::move(faces)});
      }
    }
    for (std::size_t b = 0; b < held.size(); ++b)
      for (std::size_t a = 0; a < b; ++a) {
        const std::vector<FaceId> both = common(held[a].faces, held[b].faces);
        if (both.empty() || held[a].kelvin == held[b].kelvin)
          continue;
        add(held[b].boundary->id, "boundaries " + held[a].boundary->name + " and " + held[b].boundary->name,
            "They hold the same " + std::to_string(both.size()) + " face(s), " + namesOf(both) + ", at " +
                celsius(held[a].kelvin) + " and at " + celsius(held[b].kelvin) + "; " + held[b].boundary->name +
                ", the later one, counts.",
            "Take the faces out of one of their surfaces, or switch one off.", both);
      }
  }

  /// Of boundaries and sources that are of one kind: what a face gets from both is summed.
  void checkSameKind()
  {
    std::map<FaceId, std::map<std::string, std::vector<const Object*>>> onFace;
    const auto note = [&](const Object& object, const std::string& surface, const std::string& kind) {
      if (!surface.empty() && !kind.empty())
        for (const FaceId face : facesOn(surface))
          onFace[face][kind].push_back(&object);
    };
    for (const Boundary& boundary : project_.boundaries)
      if (!boundary.muted && !boundary.from && !boundary.until)
        note(boundary, surfaceOf(boundary), kindOf(boundary));
    for (const HeatSource& source : project_.sources)
      if (!source.muted && !source.from && !source.until)
        note(source, surfaceOf(source), "heats");
    std::map<std::tuple<std::string, const Object*, const Object*>, std::vector<FaceId>> doubled;
    for (const auto& [face, kinds] : onFace)
      for (const auto& [kind, objects] : kinds)
        if (objects.size() > 1)
          doubled[{kind, objects[0], objects[1]}].push_back(face);
    for (const auto& [key, faces] : doubled) {
      const auto& [kind, first, second] = key;
      add(second->id, (kind == "heats" ? "sources " : "boundaries ") + first->name + " and " + second->name,
          "Both " + (kind == "heats" ? "heat" : kind) + " on the same " + std::to_string(faces.size()) + " face(s), " +
              namesOf(faces) + "; their heat is summed.",
          "Take the faces out of one of the surfaces if that is not meant.", faces);
    }
  }
  static std::string kindOf(const Boundary& boundary)
  {
    const auto is = [&]<class Kind>(const Kind*) { return std::holds_alternative<Kind>(boundary.condition); };
    if (is(static_cast<Convection*>(nullptr)) || is(static_cast<CorrelatedConvection*>(nullptr)) ||
        is(static_cast<FlowPassage*>(nullptr)))
      return "convect";
    if (is(static_cast<Radiation*>(nullptr)))
      return "radiate";
    if (is(static_cast<BodyContact*>(nullptr)))
      return "touch bodies";
    if (is(static_cast<Sheet*>(nullptr)))
      return "are sheets";
    return {};
  }

  /// A sudden start sends a front into the solid that is thinner than an element at first: values near the surface are
  /// off until it is as deep. Told where that is a part of the run worth the name.
  void checkFronts()
  {
    for (const Case& one : project_.cases)
      if (const auto* start =
              one.kind == Case::Kind::Transient && one.run ? std::get_if<StartUniform>(&one.run->start) : nullptr)
        for (const Boundary& boundary : project_.boundaries)
          if (!boundary.muted)
            checkFront(one, *start, boundary);
  }
  struct Front {
    double ambient = 0, coefficient = 0; // K, W/(m²·K); infinite where it is held
  };
  static std::optional<Front> frontOf(const Boundary& boundary)
  {
    if (const auto* held = std::get_if<FixedSurface>(&boundary.condition))
      return Front{held->temperature.si, std::numeric_limits<double>::infinity()};
    if (const auto* convection = std::get_if<Convection>(&boundary.condition);
        convection != nullptr && convection->node.empty())
      return Front{convection->ambient.si, convection->coefficient.si};
    return std::nullopt;
  }
  void checkFront(const Case& one, const StartUniform& start, const Boundary& boundary)
  {
    const auto front = frontOf(boundary);
    if (!front)
      return;
    std::optional<double> length; // s, of the run
    for (const EndRule& rule : one.run->ends)
      if (const auto* time = std::get_if<EndAtTime>(&rule.when))
        length = time->time.si - (one.run->startTime ? one.run->startTime->si : 0);
    for (const int f : facesOn(surfaceOf(boundary))) {
      const Face& face = geometry_.faces[at(f)];
      const GeometryPart& part = geometry_.parts[at(face.parts[0])];
      const Part* own = findById(project_.parts, part.id);
      const Material* material = own != nullptr ? findById(project_.materials, own->material) : nullptr;
      if (material == nullptr || !material->density || !material->specificHeat || sizes_.empty())
        continue;
      double began = start.temperature.si;
      for (const PartStart& other : start.parts)
        if (other.id == part.id)
          began = other.temperature.si;
      const double k = material->conductivity.si;
      const double diffusivity = k / (material->density->si * material->specificHeat->si);
      const double element = sizes_[at(f)] / (project_.mesh.secondOrder ? 2 : 1); // m, between nodes
      const double sharp = front->coefficient * element / k;                      // how sudden an element feels it
      const double jump = std::abs(front->ambient - began) * std::min(sharp, 1.0);
      const double blind = element * element / diffusivity; // s until the front is as deep
      constexpr double worthSaying = 0.02;                  // of the run
      constexpr double least = 5;                           // K
      if (jump < least || sharp < 0.5 || (length && blind < worthSaying * *length))
        continue;
      const double thin = length ? std::min(element / 4, std::sqrt(worthSaying * *length * diffusivity)) : element / 4;
      constexpr double below = 0.98; // so that it is enough
      const double wanted = below * thin * (project_.mesh.secondOrder ? 2 : 1);
      add(one.id, "case " + one.name,
          "Boundary " + boundary.name + " starts suddenly, " +
              formatQuantity(std::abs(front->ambient - began), Quantity::TemperatureStep) + " from where part " +
              part.name + " begins. Nodes stand " + formatQuantity(element, Quantity::Length, {}, 2) +
              " apart there: in the first " + formatQuantity(blind, Quantity::Time, {}, 2) +
              " the front is thinner, and temperatures near the surface are not to be trusted.",
          "Give its surface a thin layer of elements, say of " + formatQuantity(wanted, Quantity::Length, {}, 2) + ".",
          {FaceId(f)},
          {{Mend::Action::SurfaceMesh,
            "Mesh it at " + formatQuantity(wanted, Quantity::Length, {}, 2),
            {surfaceOf(boundary), plainNumber(wanted)}}});
      return; // once a boundary
    }
  }

public:
  /// \param sizes  largest elements by face, m
  void setSizes(std::vector<double> sizes) { sizes_ = std::move(sizes); }

private:
  const Project& project_;
  const FaceTable& geometry_;
  std::vector<double> sizes_;
  std::vector<Finding> findings_;
};

} // namespace

std::vector<Finding> checkDoubts(const Project& project, const std::vector<Field>& fields)
{
  return ModelDoubts(project, fields).run();
}

std::vector<Finding> checkDoubtsOn(const Project& project, const FaceTable& geometry)
{
  GeometryDoubts doubts(project, geometry);
  if (!geometry.parts.empty())
    doubts.setSizes(estimatedSizes(project, geometry));
  return doubts.run();
}

std::vector<Finding> checkHeldMeeting(const Project& project, const Mesh& mesh)
{
  struct Held {
    const Boundary* boundary;
    double kelvin;
    std::set<NodeId> nodes;
    std::vector<FaceId> faces;
  };
  std::vector<Held> held;
  for (const Boundary& boundary : project.boundaries)
    if (const auto* fixed = std::get_if<FixedSurface>(&boundary.condition); fixed != nullptr && !boundary.muted) {
      Held& own = held.emplace_back(
          Held{&boundary, fixed->temperature.si, {}, facesOf(project, mesh.geometry, fixed->surface).faces});
      for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
        if (std::binary_search(own.faces.begin(), own.faces.end(), mesh.triangleFace[t]))
          own.nodes.insert(mesh.triangles[t].begin(), mesh.triangles[t].end());
    }
  std::vector<Finding> findings;
  constexpr double apart = 0.1; // K
  for (std::size_t b = 0; b < held.size(); ++b)
    for (std::size_t a = 0; a < b; ++a) {
      std::vector<FaceId> same;
      std::set_intersection(held[a].faces.begin(), held[a].faces.end(), held[b].faces.begin(), held[b].faces.end(),
                            std::back_inserter(same));
      const auto node =
          std::find_if(held[a].nodes.begin(), held[a].nodes.end(), [&](NodeId n) { return held[b].nodes.contains(n); });
      if (!same.empty() || node == held[a].nodes.end() || std::abs(held[a].kelvin - held[b].kelvin) < apart)
        continue;
      findings.push_back({Severity::Hint,
                          held[b].boundary->id,
                          "boundaries " + held[a].boundary->name + " and " + held[b].boundary->name,
                          "They meet along an edge, held at " + celsius(held[a].kelvin) + " and at " +
                              celsius(held[b].kelvin) + "; " + held[b].boundary->name +
                              " counts there, and the flux there grows without end with a finer mesh.",
                          "Let a real contact or coefficient lie between them, or read heat away from the edge.",
                          held[b].faces,
                          {},
                          mesh.placeOf(*node)});
    }
  return findings;
}

} // namespace kiln
