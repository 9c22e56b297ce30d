// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/AskedValues.h"

#include "base/NearestWord.h"
#include "io/Library.h"
#include "model/ObjectKinds.h"
#include "model/Settings.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double roomTemperature = 293.15; // K

tl::unexpected<Failure> refused(const Question& question, const std::string& what, const std::string& remedy)
{
  return failure(Failure::Kind::NotReady, objectWords(question), what, remedy);
}

/// Shares of the way from the first to the last of so many values.
std::vector<double> evenShares(int count)
{
  std::vector<double> shares;
  for (int i = 0; i < count; ++i)
    shares.push_back(count == 1 ? 0 : static_cast<double>(i) / (count - 1));
  return shares;
}

class AxisReader
{
public:
  AxisReader(Project& seen, const Question& question, const Field& field)
      : seen_(seen), question_(question), field_(field)
  {
    axis_.field = field.path;
    axis_.label = shortLabel(seen, field);
    axis_.quantity = field.quantity;
    axis_.allowed = field.range;
    if (const Number* number = field.kind == Field::Kind::Number ? field.value() : nullptr)
      axis_.set = number->si;
  }

  Expected<AskedAxis> operator()(const VariedRange& range)
  {
    if (field_.kind != Field::Kind::Number)
      return refused(question_, axis_.label + " is no number: it cannot go from one value to another.",
                     "List the values it shall take.");
    axis_.isRange = true;
    if (range.from.empty() && range.to.empty() && field_.value() != nullptr) {
      axis_.isOpen = true;
      axis_.low = axis_.high = axis_.set;
      add(plainValue(axis_.set));
      return std::move(axis_);
    }
    const auto low = number(range.from);
    const auto high = low ? number(range.to) : low;
    if (!high)
      return tl::unexpected(high.error());
    axis_.low = std::min(*low, *high);
    axis_.high = std::max(*low, *high);
    axis_.whole = range.whole;
    axis_.logarithmic = range.logarithmic;
    if (range.logarithmic && axis_.low <= 0)
      return refused(question_, axis_.label + " goes to zero or below: there are no equal ratios.",
                     "Let it start above zero, or go by equal steps.");
    const int count = range.count ? static_cast<int>(range.count->si) : 5;
    for (const double share : evenShares(count))
      add(axis_.at(*low <= *high ? share : 1 - share));
    if (axis_.whole) // several may round to the same one
      unite();
    return std::move(axis_);
  }

  Expected<AskedAxis> operator()(const VariedList& list)
  {
    if (list.values.empty())
      return refused(question_, axis_.label + " has no values to take.", "List some.");
    for (const std::string& typed : list.values) {
      const auto value = readSetting(seen_, field_, typed);
      if (!value)
        return tl::unexpected(value.error());
      add(*value);
    }
    return std::move(axis_);
  }

  Expected<AskedAxis> operator()(const VariedMaterials& materials)
  {
    if (!field_.reference || !(field_.reference->to & Refers::Material))
      return refused(question_, axis_.label + " names no material.", "Choose the material of a part.");
    for (const Material& one : builtInLibrary().materials) {
      const double k = valueAt(one.conductivity, roomTemperature).value;
      if ((!materials.least || k >= materials.least->si) && (!materials.most || k <= materials.most->si))
        add(takeMaterial(seen_, one));
    }
    if (axis_.values.empty())
      return refused(question_, "No material of the library conducts like that.", "Ask for a wider range.");
    return std::move(axis_);
  }

  Expected<AskedAxis> operator()(const VariedTolerance& tolerance)
  {
    if (field_.kind != Field::Kind::Number || field_.value() == nullptr)
      return refused(question_, axis_.label + " is no number that is set: it has no tolerance.",
                     "Choose a number, or set it first.");
    const bool share = tolerance.by.find('%') != std::string::npos;
    const bool interval = field_.quantity == Quantity::Temperature;
    const auto by = parseQuantity(tolerance.by, share      ? Quantity::Plain
                                                : interval ? Quantity::TemperatureStep
                                                           : field_.quantity);
    if (!by)
      return tl::unexpected(by.error());
    axis_.tolerance = tolerance;
    axis_.by = std::abs(share ? by->si * axis_.set : by->si);
    axis_.low = axis_.set - axis_.by;
    axis_.high = axis_.set + axis_.by;
    axis_.isRange = true;
    return std::move(axis_);
  }

private:
  void add(OwnValue value)
  {
    axis_.words.push_back(settingText(seen_, field_, value));
    axis_.values.push_back(std::move(value));
  }
  void unite()
  {
    std::vector<OwnValue> values = std::exchange(axis_.values, {});
    axis_.words.clear();
    for (OwnValue& value : values)
      if (std::find(axis_.values.begin(), axis_.values.end(), value) == axis_.values.end())
        add(std::move(value));
  }
  Expected<double> number(const std::string& typed)
  {
    const auto value = readSetting(seen_, field_, typed);
    if (!value)
      return tl::unexpected(value.error());
    const auto* number = std::get_if<Property>(&*value);
    if (number == nullptr || !number->table.empty())
      return refused(question_, "“" + typed + "” is no number for " + axis_.label + ".", "Type one with its unit.");
    return number->si;
  }

  Project& seen_;
  const Question& question_;
  const Field& field_;
  AskedAxis axis_;
};

} // namespace

std::string shortLabel(const Project& project, const Field& field)
{
  const Refers kind = kindOfObject(project, field.objectId);
  const std::string prefix = kindWords(kind) + " ";
  const std::string name =
      field.objectName.starts_with(prefix) ? field.objectName.substr(prefix.size()) : field.objectName;
  return kind == Refers::Parameter ? name : name + ", " + field.label;
}

OwnValue plainValue(double si) { return Property{Number{si, {}, false}, {}}; }

double AskedAxis::within(double si) const
{
  const double inside = std::clamp(si, low, high);
  return whole ? std::clamp(std::round(inside), std::ceil(low), std::floor(high)) : inside;
}

OwnValue AskedAxis::at(double share) const
{
  if (!isRange) {
    const auto last = static_cast<double>(values.size()) - 1;
    return values[static_cast<std::size_t>(std::clamp(std::floor(share * (last + 1)), 0.0, last))];
  }
  // The ends are met to the last bit.
  const double si = share <= 0    ? low
                    : share >= 1  ? high
                    : logarithmic ? low * std::pow(high / low, share)
                                  : low + share * (high - low);
  return plainValue(within(si));
}

Expected<AskedAxis> readAxis(Project& seen, const Question& question, const Varied& varied)
{
  const std::vector<Field> all = settings(seen);
  const Field* field = fieldAt(all, varied.field);
  if (field == nullptr) {
    std::vector<std::string> paths;
    for (const Field& one : all)
      paths.push_back(one.path);
    const std::string nearest = nearestWord(varied.field, paths);
    return refused(question, "There is no field “" + varied.field + "”.",
                   nearest.empty() ? "Choose another one." : "Did you mean “" + nearest + "”?");
  }
  const Field own = *field; // materials may be added below
  return std::visit(AxisReader(seen, question, own), varied.over);
}

Expected<std::vector<AskedAxis>> readAxes(Project& seen, const Question& question)
{
  if (question.varies.empty())
    return refused(question, "Nothing varies.", "Choose a field that it varies.");
  std::vector<AskedAxis> axes;
  for (const Varied& varied : question.varies) {
    auto axis = readAxis(seen, question, varied);
    if (!axis)
      return tl::unexpected(axis.error());
    axes.push_back(std::move(*axis));
  }
  return axes;
}

} // namespace kiln
