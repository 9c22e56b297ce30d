// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Id.h"

#include <nlohmann/json.hpp>

/// An id is kept as its number.
template <class Kind>
struct nlohmann::adl_serializer<kiln::Id<Kind>> {
  template <class Json>
  static void to_json(Json& json, kiln::Id<Kind> id)
  {
    json = static_cast<std::int32_t>(id);
  }
  template <class Json>
  static kiln::Id<Kind> from_json(const Json& json)
  {
    return kiln::Id<Kind>(json.template get<std::int32_t>());
  }
};
