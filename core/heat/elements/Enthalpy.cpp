// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/Enthalpy.h"

#include "base/RisingRoot.h"

#include <algorithm>

namespace kiln
{

bool canMelt(const Material& material)
{
  return material.latentHeat && material.latentHeat->si > 0 && (material.meltsFrom || material.meltsTo);
}

namespace
{
constexpr double narrowest = 0.01; // K
}

bool meltsAtOnce(const Material& material)
{
  return canMelt(material) &&
         (!material.meltsFrom || !material.meltsTo || material.meltsTo->si - material.meltsFrom->si < narrowest);
}

MeltingRange meltingRange(const Material& material)
{
  const double from = material.meltsFrom ? material.meltsFrom->si : material.meltsTo ? material.meltsTo->si : 0;
  const double to = material.meltsTo ? material.meltsTo->si : from;
  if (to - from >= narrowest)
    return {from, to};
  const double middle = (from + to) / 2;
  return {middle - narrowest / 2, middle + narrowest / 2};
}

double moltenShare(const Material& material, double temperature)
{
  const MeltingRange range = meltingRange(material);
  return std::clamp((temperature - range.from) / (range.to - range.from), 0.0, 1.0);
}

Enthalpy::Enthalpy(const Material& material)
{
  if (material.specificHeat)
    specific_ = *material.specificHeat;
  const std::vector<TablePoint>& table = specific_.table;
  for (std::size_t i = 0; i < table.size(); ++i)
    sums_.push_back(i == 0 ? table[0].value.si * table[0].at.si
                           : sums_.back() + (table[i].value.si + table[i - 1].value.si) / 2 *
                                                (table[i].at.si - table[i - 1].at.si));
  if (canMelt(material)) {
    latent_ = material.latentHeat->si;
    range_ = meltingRange(material);
  }
}

Enthalpy::Enthalpy(double capacity) : specific_(capacity, "") {}

double Enthalpy::at(double temperature) const
{
  double heat = 0;
  const std::vector<TablePoint>& table = specific_.table;
  if (table.empty()) {
    heat = specific_.si * temperature;
  } else if (temperature <= table.front().at.si) {
    heat = table.front().value.si * temperature;
  } else {
    const auto above = std::upper_bound(table.begin(), table.end(), temperature,
                                        [](double t, const TablePoint& point) { return t < point.at.si; });
    const auto below = above - 1;
    const double c = valueAt(specific_, temperature).value;
    heat = sums_[static_cast<std::size_t>(below - table.begin())] +
           (below->value.si + c) / 2 * (temperature - below->at.si);
  }
  if (latent_ > 0)
    heat += latent_ * std::clamp((temperature - range_.from) / (range_.to - range_.from), 0.0, 1.0);
  return heat;
}

double Enthalpy::temperatureAt(double heat, double near) const
{
  if (specific_.table.empty()) { // a line, with a flatter piece where it melts
    const double c = specific_.si;
    if (latent_ <= 0 || heat <= c * range_.from)
      return heat / c;
    if (heat >= c * range_.to + latent_)
      return (heat - latent_) / c;
    return range_.from + (heat - c * range_.from) / (c + latent_ / (range_.to - range_.from));
  }
  return rootOfRising([&](double temperature) { return at(temperature) - heat; }, near);
}

double Enthalpy::slopeAt(double temperature) const
{
  const bool melting = latent_ > 0 && temperature >= range_.from && temperature < range_.to;
  return valueAt(specific_, temperature).value + (melting ? latent_ / (range_.to - range_.from) : 0);
}

} // namespace kiln
