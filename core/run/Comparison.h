// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "io/RunFile.h"
#include "results/CaseResult.h"
#include "results/RunRecord.h"

/// What differs between two cases, of one project or of two: what was set, and what came out.
namespace kiln
{

/// One side of a comparison. The result may be missing: then only what was set is compared.
struct Compared {
  std::string name;   ///< "Hold", "other.kiln: Hold"
  Project project;    ///< as its case sees it
  std::string caseId; ///< in it
  std::shared_ptr<const CaseResult> result{};
  std::shared_ptr<const RunRecord> run{}; ///< of a transient case
  bool current = true;                    ///< the result is that of the inputs
  /// s, of its run; nothing: its end. With temperatures there, by unknown of the result, K; nothing where not stored.
  std::optional<double> instant{};
  std::shared_ptr<const std::vector<double>> kelvin{};
};

/// The nearest instant that a run has.
[[nodiscard]] double withinRun(const RunRecord& run, double time);

/// Temperatures of a run at an instant, by unknown of its result, K. nullptr where they cannot be read.
[[nodiscard]] std::shared_ptr<const std::vector<double>> temperaturesAt(const CaseResult& result, const RunRecord& run,
                                                                        const InstantReader& fields, double time);

/// A field with its values in words; empty where one side has no such field.
struct ComparedInput {
  std::string path, label; ///< "outer-air.coefficient", "boundary Outer air, Coefficient h"
  std::string a, b;
  [[nodiscard]] bool differs() const { return a != b; }
};

/// A figure in SI; nothing where one side has none.
struct ComparedFigure {
  std::string kind, id, name; ///< "watch", "peak", "Shell, hottest"
  Quantity quantity = Quantity::Temperature;
  std::optional<double> a, b;

  [[nodiscard]] std::optional<double> difference() const; ///< b − a, of temperatures an interval
  /// (b − a)/|a|; nothing for temperatures, whose zero is no measure, and where a is zero.
  [[nodiscard]] std::optional<double> share() const;
};

/// Why two sides cannot be compared at all: a section with a solid, results without a part in common.
[[nodiscard]] Expected<void> comparable(const Compared& a, const Compared& b);

/// What has to be known of a comparison: a result that is missing or out of date.
[[nodiscard]] std::vector<std::string> comparisonNotes(const Compared& a, const Compared& b);

/// Every field that a result depends on, matched by path, those of the two cases with each other.
[[nodiscard]] std::vector<ComparedInput> compareInputs(const Compared& a, const Compared& b,
                                                       TemperatureUnit unit = TemperatureUnit::Celsius);

/// Watches, parts, the ledger, contacts, and what it took; matched by id, watches and parts else by name.
[[nodiscard]] std::vector<ComparedFigure> compareFigures(const Compared& a, const Compared& b);

/// Both as comma-separated text, numbers in SI.
[[nodiscard]] std::string comparisonCsv(const Compared& a, const Compared& b);

} // namespace kiln
