// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/RunFile.h"

#include "io/AtomicFile.h"
#include "io/DescribeResult.h"
#include "io/Hdf5.h"
#include "io/Hdf5Tables.h"

#include <algorithm>
#include <array>
#include <unistd.h>
#include <utility>

namespace kiln
{
namespace
{

constexpr int runLayout = 2;

tl::unexpected<Failure> unreadable(const std::filesystem::path& file)
{
  return failure(Failure::Kind::Unreadable, "file " + file.string(), "It holds no readable run.",
                 "Solve the case again.");
}

/// The library does not tell why it could not write: its folder says.
tl::unexpected<Failure> unwritable(const std::filesystem::path& file)
{
  const std::filesystem::path folder = file.parent_path();
  const auto because = [&](const char* why, const char* remedy) {
    return failure(Failure::Kind::Unwritable, "file " + file.string(),
                   std::string("The run could not be written on: ") + why + ".", remedy);
  };
  if (::access(folder.c_str(), F_OK) != 0)
    return because("its folder is gone", "Solve the case again.");
  if (::access(folder.c_str(), W_OK) != 0)
    return because("nothing may be written into its folder", "Choose a folder you may write to.");
  return because("the disk, or what you may use of it, is full. What was written stays readable",
                 "Make space, then continue the run.");
}

std::string headText(const RunRecord& record)
{
  JsonWriter writer;
  writer.json["layout"] = runLayout;
  describeHead(writer, const_cast<RunRecord&>(record)); // a writer changes nothing
  return writer.json.dump();
}

std::string endText(const RunRecord& record)
{
  JsonWriter writer;
  describeEnd(writer, const_cast<RunRecord&>(record));
  return writer.json.dump();
}

} // namespace

struct RunWriter::Handles {
  std::filesystem::path place, path; // where it belongs, where it is
  Hdf5Handle file, steps, instants, fields;
  std::size_t columns = 0, unknowns = 0;
  std::vector<double> row;
  std::vector<float> field;

  /// A folder that was removed or moved meanwhile would be noticed at the end only.
  [[nodiscard]] bool inPlace() const { return ::access(path.c_str(), F_OK) == 0; }

  tl::unexpected<Failure> failed()
  {
    for (Hdf5Handle* handle : {&steps, &instants, &fields, &file})
      handle->abandon();
    return unwritable(path);
  }
};

RunWriter::RunWriter(std::unique_ptr<Handles> handles) : handles_(std::move(handles)) {}
RunWriter::~RunWriter()
{
  std::error_code ignored;
  if (handles_ && handles_->path != handles_->place) // never came to replace anything
    std::filesystem::remove(handles_->path, ignored);
}
RunWriter::RunWriter(RunWriter&&) noexcept = default;

Expected<RunWriter> RunWriter::create(const std::filesystem::path& file, const RunRecord& record, std::size_t unknowns)
{
  prepareHdf5();
  auto handles = std::make_unique<Handles>();
  handles->place = file;
  handles->path = file.string() + partEnding + std::to_string(::getpid());
  const Hdf5Handle access = accessWhileWritten();
  std::error_code ignored;
  std::filesystem::remove(handles->path, ignored);
  handles->file = Hdf5Handle(H5Fcreate(handles->path.c_str(), H5F_ACC_EXCL, H5P_DEFAULT, access), H5Fclose);
  if (handles->file < 0 || !writeText(handles->file, "/head", headText(record)))
    return unwritable(file);
  handles->columns = record.traces.size() + 1;
  handles->unknowns = unknowns;
  constexpr hsize_t stepsInChunk = 64;
  handles->steps = growingTable(handles->file, "/steps", H5T_NATIVE_DOUBLE, handles->columns, stepsInChunk);
  handles->instants = growingTable(handles->file, "/instants", H5T_NATIVE_DOUBLE, 1, stepsInChunk);
  handles->fields =
      growingTable(handles->file, "/temperature", H5T_NATIVE_FLOAT, std::max<std::size_t>(unknowns, 1), 1);
  if (handles->steps < 0 || handles->instants < 0 || handles->fields < 0 || H5Fstart_swmr_write(handles->file) < 0)
    return unwritable(file);
  return RunWriter(std::move(handles));
}

Expected<void> RunWriter::appendStep(double time, std::span<const double> values)
{
  std::vector<double>& row = handles_->row;
  row.assign(1, time);
  row.insert(row.end(), values.begin(), values.end());
  row.resize(handles_->columns);
  if (!handles_->inPlace())
    return handles_->failed();
  if (!appendRow(handles_->steps, H5T_NATIVE_DOUBLE, row.data(), row.size()))
    return handles_->failed();
  return {};
}

Expected<void> RunWriter::appendInstant(double time, std::span<const double> temperature)
{
  std::vector<float>& field = handles_->field;
  field.assign(temperature.begin(), temperature.end());
  field.resize(std::max<std::size_t>(handles_->unknowns, 1));
  // The field first: an instant without one must never be found.
  if (!appendRow(handles_->fields, H5T_NATIVE_FLOAT, field.data(), field.size()) ||
      !appendRow(handles_->instants, H5T_NATIVE_DOUBLE, &time, 1))
    return handles_->failed();
  return {};
}

Expected<void> RunWriter::takePlace()
{
  if (H5Fflush(handles_->file, H5F_SCOPE_GLOBAL) < 0)
    return handles_->failed();
  if (auto synced = syncFile(handles_->path); !synced)
    return synced;
  std::error_code error;
  std::filesystem::rename(handles_->path, handles_->place, error); // whoever still reads the old one keeps it
  if (error)
    return unwritable(handles_->place);
  handles_->path = handles_->place;
  return {};
}

Expected<void> RunWriter::finish(const RunRecord& record)
{
  const std::filesystem::path file = handles_->path;
  handles_.reset();
  const Hdf5Handle handle(H5Fopen(file.c_str(), H5F_ACC_RDWR, accessWhileWritten()), H5Fclose);
  if (handle < 0 || !writeText(handle, "/end", endText(record)) || H5Fflush(handle, H5F_SCOPE_GLOBAL) < 0)
    return unwritable(file);
  return {};
}

std::uint64_t RunWriter::bytes() const
{
  hsize_t size = 0;
  H5Fget_filesize(handles_->file, &size);
  return size;
}

Expected<RunRecord> loadRun(const std::filesystem::path& file)
{
  const Hdf5Handle handle = openWhileWritten(file);
  if (handle < 0)
    return unreadable(file);
  RunRecord record;
  try {
    const auto head = readText(handle, "/head");
    const auto steps = readRows(handle, "/steps");
    const auto instants = readRows(handle, "/instants");
    if (!head || !steps || !instants)
      return unreadable(file);
    const Json json = Json::parse(*head);
    RecordReader reader(json);
    describeHead(reader, record);
    if (reader.failed() || json.at("layout") != runLayout)
      return unreadable(file);
    if (steps->columns != record.traces.size() + 1)
      return unreadable(file);
    for (std::size_t row = 0; row < steps->rows; ++row) {
      const double* values = &steps->values[row * steps->columns];
      record.times.push_back(values[0]);
      for (std::size_t i = 0; i < record.traces.size(); ++i)
        record.traces[i].values.push_back(values[i + 1]);
    }
    record.instants = instants->values;
    if (const auto end = readText(handle, "/end")) {
      const Json ended = Json::parse(*end);
      RecordReader ending(ended);
      describeEnd(ending, record);
      if (ending.failed())
        return unreadable(file);
      record.finished = true;
    } else
      record.marks = marksOfTraces(record);
  } catch (const std::exception&) { // damaged JSON
    return unreadable(file);
  }
  return record;
}

struct InstantReader::Handles {
  std::filesystem::path path;
  Hdf5Handle file, fields;
};

InstantReader::InstantReader(std::unique_ptr<Handles> handles) : handles_(std::move(handles)) {}
InstantReader::~InstantReader() = default;
InstantReader::InstantReader(InstantReader&&) noexcept = default;

Expected<InstantReader> InstantReader::open(const std::filesystem::path& file)
{
  auto handles = std::make_unique<Handles>();
  handles->path = file;
  handles->file = openWhileWritten(file);
  if (handles->file >= 0)
    handles->fields = Hdf5Handle(H5Dopen2(handles->file, "/temperature", H5P_DEFAULT), H5Dclose);
  if (handles->file < 0 || handles->fields < 0)
    return unreadable(file);
  return InstantReader(std::move(handles));
}

Expected<std::vector<double>> InstantReader::field(std::size_t instant) const
{
  H5Drefresh(handles_->fields);
  const Hdf5Handle space(H5Dget_space(handles_->fields), H5Sclose);
  std::array<hsize_t, 2> size{};
  if (H5Sget_simple_extent_dims(space, size.data(), nullptr) != 2 || instant >= size[0])
    return unreadable(handles_->path);
  const std::array<hsize_t, 2> at{instant, 0};
  const std::array<hsize_t, 2> one{1, size[1]};
  H5Sselect_hyperslab(space, H5S_SELECT_SET, at.data(), nullptr, one.data(), nullptr);
  const Hdf5Handle memory(H5Screate_simple(2, one.data(), nullptr), H5Sclose);
  std::vector<double> values(size[1]);
  if (H5Dread(handles_->fields, H5T_NATIVE_DOUBLE, memory, space, H5P_DEFAULT, values.data()) < 0)
    return unreadable(handles_->path);
  return values;
}

Expected<std::vector<double>> InstantReader::fieldAt(const std::vector<double>& instants, double time) const
{
  if (instants.empty())
    return unreadable(handles_->path);
  const auto after = std::lower_bound(instants.begin(), instants.end(), time);
  if (after == instants.begin())
    return field(0);
  if (after == instants.end())
    return field(instants.size() - 1);
  const auto i = static_cast<std::size_t>(after - instants.begin());
  auto before = field(i - 1);
  const auto next = field(i);
  if (!before || !next)
    return before ? next : before;
  const double share = (time - instants[i - 1]) / (instants[i] - instants[i - 1]);
  for (std::size_t u = 0; u < before->size(); ++u)
    (*before)[u] += share * ((*next)[u] - (*before)[u]);
  return before;
}

} // namespace kiln
