// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"

#include <QByteArray>
#include <QFile>
#include <QString>
#include <QTemporaryDir>
#include <array>
#include <cgnslib.h>
#include <cstring>
#include <map>
#include <netcdf.h>
#include <stdexcept>
#include <vector>

/// Small meshes as the files of other programs, each written without the library that reads it, as far as there are
/// two.
namespace kiln::test
{

struct Cell {
  int type; // of the file format: 5 triangle, 9 quad, 10 tetrahedron, 12 hexahedron, 13 wedge
  std::vector<int> points;
  int region;
};

inline QByteArray vtu(const std::vector<Vec3>& points, const std::vector<Cell>& cells)
{
  QString places, connectivity, offsets, types, regions;
  for (const Vec3& p : points)
    places += QString("%1 %2 %3 ").arg(p.x()).arg(p.y()).arg(p.z());
  int offset = 0;
  for (const Cell& cell : cells) {
    for (const int p : cell.points)
      connectivity += QString::number(p) + " ";
    offsets += QString::number(offset += static_cast<int>(cell.points.size())) + " ";
    types += QString::number(cell.type) + " ";
    regions += QString::number(cell.region) + " ";
  }
  const auto array = [](const QString& type, const QString& name, const QString& text, const QString& more = {}) {
    return "<DataArray type=\"" + type + "\" Name=\"" + name + "\" " + more + " format=\"ascii\">" + text +
           "</DataArray>";
  };
  return ("<?xml version=\"1.0\"?><VTKFile type=\"UnstructuredGrid\" version=\"0.1\" byte_order=\"LittleEndian\">"
          "<UnstructuredGrid><Piece NumberOfPoints=\"" +
          QString::number(points.size()) + "\" NumberOfCells=\"" + QString::number(cells.size()) + "\"><Points>" +
          array("Float64", "places", places, "NumberOfComponents=\"3\"") + "</Points><Cells>" +
          array("Int64", "connectivity", connectivity) + array("Int64", "offsets", offsets) +
          array("UInt8", "types", types) + "</Cells><CellData>" + array("Int32", "region", regions) +
          "</CellData></Piece></UnstructuredGrid></VTKFile>\n")
      .toUtf8();
}

/// The same grid in the older form.
inline QByteArray legacyVtk(const std::vector<Vec3>& points, const std::vector<Cell>& cells)
{
  QString text = QString("# vtk DataFile Version 3.0\na mesh\nASCII\nDATASET UNSTRUCTURED_GRID\nPOINTS %1 double\n")
                     .arg(points.size());
  for (const Vec3& p : points)
    text += QString("%1 %2 %3\n").arg(p.x()).arg(p.y()).arg(p.z());
  std::size_t numbers = 0;
  QString lines, types, regions;
  for (const Cell& cell : cells) {
    numbers += cell.points.size() + 1;
    lines += QString::number(cell.points.size());
    for (const int p : cell.points)
      lines += " " + QString::number(p);
    lines += "\n";
    types += QString::number(cell.type) + "\n";
    regions += QString::number(cell.region) + "\n";
  }
  const QString count = QString::number(cells.size());
  return (text + "CELLS " + count + " " + QString::number(numbers) + "\n" + lines + "CELL_TYPES " + count + "\n" +
          types + "CELL_DATA " + count + "\nSCALARS region int 1\nLOOKUP_TABLE default\n" + regions)
      .toUtf8();
}

inline QByteArray bytesOf(const QString& file)
{
  QFile in(file);
  if (!in.open(QIODevice::ReadOnly))
    throw std::runtime_error("not written");
  return in.readAll();
}

/// By region, in the order of their numbers.
inline std::map<int, std::vector<Cell>> byRegion(const std::vector<Cell>& cells)
{
  std::map<int, std::vector<Cell>> blocks;
  for (const Cell& cell : cells)
    blocks[cell.region].push_back(cell);
  return blocks;
}

/// Exodus II, by the conventions of that format in plain NetCDF: a block for each region, "Cube 4".
inline QByteArray exodus(const std::vector<Vec3>& points, const std::vector<Cell>& cells)
{
  const auto must = [](int code) {
    if (code != NC_NOERR)
      throw std::runtime_error(nc_strerror(code));
  };
  const QTemporaryDir folder;
  const QString path = folder.filePath("mesh.exo");
  const auto blocks = byRegion(cells);
  int file = 0;
  must(nc_create(path.toLocal8Bit().constData(), NC_CLOBBER | NC_64BIT_OFFSET, &file));
  const float version = 5.1F;
  const int word = 8, large = 1;
  must(nc_put_att_float(file, NC_GLOBAL, "api_version", NC_FLOAT, 1, &version));
  must(nc_put_att_float(file, NC_GLOBAL, "version", NC_FLOAT, 1, &version));
  must(nc_put_att_int(file, NC_GLOBAL, "floating_point_word_size", NC_INT, 1, &word));
  must(nc_put_att_int(file, NC_GLOBAL, "file_size", NC_INT, 1, &large));
  must(nc_put_att_text(file, NC_GLOBAL, "title", 6, "a mesh"));
  const auto length = [&](const std::string& name, std::size_t size) {
    int id = 0;
    must(nc_def_dim(file, name.c_str(), size, &id));
    return id;
  };
  const auto variable = [&](const std::string& name, nc_type type, const std::vector<int>& sizes) {
    int id = 0;
    must(nc_def_var(file, name.c_str(), type, static_cast<int>(sizes.size()), sizes.data(), &id));
    return id;
  };
  constexpr std::size_t nameLength = 33;
  const int text = length("len_string", nameLength);
  length("len_line", 81);
  length("four", 4);
  length("time_step", NC_UNLIMITED);
  length("num_dim", 3);
  const int nodes = length("num_nodes", points.size());
  length("num_elem", cells.size());
  const int count = length("num_el_blk", blocks.size());
  const int status = variable("eb_status", NC_INT, {count}), ids = variable("eb_prop1", NC_INT, {count});
  must(nc_put_att_text(file, ids, "name", 2, "ID"));
  const int names = variable("eb_names", NC_CHAR, {count, text});
  const std::array<int, 3> places{variable("coordx", NC_DOUBLE, {nodes}), variable("coordy", NC_DOUBLE, {nodes}),
                                  variable("coordz", NC_DOUBLE, {nodes})};
  const std::map<int, std::string> types{{10, "TETRA"}, {12, "HEX8"}, {13, "WEDGE"}};
  std::vector<int> connect;
  for (std::size_t b = 1; const auto& [region, own] : blocks) {
    const std::string number = std::to_string(b++);
    connect.push_back(variable(
        "connect" + number, NC_INT,
        {length("num_el_in_blk" + number, own.size()), length("num_nod_per_el" + number, own[0].points.size())}));
    const std::string& type = types.at(own[0].type);
    must(nc_put_att_text(file, connect.back(), "elem_type", type.size(), type.c_str()));
  }
  must(nc_enddef(file));
  for (int i = 0; i < 3; ++i) {
    std::vector<double> values;
    for (const Vec3& point : points)
      values.push_back(point[i]);
    must(nc_put_var_double(file, places[static_cast<std::size_t>(i)], values.data()));
  }
  for (std::size_t b = 0; const auto& [region, own] : blocks) {
    const int one = 1;
    const std::array<std::size_t, 2> at{b, 0}, size{1, nameLength};
    std::array<char, nameLength> name{};
    std::strncpy(name.data(), ("Cube " + std::to_string(region)).c_str(), nameLength - 1);
    must(nc_put_var1_int(file, status, at.data(), &one));
    must(nc_put_var1_int(file, ids, at.data(), &region));
    must(nc_put_vara_text(file, names, at.data(), size.data(), name.data()));
    std::vector<int> numbers;
    for (const Cell& cell : own)
      for (const int point : cell.points)
        numbers.push_back(point + 1);
    must(nc_put_var_int(file, connect[b++], numbers.data()));
  }
  must(nc_close(file));
  return bytesOf(path);
}

/// A CGNS file of one zone with a section for each region, "Cube 4", and one of its skin.
inline QByteArray cgns(const std::vector<Vec3>& points, const std::vector<Cell>& cells)
{
  const auto must = [](int code) {
    if (code != CG_OK)
      throw std::runtime_error(cg_get_error());
  };
  const QTemporaryDir folder;
  const QString path = folder.filePath("mesh.cgns");
  int file = 0, base = 0, zone = 0, coordinate = 0, section = 0;
  must(cg_open(path.toLocal8Bit().constData(), CG_MODE_WRITE, &file));
  must(cg_base_write(file, "Base", 3, 3, &base));
  const std::array<cgsize_t, 3> size{static_cast<cgsize_t>(points.size()), static_cast<cgsize_t>(cells.size()), 0};
  must(cg_zone_write(file, base, "Bar", size.data(), CGNS_ENUMV(Unstructured), &zone));
  const std::array<const char*, 3> axes{"CoordinateX", "CoordinateY", "CoordinateZ"};
  for (int i = 0; i < 3; ++i) {
    std::vector<double> values;
    for (const Vec3& point : points)
      values.push_back(point[i]);
    must(cg_coord_write(file, base, zone, CGNS_ENUMV(RealDouble), axes[static_cast<std::size_t>(i)], values.data(),
                        &coordinate));
  }
  const std::map<int, CGNS_ENUMT(ElementType_t)> types{
      {10, CGNS_ENUMV(TETRA_4)}, {12, CGNS_ENUMV(HEXA_8)}, {13, CGNS_ENUMV(PENTA_6)}};
  cgsize_t first = 1;
  for (const auto& [region, own] : byRegion(cells)) {
    std::vector<cgsize_t> numbers;
    for (const Cell& cell : own)
      for (const int point : cell.points)
        numbers.push_back(point + 1);
    const auto last = first + static_cast<cgsize_t>(own.size()) - 1;
    must(cg_section_write(file, base, zone, ("Cube " + std::to_string(region)).c_str(), types.at(own[0].type), first,
                          last, 0, numbers.data(), &section));
    first = last + 1;
  }
  const std::array<cgsize_t, 3> skin{1, 2, 3};
  must(cg_section_write(file, base, zone, "Skin", CGNS_ENUMV(TRI_3), first, first, 0, skin.data(), &section));
  must(cg_close(file));
  return bytesOf(path);
}

/// Three structured zones of a CGNS file in a row along x, of n × n × n cells and 10 wide, that share their borders.
inline QByteArray structuredCgns(int n)
{
  const auto must = [](int code) {
    if (code != CG_OK)
      throw std::runtime_error(cg_get_error());
  };
  const QTemporaryDir folder;
  const QString path = folder.filePath("blocks.cgns");
  int file = 0, base = 0, coordinate = 0;
  must(cg_open(path.toLocal8Bit().constData(), CG_MODE_WRITE, &file));
  must(cg_base_write(file, "Base", 3, 3, &base));
  for (int block = 0; block < 3; ++block) {
    const cgsize_t p = n + 1, c = n;
    const std::array<cgsize_t, 9> size{p, p, p, c, c, c, 0, 0, 0};
    int zone = 0;
    must(cg_zone_write(file, base, ("Block " + std::to_string(block + 1)).c_str(), size.data(), CGNS_ENUMV(Structured),
                       &zone));
    std::array<std::vector<double>, 3> values;
    for (int k = 0; k <= n; ++k)
      for (int j = 0; j <= n; ++j)
        for (int i = 0; i <= n; ++i) {
          values[0].push_back(10.0 * block + 10.0 * i / n);
          values[1].push_back(10.0 * j / n);
          values[2].push_back(10.0 * k / n);
        }
    for (int i = 0; i < 3; ++i)
      must(cg_coord_write(file, base, zone, CGNS_ENUMV(RealDouble),
                          std::array{"CoordinateX", "CoordinateY", "CoordinateZ"}[static_cast<std::size_t>(i)],
                          values[static_cast<std::size_t>(i)].data(), &coordinate));
  }
  must(cg_close(file));
  return bytesOf(path);
}

/// Three cubes in a row along x: a hexahedron, two wedges, six tetrahedra around a diagonal of their cube.
/// \param fitting  the tetrahedra meet the wedges along the diagonal that these are divided by, or across it
inline QByteArray threeCubes(bool fitting, QByteArray (*form)(const std::vector<Vec3>&, const std::vector<Cell>&) = vtu)
{
  std::vector<Vec3> points;
  for (int x = 0; x < 4; ++x)
    for (int k = 0; k < 4; ++k)
      points.emplace_back(10 * x, 10 * (k % 2), 10 * (k / 2));
  const auto at = [](int x, int y, int z) { return 4 * x + y + 2 * z; };
  std::vector<Cell> cells{
      {12, {at(0, 0, 0), at(1, 0, 0), at(1, 1, 0), at(0, 1, 0), at(0, 0, 1), at(1, 0, 1), at(1, 1, 1), at(0, 1, 1)}, 4},
      {13, {at(1, 0, 0), at(2, 0, 0), at(1, 1, 0), at(1, 0, 1), at(2, 0, 1), at(1, 1, 1)}, 7},
      {13, {at(2, 0, 0), at(2, 1, 0), at(1, 1, 0), at(2, 0, 1), at(2, 1, 1), at(1, 1, 1)}, 7}};
  const std::vector<std::array<int, 3>> ring{{1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0, 1, 1}, {0, 0, 1}, {1, 0, 1}};
  for (std::size_t i = 0; i < ring.size(); ++i) {
    const auto corner = [&](std::array<int, 3> c) { return at(2 + c[0], fitting ? 1 - c[1] : c[1], c[2]); };
    cells.push_back({10, {corner({0, 0, 0}), corner(ring[i]), corner(ring[(i + 1) % 6]), corner({1, 1, 1})}, 9});
  }
  return form(points, cells);
}

} // namespace kiln::test
