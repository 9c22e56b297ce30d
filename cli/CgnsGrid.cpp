// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "MemoryBound.h"
#include "OtherGrids.h"

#include <array>
#include <cgnslib.h>
#include <map>
#include <stdexcept>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkIntArray.h>
#include <vtkNew.h>
#include <vtkPoints.h>

namespace kiln
{
namespace
{

/// The library said no.
struct Refused {
  std::string why;
};

void require(int code)
{
  if (code != CG_OK)
    throw Refused{cg_get_error()};
}

/// Corners of an element by its type, in the order that the grid has, too; mid nodes come after them.
struct Shape {
  int cell = 0;    ///< of the grid
  int corners = 0; ///< 0: it fills no space
  int dimension = 3;
};

Shape shapeOf(CGNS_ENUMT(ElementType_t) type)
{
  static const std::map<int, Shape> shapes{
      {CGNS_ENUMV(TETRA_4), {VTK_TETRA, 4}},      {CGNS_ENUMV(TETRA_10), {VTK_TETRA, 4}},
      {CGNS_ENUMV(PYRA_5), {VTK_PYRAMID, 5}},     {CGNS_ENUMV(PYRA_13), {VTK_PYRAMID, 5}},
      {CGNS_ENUMV(PYRA_14), {VTK_PYRAMID, 5}},    {CGNS_ENUMV(PENTA_6), {VTK_WEDGE, 6}},
      {CGNS_ENUMV(PENTA_15), {VTK_WEDGE, 6}},     {CGNS_ENUMV(PENTA_18), {VTK_WEDGE, 6}},
      {CGNS_ENUMV(HEXA_8), {VTK_HEXAHEDRON, 8}},  {CGNS_ENUMV(HEXA_20), {VTK_HEXAHEDRON, 8}},
      {CGNS_ENUMV(HEXA_27), {VTK_HEXAHEDRON, 8}}, {CGNS_ENUMV(TRI_3), {VTK_TRIANGLE, 3, 2}},
      {CGNS_ENUMV(TRI_6), {VTK_TRIANGLE, 3, 2}},  {CGNS_ENUMV(QUAD_4), {VTK_QUAD, 4, 2}},
      {CGNS_ENUMV(QUAD_8), {VTK_QUAD, 4, 2}},     {CGNS_ENUMV(QUAD_9), {VTK_QUAD, 4, 2}}};
  const auto found = shapes.find(type);
  return found != shapes.end() ? found->second : Shape{};
}

/// Reads one file; throws Refused.
class CgnsFile
{
public:
  explicit CgnsFile(const std::filesystem::path& path)
  {
    require(cg_open(path.c_str(), CG_MODE_READ, &file_));
    points_->SetDataTypeToDouble();
    region_->SetName("region");
  }
  ~CgnsFile() { cg_close(file_); }
  CgnsFile(const CgnsFile&) = delete;
  CgnsFile& operator=(const CgnsFile&) = delete;

  vtkSmartPointer<vtkUnstructuredGrid> grid()
  {
    int bases = 0;
    require(cg_nbases(file_, &bases));
    for (base_ = 1; base_ <= bases; ++base_) {
      std::array<char, nameLength> name{};
      require(cg_base_read(file_, base_, name.data(), &dimension_, &space_));
      int zones = 0;
      require(cg_nzones(file_, base_, &zones));
      for (zone_ = 1; zone_ <= zones; ++zone_)
        addZone(bases * zones == 1);
    }
    grid_->SetPoints(points_);
    grid_->GetCellData()->AddArray(region_);
    nameRegions(*grid_, names_);
    return grid_;
  }

private:
  static constexpr std::size_t nameLength = 33;

  void addZone(bool alone)
  {
    CGNS_ENUMT(ZoneType_t) kind{};
    require(cg_zone_type(file_, base_, zone_, &kind));
    std::array<char, nameLength> name{};
    std::array<cgsize_t, 9> size{};
    require(cg_zone_read(file_, base_, zone_, name.data(), size.data()));
    const vtkIdType first = points_->GetNumberOfPoints();
    if (kind == CGNS_ENUMV(Structured)) {
      const std::array<cgsize_t, 3> count{size[0], size[1], dimension_ == 3 ? size[2] : 1};
      addPoints(count);
      begin(name.data());
      addBlock(first, count);
    } else {
      addPoints({size[0], 1, 1});
      addSections(first, size[0], name.data(), alone);
    }
  }

  void begin(const std::string& region) { names_.push_back(region); }

  void addPoints(const std::array<cgsize_t, 3>& count)
  {
    const auto all =
        static_cast<std::size_t>(count[0]) * static_cast<std::size_t>(count[1]) * static_cast<std::size_t>(count[2]);
    std::array<std::vector<double>, 3> places;
    const std::array<const char*, 3> names{"CoordinateX", "CoordinateY", "CoordinateZ"};
    const std::array<cgsize_t, 3> from{1, 1, 1};
    for (std::size_t i = 0; i < 3; ++i) {
      places[i].assign(all, 0.0);
      if (static_cast<int>(i) < space_)
        require(cg_coord_read(file_, base_, zone_, names[i], CGNS_ENUMV(RealDouble), from.data(), count.data(),
                              places[i].data()));
    }
    for (std::size_t p = 0; p < all; ++p)
      points_->InsertNextPoint(places[0][p], places[1][p], places[2][p]);
  }

  void add(const Shape& shape, const std::vector<vtkIdType>& corners)
  {
    grid_->InsertNextCell(shape.cell, shape.corners, corners.data());
    region_->InsertNextValue(static_cast<int>(names_.size()) - 1);
  }

  /// Cells between the points of a structured zone.
  void addBlock(vtkIdType first, const std::array<cgsize_t, 3>& count)
  {
    const auto at = [&](cgsize_t i, cgsize_t j, cgsize_t k) {
      return first + static_cast<vtkIdType>(i + count[0] * (j + count[1] * k));
    };
    const bool solid = dimension_ == 3;
    for (cgsize_t k = 0; k < (solid ? count[2] - 1 : 1); ++k)
      for (cgsize_t j = 0; j + 1 < count[1]; ++j)
        for (cgsize_t i = 0; i + 1 < count[0]; ++i) {
          std::vector<vtkIdType> corners{at(i, j, k), at(i + 1, j, k), at(i + 1, j + 1, k), at(i, j + 1, k)};
          for (std::size_t c = 0; solid && c < 4; ++c)
            corners.push_back(corners[c] + static_cast<vtkIdType>(count[0] * count[1]));
          add(solid ? Shape{VTK_HEXAHEDRON, 8} : Shape{VTK_QUAD, 4, 2}, corners);
        }
  }

  void addSections(vtkIdType first, cgsize_t points, const std::string& zone, bool alone)
  {
    int sections = 0;
    require(cg_nsections(file_, base_, zone_, &sections));
    bool begun = false;
    for (int s = 1; s <= sections; ++s) {
      std::array<char, nameLength> name{};
      CGNS_ENUMT(ElementType_t) type{};
      cgsize_t start = 0, end = 0, size = 0;
      int border = 0, parents = 0;
      require(cg_section_read(file_, base_, zone_, s, name.data(), &type, &start, &end, &border, &parents));
      const bool mixed = type == CGNS_ENUMV(MIXED);
      if (!mixed && (shapeOf(type).corners == 0 || shapeOf(type).dimension != dimension_))
        continue; // a border
      require(cg_ElementDataSize(file_, base_, zone_, s, &size));
      std::vector<cgsize_t> data(static_cast<std::size_t>(size));
      if (mixed) {
        std::vector<cgsize_t> offsets(static_cast<std::size_t>(end - start + 2));
        require(cg_poly_elements_read(file_, base_, zone_, s, data.data(), offsets.data(), nullptr));
      } else {
        require(cg_elements_read(file_, base_, zone_, s, data.data(), nullptr));
      }
      if (alone || !begun)
        begin(alone && sections > 1 ? name.data() : zone);
      begun = true;
      addElements(type, data, first, points);
    }
  }

  void addElements(CGNS_ENUMT(ElementType_t) type, const std::vector<cgsize_t>& data, vtkIdType first, cgsize_t points)
  {
    const bool mixed = type == CGNS_ENUMV(MIXED);
    for (std::size_t i = 0; i < data.size();) {
      const auto own = mixed ? static_cast<CGNS_ENUMT(ElementType_t)>(data[i++]) : type;
      int nodes = 0;
      require(cg_npe(own, &nodes));
      const Shape shape = shapeOf(own);
      if (nodes < 1 || i + static_cast<std::size_t>(nodes) > data.size())
        throw Refused{"its elements are not complete"};
      std::vector<vtkIdType> corners;
      for (int c = 0; c < shape.corners; ++c) {
        const cgsize_t point = data[i + static_cast<std::size_t>(c)];
        if (point < 1 || point > points)
          throw Refused{"an element names a point that does not exist"};
        corners.push_back(first + static_cast<vtkIdType>(point - 1));
      }
      if (shape.corners > 0 && shape.dimension == dimension_)
        add(shape, corners);
      i += static_cast<std::size_t>(nodes);
    }
  }

  int file_ = 0;
  int base_ = 0, zone_ = 0;
  int dimension_ = 3, space_ = 3;  ///< of the cells, of the points
  std::vector<std::string> names_; ///< of the regions
  vtkNew<vtkPoints> points_;
  vtkNew<vtkIntArray> region_;
  vtkSmartPointer<vtkUnstructuredGrid> grid_ = vtkSmartPointer<vtkUnstructuredGrid>::New();
};

} // namespace

Grid cgnsGrid(const std::filesystem::path& path)
{
  vtkSmartPointer<vtkUnstructuredGrid> grid;
  std::string why;
  const bool within = readWithinReason(path, [&] {
    try {
      grid = CgnsFile(path).grid();
    } catch (const Refused& refused) {
      why = refused.why;
    } catch (const std::length_error&) {
      why = "a count in it cannot be";
    }
  });
  if (!within)
    return unreadableGrid(path, "It is damaged: it asks for far more memory than it can hold.");
  if (!why.empty())
    return unreadableGrid(path, "It is no CGNS file, or damaged: " + why + ".");
  return grid;
}

} // namespace kiln
