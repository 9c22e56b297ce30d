// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Parameters.h"

#include "model/Fields.h"
#include "model/FormulaScanner.h"

#include <algorithm>

namespace kiln
{

std::vector<FormulaProblem> applyParameters(Project& project)
{
  std::vector<FormulaProblem> problems;
  std::vector<Field> all = fields(project);
  std::erase_if(all, [](const Field& field) { return field.value() == nullptr || !field.value()->formula; });
  if (all.empty())
    return problems;
  const Formulas formulas(project);
  for (Field& field : all) {
    const auto value = formulas.evaluate(field.value()->text, field.quantity, field.varies);
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

void renameParameter(Project& project, const std::string& parameterId, const std::string& name)
{
  Parameter* parameter = findById(project.parameters, parameterId);
  if (parameter == nullptr || parameter->name == name)
    return;
  const std::string before = parameter->name;
  parameter->name = name;
  for (Field& field : fields(project))
    if (Number* value = field.value(); value != nullptr && value->formula)
      value->text = withRenamed(value->text, before, name);
  for (Case& one : project.cases)
    for (Change& change : one.changes)
      if (Property* own = change.number(); own != nullptr && own->formula)
        own->text = withRenamed(own->text, before, name);
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
