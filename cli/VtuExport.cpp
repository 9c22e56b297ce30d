// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "VtuExport.h"

#include "io/AtomicFile.h"
#include "mesh/SecondOrder.h"

#include <algorithm>
#include <array>
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

} // namespace

Expected<void> exportVtu(const CaseResult& result, const std::filesystem::path& file, const VtuContent& content)
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
  vtkNew<vtkCellArray> cells;
  vtkNew<vtkIntArray> part;
  part->SetName("part");
  vtkNew<vtkDoubleArray> flux;
  flux->SetName("heat_flux_W_per_m2");
  flux->SetNumberOfComponents(3);
  const auto add = [&](std::size_t tet, std::initializer_list<vtkIdType> corners) {
    cells->InsertNextCell(corners);
    part->InsertNextValue(result.mesh.tetPart[tet]);
    flux->InsertNextTuple(result.flux[tet].data());
  };
  const bool flat = result.mesh.geometry.section.is();
  if (flat)
    for (const FlatCell& cell : flatCells(result))
      add(cell.tet, {cell.corners[0], cell.corners[1], cell.corners[2]});
  else
    for (std::size_t t = 0; t < result.mesh.tets.size(); ++t) {
      const auto& own = result.unknowns.ofTet[t];
      add(t, {own[0], own[1], own[2], own[3]});
    }
  vtkNew<vtkUnstructuredGrid> grid;
  grid->SetPoints(places);
  grid->SetCells(flat ? VTK_TRIANGLE : VTK_TETRA, cells);
  grid->GetPointData()->SetScalars(temperature);
  grid->GetCellData()->AddArray(part);
  if (content.withFlux)
    grid->GetCellData()->AddArray(flux);
  if (content.difference != nullptr)
    grid->GetPointData()->AddArray(differenceArray(result, *content.difference));
  vtkNew<vtkStringArray> of;
  of->SetName("of");
  of->InsertNextValue(content.of);
  grid->GetFieldData()->AddArray(of);

  vtkNew<vtkXMLUnstructuredGridWriter> writer;
  writer->SetInputData(grid);
  writer->SetWriteToOutputString(true);
  if (writer->Write() == 0)
    return failure(Failure::Kind::Unwritable, "file " + file.string(), "The export could not be made.",
                   "Try the CSV format.");
  return writeAtomically(file, writer->GetOutputString());
}

} // namespace kiln
