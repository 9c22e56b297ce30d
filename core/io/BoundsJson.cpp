// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/BoundsJson.h"

namespace kiln
{
namespace
{

using Json = nlohmann::json;

Json excessToJson(const BoundsExcess& excess)
{
  return {{"kelvin", excess.kelvin},
          {"time", excess.time},
          {"place", {excess.place.x(), excess.place.y(), excess.place.z()}},
          {"part", excess.part}};
}

BoundsExcess excessFromJson(const Json& json)
{
  const Json& place = json.at("place");
  return {json.at("kelvin"), json.at("time"), Vec3(place.at(0), place.at(1), place.at(2)), json.at("part")};
}

} // namespace

Json boundsToJson(const BoundsReport& bounds)
{
  return {{"above", excessToJson(bounds.above)},
          {"below", excessToJson(bounds.below)},
          {"upperKnown", bounds.upperKnown},
          {"lowerKnown", bounds.lowerKnown},
          {"tolerance", bounds.tolerance},
          {"limitedSteps", bounds.limitedSteps},
          {"low", bounds.low},
          {"high", bounds.high}};
}

BoundsReport boundsFromJson(const Json& json)
{
  BoundsReport bounds;
  bounds.above = excessFromJson(json.at("above"));
  bounds.below = excessFromJson(json.at("below"));
  bounds.upperKnown = json.at("upperKnown");
  bounds.lowerKnown = json.at("lowerKnown");
  bounds.tolerance = json.at("tolerance");
  bounds.limitedSteps = json.at("limitedSteps");
  bounds.low = json.at("low");
  bounds.high = json.at("high");
  return bounds;
}

} // namespace kiln
