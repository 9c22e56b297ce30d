// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "TestProjects.h"

/// Lumped nodes and links between them.
namespace kiln::test
{

inline Node node(const std::string& id, std::optional<double> held = std::nullopt,
                 std::optional<double> power = std::nullopt)
{
  Node n;
  n.id = n.name = id;
  if (held)
    n.temperature = number(*held);
  if (power)
    n.power = Property{*power, ""};
  return n;
}

template <class Exchange>
Link link(const std::string& id, Exchange exchange)
{
  Link l;
  l.id = l.name = id;
  l.exchange = std::move(exchange);
  return l;
}

} // namespace kiln::test
