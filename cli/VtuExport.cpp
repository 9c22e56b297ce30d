// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "VtuExport.h"

#include "VtuGrid.h"
#include "geometry/SurfaceFaces.h"
#include "io/AtomicFile.h"
#include "mesh/MeshQuality.h"
#include "mesh/SecondOrder.h"
#include "results/FaceFlows.h"
#include "results/ResultFields.h"
#include "units/Quantity.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <limits>
#include <set>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDoubleArray.h>
#include <vtkFieldData.h>
#include <vtkIntArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkSmartPointer.h>
#include <vtkStringArray.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridWriter.h>

namespace kiln
{
namespace
{

/// A triangle of a section, by unknowns.
struct FlatCell {
  std::size_t tet; ///< one that stands on it
  std::array<UnknownId, 3> corners;
};

/// The triangles that the layer of a section stands on, each once; of second order the four quarters of each.
std::vector<FlatCell> flatCells(const CaseResult& result)
{
  const Mesh& mesh = result.mesh;
  std::set<std::array<UnknownId, 3>> seen;
  std::vector<FlatCell> cells;
  const auto add = [&](std::size_t tet, std::array<UnknownId, 3> corners) {
    std::array<UnknownId, 3> key = corners;
    std::sort(key.begin(), key.end());
    if (key[0] != key[1] && key[1] != key[2] && seen.insert(key).second)
      cells.push_back({tet, corners});
  };
  constexpr std::array<std::array<std::size_t, 2>, 6> edges{{{0, 1}, {1, 2}, {0, 2}, {0, 3}, {1, 3}, {2, 3}}};
  for (std::size_t e = 0; e < tetElements(mesh); ++e) {
    const std::size_t first = tetPieces(mesh.order) * e;
    std::vector<std::size_t> corner; // of the element, one for each column
    const auto own = [&](std::size_t i) {
      return mesh.order == 2 ? result.unknowns.ofTet[first + i][i] : result.unknowns.ofTet[e][i];
    };
    for (std::size_t i = 0; i < 4; ++i)
      if (std::none_of(corner.begin(), corner.end(), [&](std::size_t c) { return own(c) == own(i); }))
        corner.push_back(i);
    if (corner.size() != 3)
      continue;
    if (mesh.order == 1) {
      add(first, {own(corner[0]), own(corner[1]), own(corner[2])});
      continue;
    }
    const auto ten = tenOf(result.unknowns.ofTet, e);
    const auto middle = [&](std::size_t a, std::size_t b) {
      for (std::size_t i = 0; i < 6; ++i)
        if ((edges[i][0] == a && edges[i][1] == b) || (edges[i][0] == b && edges[i][1] == a))
          return ten[4 + i];
      return noUnknown;
    };
    const std::array<UnknownId, 3> c{own(corner[0]), own(corner[1]), own(corner[2])};
    const std::array<UnknownId, 3> m{middle(corner[0], corner[1]), middle(corner[1], corner[2]),
                                     middle(corner[0], corner[2])};
    add(first, {c[0], m[0], m[2]});
    add(first, {m[0], c[1], m[1]});
    add(first, {m[2], m[1], c[2]});
    add(first, m);
  }
  return cells;
}

/// By point; where several parts meet, of the first of them that both results have.
vtkSmartPointer<vtkDoubleArray> differenceArray(const CaseResult& result, const DifferenceField& difference)
{
  auto values = vtkSmartPointer<vtkDoubleArray>::New();
  values->SetName("difference_K");
  values->SetNumberOfValues(static_cast<vtkIdType>(result.unknowns.node.size()));
  values->Fill(std::numeric_limits<double>::quiet_NaN());
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t)
    for (const UnknownId unknown : result.unknowns.ofTet[t])
      if (std::isnan(values->GetValue(unknown)))
        values->SetValue(unknown, difference.kelvin->at(unknown, result.mesh.tetPart[t]));
  return values;
}

/// "W/m²" as a name may have it: "_W_per_m2".
std::string unitInName(std::string_view unit)
{
  std::string name;
  for (const char c : unit)
    if (c == '/')
      name += "_per_";
    else if (std::isalnum(static_cast<unsigned char>(c)) != 0)
      name += c;
    else if (static_cast<unsigned char>(c) == 0xB2) // the last byte of ²
      name += '2';
  return name.empty() || name == "1" ? "" : "_" + name;
}

/// "heatFlux" as "heat_flux".
std::string inSmallLetters(std::string_view word)
{
  std::string name;
  for (const char c : word) {
    if (std::isupper(static_cast<unsigned char>(c)) != 0)
      name += '_';
    name += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  }
  return name;
}

void addNames(vtkUnstructuredGrid& grid, const char* name, const std::vector<std::string>& all)
{
  vtkNew<vtkStringArray> words;
  words->SetName(name);
  for (const std::string& one : all)
    words->InsertNextValue(one);
  grid.GetFieldData()->AddArray(words);
}

std::vector<std::string> partNames(const Project& project, const CaseResult& result)
{
  std::vector<std::string> names;
  for (const GeometryPart& part : result.mesh.geometry.parts) {
    const Part* own = findById(project.parts, part.id);
    names.push_back(own != nullptr ? own->name : part.name);
  }
  return names;
}

/// Places of the unknowns and their temperatures, which every grid has.
void addPoints(vtkUnstructuredGrid& grid, const CaseResult& result)
{
  const auto points = static_cast<vtkIdType>(result.unknowns.node.size());
  vtkNew<vtkPoints> places;
  places->SetDataTypeToDouble();
  places->SetNumberOfPoints(points);
  vtkNew<vtkDoubleArray> temperature;
  temperature->SetName("temperature_K");
  temperature->SetNumberOfValues(points);
  for (vtkIdType i = 0; i < points; ++i) {
    const auto unknown = static_cast<std::size_t>(i);
    places->SetPoint(i, result.mesh.placeOf(result.unknowns.node[unknown]).data());
    temperature->SetValue(i, result.temperature[unknown]);
  }
  grid.SetPoints(places);
  grid.GetPointData()->SetScalars(temperature);
}

/// The fields of the solution that the scene can show, by point; where several parts meet, of the first of them.
void addSolutionFields(vtkUnstructuredGrid& grid, const Project& project, const CaseResult& result)
{
  std::vector<PartId> partOf(result.unknowns.node.size(), noPart);
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t)
    for (const UnknownId unknown : result.unknowns.ofTet[t])
      if (PartId& own = partOf[static_cast<std::size_t>(unknown)]; own == noPart)
        own = result.mesh.tetPart[t];
  const auto valuesOf = [&](Shown shown) {
    const PartwiseField field = fieldValues(project, result, result.temperature, shown);
    std::vector<double> values;
    for (std::size_t i = 0; i < partOf.size() && !field.empty(); ++i)
      values.push_back(partOf[i] == noPart ? 0 : field.at(static_cast<UnknownId>(i), partOf[i]));
    return values;
  };
  const auto add = [&](const std::string& name, const std::vector<std::vector<double>>& parts) {
    vtkNew<vtkDoubleArray> array;
    array->SetName(name.c_str());
    array->SetNumberOfComponents(static_cast<int>(parts.size()));
    array->SetNumberOfTuples(static_cast<vtkIdType>(parts[0].size()));
    for (std::size_t c = 0; c < parts.size(); ++c)
      for (std::size_t i = 0; i < parts[c].size(); ++i)
        array->SetComponent(static_cast<vtkIdType>(i), static_cast<int>(c), parts[c][i]);
    grid.GetPointData()->AddArray(array);
  };
  for (std::size_t k = 0; k < describing::shownKinds.size(); ++k) {
    const auto shown = static_cast<Shown>(k);
    if (!isSolutionField(shown) || shown == Shown::FluxX || shown == Shown::FluxY || shown == Shown::FluxZ)
      continue; // what it is along the axes, its vector says
    const std::string name = inSmallLetters(describing::shownKinds[k].name) +
                             unitInName(siUnit(quantityOf(shown).value_or(Quantity::Plain)));
    if (shown == Shown::HeatFlux) {
      add(name, {valuesOf(Shown::FluxX), valuesOf(Shown::FluxY), valuesOf(Shown::FluxZ)});
      continue;
    }
    const std::vector<double> values = valuesOf(shown);
    const bool any = std::any_of(values.begin(), values.end(), [](double value) { return value != 0; });
    if (any || shown != Shown::MoltenShare) // else nothing melts
      add(name, {values});
  }
}

Expected<void> writeGrid(vtkUnstructuredGrid& grid, const std::filesystem::path& file, const std::string& of)
{
  addNames(grid, "of", {of});
  vtkNew<vtkXMLUnstructuredGridWriter> writer;
  writer->SetInputData(&grid);
  writer->SetWriteToOutputString(true);
  if (writer->Write() == 0)
    return failure(Failure::Kind::Unwritable, "file " + file.string(), "The export could not be made.",
                   "Try the CSV format.");
  return writeAtomically(file, writer->GetOutputString());
}

} // namespace

Expected<void> exportVtu(const Project& project, const CaseResult& result, const std::filesystem::path& file,
                         const VtuContent& content)
{
  vtkNew<vtkUnstructuredGrid> grid;
  addPoints(*grid, result);
  vtkNew<vtkCellArray> cells;
  vtkNew<vtkIntArray> part, material;
  part->SetName("part");
  material->SetName("material");
  vtkNew<vtkDoubleArray> flux, angle;
  flux->SetName("heat_flux_W_per_m2");
  flux->SetNumberOfComponents(3);
  angle->SetName("smallest_angle_deg");
  std::vector<std::string> materials;
  std::vector<int> materialOf;
  for (const GeometryPart& own : result.mesh.geometry.parts) {
    const Part* named = findById(project.parts, own.id);
    const auto found = std::find_if(project.materials.begin(), project.materials.end(),
                                    [&](const Material& one) { return named != nullptr && one.id == named->material; });
    materialOf.push_back(found != project.materials.end() ? static_cast<int>(found - project.materials.begin()) : -1);
  }
  for (const Material& one : project.materials)
    materials.push_back(one.name);
  const bool flat = result.mesh.geometry.section.is();
  const std::vector<Vec3> fluxes = elementFlux(project, result, result.temperature);
  const auto add = [&](std::size_t tet, std::initializer_list<vtkIdType> corners) {
    const PartId own = result.mesh.tetPart[tet];
    cells->InsertNextCell(corners);
    part->InsertNextValue(own);
    material->InsertNextValue(materialOf[static_cast<std::size_t>(own)]);
    flux->InsertNextTuple(fluxes[tet].data());
    if (!flat)
      angle->InsertNextValue(smallestDihedral(result.mesh, tet));
  };
  if (flat)
    for (const FlatCell& cell : flatCells(result))
      add(cell.tet, {cell.corners[0], cell.corners[1], cell.corners[2]});
  else
    for (std::size_t t = 0; t < result.mesh.tets.size(); ++t) {
      const auto& own = result.unknowns.ofTet[t];
      add(t, {own[0], own[1], own[2], own[3]});
    }
  grid->SetCells(flat ? VTK_TRIANGLE : VTK_TETRA, cells);
  grid->GetCellData()->AddArray(part);
  grid->GetCellData()->AddArray(material);
  grid->GetCellData()->AddArray(flux);
  if (!flat)
    grid->GetCellData()->AddArray(angle);
  addSolutionFields(*grid, project, result);
  if (content.difference != nullptr)
    grid->GetPointData()->AddArray(differenceArray(result, *content.difference));
  nameRegions(*grid, partNames(project, result));
  addNames(*grid, "names of materials", materials);
  return writeGrid(*grid, file, content.of);
}

Expected<void> exportFacesVtu(const Project& project, const CaseResult& result, const std::filesystem::path& file,
                              const std::string& of)
{
  const Mesh& mesh = result.mesh;
  std::vector<int> surfaceOf(mesh.geometry.faces.size(), -1);
  std::vector<std::string> faces, surfaces;
  for (const Face& face : mesh.geometry.faces)
    faces.push_back(face.names.empty() ? std::string() : face.names.front());
  for (std::size_t s = 0; s < project.surfaces.size(); ++s) {
    surfaces.push_back(project.surfaces[s].name);
    for (const FaceId face : facesOf(project, mesh.geometry, project.surfaces[s]).faces)
      if (int& own = surfaceOf[static_cast<std::size_t>(face)]; own < 0)
        own = static_cast<int>(s);
  }
  std::vector<double> watts(mesh.geometry.faces.size(), 0.0);
  for (const FaceFlow& flow : faceFlows(mesh, result.faceHeat, result.contactHeat, result.flux))
    watts[static_cast<std::size_t>(flow.face)] = flow.ledger;
  vtkNew<vtkUnstructuredGrid> grid;
  addPoints(*grid, result);
  vtkNew<vtkCellArray> cells;
  std::array<vtkNew<vtkIntArray>, 3> numbers; // face, part, surface
  std::array<vtkNew<vtkDoubleArray>, 2> heat; // W, W/m²
  for (std::size_t i = 0; i < 3; ++i)
    numbers[i]->SetName(std::array{"face", "part", "surface"}[i]);
  for (std::size_t i = 0; i < 2; ++i)
    heat[i]->SetName(std::array{"heat_W", "mean_heat_flux_W_per_m2"}[i]);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const auto f = static_cast<std::size_t>(mesh.triangleFace[t]);
    const auto& own = result.unknowns.ofTriangle[t][0];
    if (own[0] < 0 || own[0] == own[1] || own[1] == own[2] || own[0] == own[2])
      continue; // of a section, a side of the layer it is solved in
    cells->InsertNextCell({own[0], own[1], own[2]});
    numbers[0]->InsertNextValue(mesh.triangleFace[t]);
    numbers[1]->InsertNextValue(mesh.geometry.faces[f].parts[0]);
    numbers[2]->InsertNextValue(surfaceOf[f]);
    heat[0]->InsertNextValue(watts[f]);
    heat[1]->InsertNextValue(watts[f] / mesh.geometry.faces[f].area);
  }
  grid->SetCells(VTK_TRIANGLE, cells);
  for (const auto& array : numbers)
    grid->GetCellData()->AddArray(array);
  for (const auto& array : heat)
    grid->GetCellData()->AddArray(array);
  addNames(*grid, "names of faces", faces);
  addNames(*grid, "names of parts", partNames(project, result));
  addNames(*grid, "names of surfaces", surfaces);
  return writeGrid(*grid, file, of);
}

} // namespace kiln
