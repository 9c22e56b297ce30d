// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Parameters.h"

#include "model/Fields.h"
#include "model/FormulaScanner.h"
#include "model/Walk.h"

#include <algorithm>
#include <optional>

namespace kiln
{

std::vector<FormulaProblem> applyParameters(Project& project) { return applyParameters(project, fields(project)); }

std::vector<FormulaProblem> applyParameters(const Project& project, const std::vector<Field>& all)
{
  std::vector<FormulaProblem> problems;
  std::optional<Formulas> formulas; // made where there is a formula at all
  for (const Field& one : all) {
    if (one.value() == nullptr || !one.value()->formula)
      continue;
    Field field = one;
    if (!formulas)
      formulas.emplace(project);
    const auto value = formulas->evaluate(field.value()->text, field.quantity, field.varies);
    if (value) {
      field.value()->si = *value;
    } else {
      Failure failed = value.error();
      failed.object = field.objectName;
      failed.problem = field.label + ": " + failed.problem;
      problems.push_back({field.objectId, failed});
    }
  }
  return problems;
}

namespace
{

/// Archive that renames a parameter in every formula.
class ParameterRenaming : public Walk<ParameterRenaming>
{
public:
  ParameterRenaming(const std::string& from, const std::string& to) : from_(from), to_(to) {}

  void number(const NumberSpec&, Number& value) { rename(value); }
  void optionalNumber(const NumberSpec&, std::optional<Number>& value)
  {
    if (value)
      rename(*value);
  }
  void property(const NumberSpec&, Property& value) { rename(value); }
  void optionalProperty(const NumberSpec&, std::optional<Property>& value)
  {
    if (value)
      rename(*value);
  }
  void number3(const NumberSpec&, Number3& value)
  {
    for (Number* number : {&value.x, &value.y, &value.z})
      rename(*number);
  }
  void outline(const KeySpec&, std::vector<OutlinePoint>& points)
  {
    for (OutlinePoint& point : points)
      for (Number* number : {&point.a, &point.b, &point.bulge})
        rename(*number);
  }
  void changes(const KeySpec&, std::vector<Change>& values)
  {
    for (Change& change : values)
      if (Property* own = change.number())
        rename(*own);
  }
  void formula(const KeySpec&, std::string& text) { text = withRenamed(text, from_, to_); }

private:
  void rename(Number& number)
  {
    if (number.formula)
      number.text = withRenamed(number.text, from_, to_);
  }

  const std::string& from_;
  const std::string& to_;
};

} // namespace

void renameParameter(Project& project, const std::string& parameterId, const std::string& name)
{
  Parameter* parameter = findById(project.parameters, parameterId);
  if (parameter == nullptr || parameter->name == name)
    return;
  const std::string before = parameter->name;
  parameter->name = name;
  ParameterRenaming renaming(before, name);
  describe(renaming, project);
}

std::optional<std::string> badParameterName(const Project& project, const std::string& parameterId,
                                            const std::string& name)
{
  const ScannedFormula scanner = scanFormula(name);
  if (name.empty() || !scanner.understood() || scanner.tokens.size() != 1 || scanner.tokens[0].text != name ||
      scanner.tokens[0].kind != FormulaToken::Kind::Name)
    return "A parameter's name is one word of letters, digits and _ that starts with a letter.";
  for (const NamedConstant& constant : namedConstants())
    if (constant.name == name)
      return "“" + name + "” already means the " + std::string(constant.meaning) + ".";
  if (name == "x" || name == "y" || name == "z")
    return "“" + name + "” means a place in formulas that vary in place.";
  for (const Parameter& other : project.parameters)
    if (other.name == name && other.id != parameterId)
      return "There is already a parameter of this name.";
  return std::nullopt;
}

} // namespace kiln
