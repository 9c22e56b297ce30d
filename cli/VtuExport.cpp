// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "VtuExport.h"

#include "io/AtomicFile.h"

#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDoubleArray.h>
#include <vtkIntArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridWriter.h>

namespace kiln
{

Expected<void> exportVtu(const CaseResult& result, const std::filesystem::path& file, bool withFlux)
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
    places->SetPoint(i, result.mesh.nodes[static_cast<std::size_t>(result.unknowns.node[unknown])].data());
    temperature->SetValue(i, result.temperature[unknown]);
  }
  vtkNew<vtkCellArray> cells;
  vtkNew<vtkIntArray> part;
  part->SetName("part");
  vtkNew<vtkDoubleArray> flux;
  flux->SetName("heat_flux_W_per_m2");
  flux->SetNumberOfComponents(3);
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t) {
    const auto& own = result.unknowns.ofTet[t];
    cells->InsertNextCell({own[0], own[1], own[2], own[3]});
    part->InsertNextValue(result.mesh.tetPart[t]);
    flux->InsertNextTuple(result.flux[t].data());
  }
  vtkNew<vtkUnstructuredGrid> grid;
  grid->SetPoints(places);
  grid->SetCells(VTK_TETRA, cells);
  grid->GetPointData()->SetScalars(temperature);
  grid->GetCellData()->AddArray(part);
  if (withFlux)
    grid->GetCellData()->AddArray(flux);

  vtkNew<vtkXMLUnstructuredGridWriter> writer;
  writer->SetInputData(grid);
  writer->SetWriteToOutputString(true);
  if (writer->Write() == 0)
    return failure(Failure::Kind::Unwritable, "file " + file.string(), "The export could not be made.",
                   "Try the CSV format.");
  return writeAtomically(file, writer->GetOutputString());
}

} // namespace kiln
