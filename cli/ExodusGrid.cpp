// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "MemoryBound.h"
#include "OtherGrids.h"

#include <vtkAppendFilter.h>
#include <vtkCellData.h>
#include <vtkCompositeDataIterator.h>
#include <vtkExodusIIReader.h>
#include <vtkIntArray.h>
#include <vtkMultiBlockDataSet.h>
#include <vtkNew.h>

namespace kiln
{

Grid exodusGrid(const std::filesystem::path& path)
{
  vtkNew<vtkExodusIIReader> reader;
  if (reader->CanReadFile(path.c_str()) == 0)
    return unreadableGrid(path, "It is no Exodus II file.");
  reader->SetFileName(path.c_str());
  std::vector<std::string> names;
  vtkNew<vtkAppendFilter> all;
  const auto take = [&] {
    all->SetOutputPointsPrecision(vtkAlgorithm::DOUBLE_PRECISION);
    reader->UpdateInformation();
    reader->GenerateObjectIdCellArrayOff();
    reader->Update();
    vtkMultiBlockDataSet* whole = reader->GetOutput();
    auto* blocks = whole == nullptr || whole->GetNumberOfBlocks() == 0
                       ? nullptr
                       : vtkMultiBlockDataSet::SafeDownCast(whole->GetBlock(0)); // of elements; sets come after
    for (unsigned i = 0; blocks != nullptr && i < blocks->GetNumberOfBlocks(); ++i) {
      auto* block = vtkUnstructuredGrid::SafeDownCast(blocks->GetBlock(i));
      if (block == nullptr || block->GetNumberOfCells() == 0)
        continue;
      const char* called = reader->GetElementBlockArrayName(static_cast<int>(i));
      const std::string name = called != nullptr ? called : "";
      vtkNew<vtkIntArray> region;
      region->SetName("region");
      region->SetNumberOfValues(block->GetNumberOfCells());
      region->FillComponent(0, static_cast<double>(names.size()));
      names.push_back(name.starts_with("Unnamed") || name.empty() ? "Block " + std::to_string(i + 1) : name);
      vtkNew<vtkUnstructuredGrid> own;
      own->CopyStructure(block);
      own->GetCellData()->AddArray(region);
      all->AddInputData(own);
    }
    if (!names.empty())
      all->Update();
  };
  if (!readWithinReason(path, take))
    return unreadableGrid(path, "It is damaged: it asks for far more memory than it can hold.");
  if (names.empty())
    return unreadableGrid(path, "It is damaged, or holds no cells.");
  vtkSmartPointer<vtkUnstructuredGrid> grid = all->GetOutput();
  nameRegions(*grid, names);
  return grid;
}

} // namespace kiln
