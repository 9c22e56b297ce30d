// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/ShownText.h"
#include "heat/boundaries/Correlations.h"
#include "model/Walk.h"

#include <QCoreApplication>
#include <QStringList>

namespace kiln
{

/// The name of an object in a list; its id where it is not there.
[[nodiscard]] QString nameOf(const auto& list, const std::string& id)
{
  const auto* object = findById(list, id);
  return QString::fromStdString(object != nullptr ? object->name : id);
}

/// Archive that finds the number that a kind is about.
class FirstNumber : public Walk<FirstNumber>
{
public:
  const Number* found = nullptr;
  Quantity quantity = Quantity::Plain;

  void number(const NumberSpec& spec, Number& value) { take(spec, value); }
  void property(const NumberSpec& spec, Property& value) { take(spec, value); }

private:
  void take(const NumberSpec& spec, const Number& value)
  {
    if (found == nullptr)
      found = &value, quantity = spec.quantity;
  }
};

/// Makes the one-line text of what was set.
class SetText
{
public:
  SetText(const Project& project, TemperatureUnit unit) : project_(project), unit_(unit) {}

  QString operator()(const PartPower& h) const { return text(h.power, Quantity::Power) + tr(" in ") + parts(h.parts); }
  QString operator()(const PartDensity& h) const
  {
    return text(h.density, Quantity::HeatDensity) + tr(" in ") + parts(h.parts);
  }
  QString operator()(const SurfacePower& h) const
  {
    return text(h.power, Quantity::Power) + tr(" on ") + surface(h.surface);
  }
  QString operator()(const SurfaceFlux& h) const
  {
    return text(h.flux, Quantity::HeatFlux) + tr(" on ") + surface(h.surface);
  }
  QString operator()(const PointPower& h) const { return text(h.power, Quantity::Power) + tr(" at a point"); }
  QString operator()(const Beam& b) const
  {
    QStringList names;
    for (const std::string& id : b.surfaces)
      names << surface(id);
    return tr("rays of ") + text(b.flux, Quantity::HeatFlux) + tr(" on ") + names.join(", ");
  }
  QString operator()(const FlowPassage& f) const
  {
    return tr("flow of ") + text(f.massFlow, Quantity::MassFlow) + tr(" from ") + text(f.inlet, Quantity::Temperature);
  }
  QString operator()(const FixedVoltage& f) const { return tr("at ") + text(f.voltage, Quantity::Voltage); }
  QString operator()(const Sheet& s) const
  {
    return text(s.thickness, Quantity::Length) + tr(" of ") +
           (s.material.empty() ? tr("no material") : nameOf(project_.materials, s.material));
  }
  QString operator()(const CurrentIn& c) const { return text(c.current, Quantity::Current); }
  QString operator()(const Conductor& c) const { return text(c.conductance, Quantity::Conductance); }
  QString operator()(const RadiationLink& r) const
  {
    return tr("radiation over ") + text(r.exchangeArea, Quantity::Area);
  }
  QString operator()(const FlowLink& f) const { return tr("flow of ") + text(f.massFlow, Quantity::MassFlow); }
  QString operator()(const Wire& w) const
  {
    return tr("wire of ") + text(w.length, Quantity::Length) + tr(", ⌀ ") + text(w.diameter, Quantity::Length);
  }
  QString operator()(const Convection& c) const
  {
    const QString h = c.coefficient.table.empty() ? text(c.coefficient, Quantity::AreaConductance) : tr("h(T)");
    return h + tr(" to ") + ambient(c.node, c.ambient);
  }
  QString operator()(const Radiation& r) const { return tr("radiation to ") + ambient(r.node, r.surroundings); }
  QString operator()(const CorrelatedConvection& c) const
  {
    const std::string_view situation = situationName(c.situation);
    return QString::fromUtf8(situation.data(), static_cast<qsizetype>(situation.size())) + tr(" to ") +
           ambient(c.node, c.ambient);
  }
  QString operator()(const BodyContact& c) const
  {
    return text(c.conductance, Quantity::AreaConductance) + tr(" to a body at ") +
           text(c.temperature, Quantity::Temperature);
  }
  QString operator()(const FixedSurface& f) const
  {
    return tr("held at ") + text(f.temperature, Quantity::Temperature);
  }
  QString operator()(const FixedPart& f) const
  {
    return tr("part held at ") + text(f.temperature, Quantity::Temperature);
  }
  QString operator()(const FixedPoint& f) const
  {
    return tr("point held at ") + text(f.temperature, Quantity::Temperature);
  }
  QString operator()(const PerfectContact&) const { return tr("perfect"); }
  QString operator()(const NoContact&) const { return tr("no exchange"); }
  QString operator()(const AreaConductance& c) const { return text(c.conductance, Quantity::AreaConductance); }
  QString operator()(const AreaResistance& r) const { return text(r.resistance, Quantity::AreaResistance); }
  QString operator()(const TotalResistance& r) const { return text(r.resistance, Quantity::Resistance); }
  QString operator()(const Gap& g) const { return tr("gap of ") + text(g.thickness, Quantity::Length); }

  /// A kind that has no words of its own: what it is called, and its first number.
  template <class Kind>
  QString operator()(const Kind& kind) const
  {
    FirstNumber first;
    describe(first, const_cast<Kind&>(kind));
    return first.found != nullptr ? text(*first.found, first.quantity) : tr("set");
  }

private:
  static QString tr(const char* words) { return QCoreApplication::translate("Ledger", words); }
  [[nodiscard]] QString text(const Property& property, Quantity quantity) const
  {
    return property.table.empty() ? text(static_cast<const Number&>(property), quantity) : tr("a table");
  }
  [[nodiscard]] QString text(const Number& number, Quantity quantity) const
  {
    return shownText(number, quantity, unit_);
  }
  [[nodiscard]] QString ambient(const std::string& node, const auto& temperature) const
  {
    return node.empty() ? text(temperature, Quantity::Temperature) : nameOf(project_.nodes, node);
  }
  [[nodiscard]] QString surface(const std::string& id) const { return nameOf(project_.surfaces, id); }
  [[nodiscard]] QString parts(const std::vector<std::string>& ids) const
  {
    QStringList names;
    for (const std::string& id : ids)
      names << nameOf(project_.parts, id);
    return names.join(", ");
  }

  const Project& project_;
  TemperatureUnit unit_;
};

} // namespace kiln
