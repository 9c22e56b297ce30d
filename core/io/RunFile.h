// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "io/CaseStore.h"
#include "results/RunRecord.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <span>
#include <vector>

namespace kiln
{

/// Appends a run to DIR/<case>.running.h5 as it goes. Every appended row is flushed, so that whoever reads it
/// meanwhile, or after the writer was killed, finds all up to the last one (HDF5's single-writer, many-readers mode).
class RunWriter
{
public:
  /// \param record    its case, hash, start and traces (kinds and ids; values are ignored)
  /// \param unknowns  length of a stored field
  /// The file is written aside until \ref takePlace.
  static Expected<RunWriter> create(const std::filesystem::path& file, const RunRecord& record, std::size_t unknowns);
  ~RunWriter();
  RunWriter(RunWriter&&) noexcept;
  RunWriter(const RunWriter&) = delete;
  RunWriter& operator=(const RunWriter&) = delete;
  RunWriter& operator=(RunWriter&&) = delete;

  /// \param values  one for every trace, in their order
  [[nodiscard]] Expected<void> appendStep(double time, std::span<const double> values);
  /// \param temperature  by unknown, K; kept as 4-byte floats
  [[nodiscard]] Expected<void> appendInstant(double time, std::span<const double> temperature);
  /// What is known at the end; nothing can be appended afterwards.
  [[nodiscard]] Expected<void> finish(const RunRecord& record);
  /// Replaces what lies in the place of the file by what was written so far; appending goes on there.
  [[nodiscard]] Expected<void> takePlace();
  /// Bytes in the file so far.
  [[nodiscard]] std::uint64_t bytes() const;

private:
  struct Handles;
  explicit RunWriter(std::unique_ptr<Handles> handles);
  std::unique_ptr<Handles> handles_;
};

/// Reads the steps of a run, finished or not. Fails with kind Unreadable when the file is absent, damaged or of another
/// layout.
[[nodiscard]] Expected<RunRecord> loadRun(const std::filesystem::path& file);

/// Stored fields of a run, read one by one.
class InstantReader
{
public:
  static Expected<InstantReader> open(const std::filesystem::path& file);
  ~InstantReader();
  InstantReader(InstantReader&&) noexcept;
  InstantReader(const InstantReader&) = delete;
  InstantReader& operator=(const InstantReader&) = delete;
  InstantReader& operator=(InstantReader&&) = delete;

  /// Temperatures of one stored instant, by unknown, K. Fails when it is not there.
  [[nodiscard]] Expected<std::vector<double>> field(std::size_t instant) const;
  /// Temperatures at any instant, by a line between the stored ones around it.
  /// \param instants  of the run's record
  [[nodiscard]] Expected<std::vector<double>> fieldAt(const std::vector<double>& instants, double time) const;

private:
  struct Handles;
  explicit InstantReader(std::unique_ptr<Handles> handles);
  std::unique_ptr<Handles> handles_;
};

} // namespace kiln
