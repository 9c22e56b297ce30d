// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What a run says about its parts, and about itself when it was not finished.
#include "results/RunRecord.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

/// The largest (or, with sign −1, smallest) value of a trace, its instant and place.
TimedValue extremeOf(const RunRecord& record, RunTrace::Kind kind, RunTrace::Kind place, const std::string& part,
                     double sign)
{
  TimedValue found;
  const RunTrace* values = record.find(kind, part);
  const RunTrace* places = record.find(place, part);
  if (values == nullptr || places == nullptr)
    return found;
  for (std::size_t i = 0; i < record.times.size(); ++i)
    if (sign * values->values[i] > sign * found.value)
      found = {record.times[i], values->values[i], NodeId(std::lround(places->values[i]))};
  return found;
}

/// Slopes of the parabolas through neighbouring steps, K/s; of lines beside an instant that comes twice.
std::vector<double> slopesOf(const std::vector<double>& times, const std::vector<double>& values)
{
  const std::size_t count = values.size();
  std::vector<double> slopes(count, 0.0);
  const auto length = [&](std::size_t i) { return i + 1 < count ? times[i + 1] - times[i] : 0.0; };
  const auto rise = [&](std::size_t i) { return (values[i + 1] - values[i]) / length(i); };
  for (std::size_t i = 0; i < count; ++i) {
    const double before = i > 0 ? length(i - 1) : 0;
    const double after = length(i);
    if (before > 0 && after > 0)
      slopes[i] = (rise(i - 1) * after + rise(i) * before) / (before + after);
    else if (before > 0 && i > 1 && length(i - 2) > 0)
      slopes[i] = rise(i - 1) + (rise(i - 1) - rise(i - 2)) * before / (before + length(i - 2));
    else if (after > 0 && length(i + 1) > 0)
      slopes[i] = rise(i) + (rise(i) - rise(i + 1)) * after / (after + length(i + 1));
    else if (before > 0 || after > 0)
      slopes[i] = before > 0 ? rise(i - 1) : rise(i);
  }
  return slopes;
}

} // namespace

std::vector<PartInTime> partsInTime(const RunRecord& record, std::optional<double> band)
{
  std::vector<PartInTime> parts;
  for (const RunTrace& hottest : record.traces) {
    if (hottest.kind != RunTrace::Kind::Hottest || hottest.values.empty())
      continue;
    PartInTime part;
    part.id = hottest.id;
    part.hottest = answersOf(record.times, hottest.values, slopesOf(record.times, hottest.values), {}, std::nullopt,
                             std::nullopt, band.value_or(usualBand(hottest.values)));
    if (const RunTrace* coldest = record.find(RunTrace::Kind::Coldest, part.id))
      for (std::size_t i = 0; i < record.times.size(); ++i)
        if (const double spread = hottest.values[i] - coldest->values[i]; spread > part.spread.value)
          part.spread = {record.times[i], spread, {}};
    using enum RunTrace::Kind;
    part.fastestHeating = extremeOf(record, Heating, HeatingPlace, part.id, 1);
    part.fastestCooling = extremeOf(record, Cooling, CoolingPlace, part.id, -1);
    parts.push_back(std::move(part));
  }
  return parts;
}

std::optional<double> allSettled(const std::vector<PartInTime>& parts)
{
  std::optional<double> last;
  for (const PartInTime& part : parts) {
    if (!part.hottest.settled || part.hottest.stillRising || part.hottest.stillFalling)
      return std::nullopt;
    last = std::max(last.value_or(0), *part.hottest.settled);
  }
  return last;
}

std::vector<RunMark> marksOfTraces(const RunRecord& record)
{
  std::vector<RunMark> marks;
  for (const RunTrace& trace : record.traces)
    for (std::size_t i = 1; i < trace.values.size(); ++i) {
      if (trace.values[i] == trace.values[i - 1])
        continue;
      if (trace.kind == RunTrace::Kind::Switch)
        marks.push_back({record.times[i],
                         trace.values[i] > 0 ? RunMark::Kind::SwitchedOn : RunMark::Kind::SwitchedOff,
                         trace.id,
                         {}});
      if (trace.kind == RunTrace::Kind::Fired)
        marks.push_back({record.times[i], RunMark::Kind::RuleFired, trace.id, {}});
    }
  std::stable_sort(marks.begin(), marks.end(), [](const RunMark& a, const RunMark& b) { return a.time < b.time; });
  return marks;
}

} // namespace kiln
