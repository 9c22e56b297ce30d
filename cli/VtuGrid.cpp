// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "VtuGrid.h"

#include "MemoryBound.h"
#include "OtherGrids.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fstream>
#include <map>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkDataArray.h>
#include <vtkFieldData.h>
#include <vtkNew.h>
#include <vtkStringArray.h>
#include <vtkUnstructuredGridReader.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace kiln
{
tl::unexpected<Failure> unreadableGrid(const std::filesystem::path& path, const std::string& problem)
{
  return failure(Failure::Kind::Unreadable, "file " + path.filename().string(), problem,
                 "Write it again as an unstructured grid (*.vtu, *.vtk) with one array of region numbers, or as Exodus "
                 "II or CGNS.");
}

namespace
{

constexpr auto damaged = "It is damaged, or holds no cells.";
constexpr auto tooMuch = "It is damaged: it asks for far more memory than it can hold.";

Grid vtkGrid(const std::filesystem::path& path)
{
  std::ifstream in(path, std::ios::binary);
  std::string head(200, '\0');
  in.read(head.data(), static_cast<std::streamsize>(head.size()));
  const bool legacy = head.starts_with("# vtk DataFile"); // the older form of the same grids
  if (in.gcount() == 0 || (!legacy && head.find("VTKFile") == std::string::npos))
    return unreadableGrid(path, "It is no VTU or legacy VTK file.");
  vtkNew<vtkXMLUnstructuredGridReader> xml;
  vtkNew<vtkUnstructuredGridReader> older;
  xml->SetFileName(path.c_str());
  older->SetFileName(path.c_str());
  older->ReadAllScalarsOn(); // whichever of them numbers the regions
  if (legacy ? older->IsFileUnstructuredGrid() == 0 : xml->CanReadFile(path.c_str()) == 0)
    return unreadableGrid(path, "It holds no unstructured grid.");
  vtkAlgorithm* reader = legacy ? static_cast<vtkAlgorithm*>(older) : static_cast<vtkAlgorithm*>(xml);
  if (!readWithinReason(path, [&] { reader->Update(); }))
    return unreadableGrid(path, tooMuch);
  vtkSmartPointer<vtkUnstructuredGrid> grid = legacy ? older->GetOutput() : xml->GetOutput();
  if (reader->GetErrorCode() != 0)
    return unreadableGrid(path, damaged);
  return grid;
}

} // namespace

Grid gridOf(const std::filesystem::path& path)
{
  std::string ending = path.extension().string();
  std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return std::tolower(c); });
  Grid read;
  if (ending == ".cgns")
    read = cgnsGrid(path);
  else if (ending == ".vtu" || ending == ".vtk")
    read = vtkGrid(path);
  else
    read = exodusGrid(path);
  if (!read)
    return read;
  vtkUnstructuredGrid* grid = read->Get();
  if (grid == nullptr || grid->GetNumberOfCells() == 0)
    return unreadableGrid(path, damaged);
  for (vtkIdType p = 0; p < grid->GetNumberOfPoints(); ++p)
    for (int i = 0; i < 3; ++i)
      if (!std::isfinite(grid->GetPoint(p)[i]))
        return unreadableGrid(path, "A point of it is not a number.");
  for (vtkIdType c = 0; c < grid->GetNumberOfCells(); ++c) {
    vtkIdType count = 0;
    const vtkIdType* points = nullptr;
    grid->GetCellPoints(c, count, points);
    for (vtkIdType i = 0; i < count; ++i)
      if (points[i] < 0 || points[i] >= grid->GetNumberOfPoints())
        return unreadableGrid(path, "A cell of it names a point that does not exist.");
  }
  return read;
}

namespace
{

constexpr auto regionWords = "names of regions";

vtkDataArray* regionArray(vtkUnstructuredGrid& grid)
{
  vtkCellData* data = grid.GetCellData();
  vtkDataArray* whole = nullptr;
  for (int i = 0; i < data->GetNumberOfArrays(); ++i) {
    vtkDataArray* array = data->GetArray(i);
    if (array == nullptr || array->GetNumberOfComponents() != 1)
      continue;
    std::string name = array->GetName() != nullptr ? array->GetName() : "";
    for (char& letter : name)
      letter = static_cast<char>(std::tolower(static_cast<unsigned char>(letter)));
    for (const char* word : {"region", "part", "material"})
      if (name.find(word) != std::string::npos)
        return array;
    if (whole == nullptr && array->GetDataType() != VTK_FLOAT && array->GetDataType() != VTK_DOUBLE)
      whole = array;
  }
  return whole;
}

} // namespace

void nameRegions(vtkUnstructuredGrid& grid, const std::vector<std::string>& names)
{
  vtkNew<vtkStringArray> words;
  words->SetName(regionWords);
  for (const std::string& name : names)
    words->InsertNextValue(name);
  grid.GetFieldData()->AddArray(words);
}

std::string nameOfRegion(vtkUnstructuredGrid& grid, int region)
{
  const auto* words = vtkStringArray::SafeDownCast(grid.GetFieldData()->GetAbstractArray(regionWords));
  if (words != nullptr && region >= 0 && region < words->GetNumberOfValues())
    if (std::string name = const_cast<vtkStringArray*>(words)->GetValue(region); !name.empty())
      return name;
  return "Region " + std::to_string(region);
}

std::vector<int> regionsOf(vtkUnstructuredGrid& grid)
{
  vtkDataArray* array = regionArray(grid);
  std::vector<int> regions;
  for (vtkIdType c = 0; c < grid.GetNumberOfCells(); ++c)
    regions.push_back(array != nullptr ? static_cast<int>(std::lround(array->GetTuple1(c))) : 0);
  return regions;
}

int linearTypeOf(int cellType)
{
  static const std::map<int, int> linear{{VTK_QUADRATIC_TETRA, VTK_TETRA},
                                         {VTK_QUADRATIC_HEXAHEDRON, VTK_HEXAHEDRON},
                                         {VTK_TRIQUADRATIC_HEXAHEDRON, VTK_HEXAHEDRON},
                                         {VTK_QUADRATIC_WEDGE, VTK_WEDGE},
                                         {VTK_QUADRATIC_PYRAMID, VTK_PYRAMID}};
  const auto found = linear.find(cellType);
  return found != linear.end() ? found->second : cellType;
}

int cornersOf(int linearType)
{
  static const std::map<int, int> corners{{VTK_TETRA, 4}, {VTK_HEXAHEDRON, 8}, {VTK_WEDGE, 6}, {VTK_PYRAMID, 5}};
  const auto found = corners.find(linearType);
  return found != corners.end() ? found->second : 0;
}

} // namespace kiln
