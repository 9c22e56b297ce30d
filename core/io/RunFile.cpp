// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/RunFile.h"

#include "io/AtomicFile.h"
#include "io/BoundsJson.h"
#include "io/Hdf5.h"
#include "io/JsonText.h"

#include <algorithm>
#include <array>
#include <unistd.h>
#include <utility>

namespace kiln
{
namespace
{

constexpr int runLayout = 2;

/// Closes what HDF5 opened.
class Handle
{
public:
  Handle() = default;
  Handle(hid_t id, herr_t (*close)(hid_t)) : id_(id), close_(close) {}
  ~Handle() { reset(); }
  Handle(Handle&& other) noexcept : id_(std::exchange(other.id_, -1)), close_(other.close_) {}
  Handle& operator=(Handle&& other) noexcept
  {
    reset();
    id_ = std::exchange(other.id_, -1);
    close_ = other.close_;
    return *this;
  }
  Handle(const Handle&) = delete;
  Handle& operator=(const Handle&) = delete;
  void reset()
  {
    if (id_ >= 0)
      close_(std::exchange(id_, -1));
  }
  operator hid_t() const { return id_; }
  /// Lets go without closing: what cannot be written must not be tried again.
  void abandon() { id_ = -1; }

private:
  hid_t id_ = -1;
  herr_t (*close_)(hid_t) = nullptr;
};

/// How run files are opened: without locks, because the window reads them while the solver writes. Single-writer
/// mode keeps what is read whole.
Handle accessing()
{
  Handle access(H5Pcreate(H5P_FILE_ACCESS), H5Pclose);
  H5Pset_libver_bounds(access, H5F_LIBVER_LATEST, H5F_LIBVER_LATEST);
  H5Pset_file_locking(access, 0, 1);
  constexpr unsigned attempts = 5; // a damaged head is not read a hundred times over
  H5Pset_metadata_read_attempts(access, attempts);
  return access;
}

/// A table of rows that can grow.
Handle growing(hid_t file, const char* path, hid_t type, hsize_t columns, hsize_t rowsInChunk)
{
  const std::array<hsize_t, 2> none{0, columns};
  const std::array<hsize_t, 2> most{H5S_UNLIMITED, columns};
  const Handle space(H5Screate_simple(2, none.data(), most.data()), H5Sclose);
  const Handle settings(H5Pcreate(H5P_DATASET_CREATE), H5Pclose);
  const std::array<hsize_t, 2> chunk{rowsInChunk, columns};
  H5Pset_chunk(settings, 2, chunk.data());
  H5Pset_shuffle(settings);
  H5Pset_deflate(settings, 1);
  return {H5Dcreate2(file, path, type, space, H5P_DEFAULT, settings, H5P_DEFAULT), H5Dclose};
}

bool appendRow(hid_t set, hid_t type, const void* row, hsize_t columns)
{
  const Handle before(H5Dget_space(set), H5Sclose);
  std::array<hsize_t, 2> size{};
  if (H5Sget_simple_extent_dims(before, size.data(), nullptr) != 2)
    return false;
  const std::array<hsize_t, 2> grown{size[0] + 1, columns};
  if (H5Dset_extent(set, grown.data()) < 0)
    return false;
  const Handle file(H5Dget_space(set), H5Sclose);
  const std::array<hsize_t, 2> at{size[0], 0};
  const std::array<hsize_t, 2> one{1, columns};
  H5Sselect_hyperslab(file, H5S_SELECT_SET, at.data(), nullptr, one.data(), nullptr);
  const Handle memory(H5Screate_simple(2, one.data(), nullptr), H5Sclose);
  return H5Dwrite(set, type, memory, file, H5P_DEFAULT, row) >= 0 && H5Dflush(set) >= 0;
}

bool writeText(hid_t file, const char* path, const std::string& text)
{
  const hsize_t size = text.size();
  const Handle space(H5Screate_simple(1, &size, nullptr), H5Sclose);
  const Handle set(H5Dcreate2(file, path, H5T_NATIVE_UINT8, space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT), H5Dclose);
  return set >= 0 && H5Dwrite(set, H5T_NATIVE_UINT8, H5S_ALL, H5S_ALL, H5P_DEFAULT, text.data()) >= 0;
}

std::optional<std::string> readText(hid_t file, const char* path)
{
  if (H5Lexists(file, path, H5P_DEFAULT) <= 0)
    return std::nullopt;
  const Handle set(H5Dopen2(file, path, H5P_DEFAULT), H5Dclose);
  const Handle space(H5Dget_space(set), H5Sclose);
  const hssize_t size = H5Sget_simple_extent_npoints(space);
  constexpr hssize_t most = 1 << 26;
  if (set < 0 || size < 0 || size > most)
    return std::nullopt;
  std::string text(static_cast<std::size_t>(size), '\0');
  if (size > 0 && H5Dread(set, H5T_NATIVE_UINT8, H5S_ALL, H5S_ALL, H5P_DEFAULT, text.data()) < 0)
    return std::nullopt;
  return text;
}

/// Rows × columns of a table; empty when it cannot be read.
struct Rows {
  std::vector<double> values;
  std::size_t rows = 0, columns = 0;
};
std::optional<Rows> readRows(hid_t file, const char* path)
{
  const Handle set(H5Dopen2(file, path, H5P_DEFAULT), H5Dclose);
  if (set < 0)
    return std::nullopt;
  const Handle space(H5Dget_space(set), H5Sclose);
  std::array<hsize_t, 2> size{};
  constexpr hsize_t most = 1U << 28U;
  if (H5Sget_simple_extent_dims(space, size.data(), nullptr) != 2 || size[0] > most || size[1] > most ||
      size[0] * size[1] > most)
    return std::nullopt;
  Rows rows{std::vector<double>(size[0] * size[1]), size[0], size[1]};
  if (!rows.values.empty() && H5Dread(set, H5T_NATIVE_DOUBLE, H5S_ALL, H5S_ALL, H5P_DEFAULT, rows.values.data()) < 0)
    return std::nullopt;
  return rows;
}

/// A file that is, or was when its writer was killed, open for writing can be read all the same.
Handle openForReading(const std::filesystem::path& file)
{
  prepareHdf5();
  const Handle access = accessing();
  Handle handle(H5Fopen(file.c_str(), H5F_ACC_RDONLY | H5F_ACC_SWMR_READ, access), H5Fclose);
  if (handle < 0)
    handle = Handle(H5Fopen(file.c_str(), H5F_ACC_RDONLY, access), H5Fclose);
  return handle;
}

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

Json headJson(const RunRecord& record)
{
  Json json{{"layout", runLayout},
            {"caseId", record.caseId},
            {"solutionHash", record.solutionHash},
            {"courseHash", record.courseHash},
            {"startTime", record.startTime},
            {"startNote", record.startNote},
            {"startIdentity", record.startIdentity}};
  for (const RunTrace& trace : record.traces)
    json["traces"].push_back({{"kind", static_cast<int>(trace.kind)}, {"id", trace.id}});
  return json;
}

Json endJson(const RunRecord& record)
{
  Json json{{"reason", record.reason},
            {"byCap", record.byCap},
            {"bounds", boundsToJson(record.bounds)},
            {"worstImbalance", record.worstImbalance},
            {"imbalance", record.imbalance},
            {"steps", record.steps},
            {"rejected", record.rejected},
            {"newtonSteps", record.newtonSteps},
            {"seconds", record.seconds}};
  if (record.remaining)
    json["remaining"] = *record.remaining;
  json["steadyAfter"] = record.steadyAfter;
  json["marks"] = Json::array();
  for (const RunMark& mark : record.marks)
    json["marks"].push_back(
        {{"time", mark.time}, {"kind", static_cast<int>(mark.kind)}, {"id", mark.id}, {"text", mark.text}});
  return json;
}

void readEnd(const Json& json, RunRecord& record)
{
  record.finished = true;
  record.reason = json.at("reason");
  record.byCap = json.at("byCap");
  if (json.contains("remaining"))
    record.remaining = json.at("remaining").get<double>();
  record.bounds = boundsFromJson(json.at("bounds"));
  record.worstImbalance = json.at("worstImbalance");
  record.imbalance = json.at("imbalance");
  record.steps = json.at("steps");
  record.rejected = json.at("rejected");
  record.newtonSteps = json.at("newtonSteps");
  record.seconds = json.at("seconds");
  record.steadyAfter = json.value("steadyAfter", record.steadyAfter);
  for (const Json& mark : json.at("marks"))
    record.marks.push_back(
        {mark.at("time"), static_cast<RunMark::Kind>(mark.at("kind").get<int>()), mark.at("id"), mark.at("text")});
}

} // namespace

struct RunWriter::Handles {
  std::filesystem::path place, path; // where it belongs, where it is
  Handle file, steps, instants, fields;
  std::size_t columns = 0, unknowns = 0;
  std::vector<double> row;
  std::vector<float> field;

  /// A folder that was removed or moved meanwhile would be noticed at the end only.
  [[nodiscard]] bool inPlace() const { return ::access(path.c_str(), F_OK) == 0; }

  tl::unexpected<Failure> failed()
  {
    for (Handle* handle : {&steps, &instants, &fields, &file})
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
  const Handle access = accessing();
  std::error_code ignored;
  std::filesystem::remove(handles->path, ignored);
  handles->file = Handle(H5Fcreate(handles->path.c_str(), H5F_ACC_EXCL, H5P_DEFAULT, access), H5Fclose);
  if (handles->file < 0 || !writeText(handles->file, "/head", headJson(record).dump()))
    return unwritable(file);
  handles->columns = record.traces.size() + 1;
  handles->unknowns = unknowns;
  constexpr hsize_t stepsInChunk = 64;
  handles->steps = growing(handles->file, "/steps", H5T_NATIVE_DOUBLE, handles->columns, stepsInChunk);
  handles->instants = growing(handles->file, "/instants", H5T_NATIVE_DOUBLE, 1, stepsInChunk);
  handles->fields = growing(handles->file, "/temperature", H5T_NATIVE_FLOAT, std::max<std::size_t>(unknowns, 1), 1);
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
  const Handle handle(H5Fopen(file.c_str(), H5F_ACC_RDWR, accessing()), H5Fclose);
  if (handle < 0 || !writeText(handle, "/end", endJson(record).dump()) || H5Fflush(handle, H5F_SCOPE_GLOBAL) < 0)
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
  const Handle handle = openForReading(file);
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
    if (json.at("layout") != runLayout)
      return unreadable(file);
    record.caseId = json.at("caseId");
    record.solutionHash = json.at("solutionHash");
    record.courseHash = json.value("courseHash", "");
    record.startTime = json.at("startTime");
    record.startNote = json.at("startNote");
    record.startIdentity = json.at("startIdentity");
    for (const Json& trace : json.at("traces"))
      record.traces.push_back({static_cast<RunTrace::Kind>(trace.at("kind").get<int>()), trace.at("id"), {}});
    if (steps->columns != record.traces.size() + 1)
      return unreadable(file);
    for (std::size_t row = 0; row < steps->rows; ++row) {
      const double* values = &steps->values[row * steps->columns];
      record.times.push_back(values[0]);
      for (std::size_t i = 0; i < record.traces.size(); ++i)
        record.traces[i].values.push_back(values[i + 1]);
    }
    record.instants = instants->values;
    if (const auto end = readText(handle, "/end"))
      readEnd(Json::parse(*end), record);
    else
      record.marks = marksOfTraces(record);
  } catch (const std::exception&) { // damaged JSON
    return unreadable(file);
  }
  return record;
}

struct InstantReader::Handles {
  std::filesystem::path path;
  Handle file, fields;
};

InstantReader::InstantReader(std::unique_ptr<Handles> handles) : handles_(std::move(handles)) {}
InstantReader::~InstantReader() = default;
InstantReader::InstantReader(InstantReader&&) noexcept = default;

Expected<InstantReader> InstantReader::open(const std::filesystem::path& file)
{
  auto handles = std::make_unique<Handles>();
  handles->path = file;
  handles->file = openForReading(file);
  if (handles->file >= 0)
    handles->fields = Handle(H5Dopen2(handles->file, "/temperature", H5P_DEFAULT), H5Dclose);
  if (handles->file < 0 || handles->fields < 0)
    return unreadable(file);
  return InstantReader(std::move(handles));
}

Expected<std::vector<double>> InstantReader::field(std::size_t instant) const
{
  H5Drefresh(handles_->fields);
  const Handle space(H5Dget_space(handles_->fields), H5Sclose);
  std::array<hsize_t, 2> size{};
  if (H5Sget_simple_extent_dims(space, size.data(), nullptr) != 2 || instant >= size[0])
    return unreadable(handles_->path);
  const std::array<hsize_t, 2> at{instant, 0};
  const std::array<hsize_t, 2> one{1, size[1]};
  H5Sselect_hyperslab(space, H5S_SELECT_SET, at.data(), nullptr, one.data(), nullptr);
  const Handle memory(H5Screate_simple(2, one.data(), nullptr), H5Sclose);
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
