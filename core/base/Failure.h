// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
#include <tl/expected.hpp>
#include <vector>

namespace kiln
{

/// What went wrong, where, and how to mend it. Every error a user can meet has all three.
struct Failure {
  enum class Kind { NotReady, Unreadable, Solver, Unwritable, TooLarge };

  Kind kind = Kind::Solver;
  std::string object;                           ///< the named thing it concerns: "part Shell", "file x.kiln, line 12"
  std::string problem;                          ///< one sentence
  std::string remedy;                           ///< one sentence
  std::vector<std::string> ids{};               ///< of the objects, where they are known
  std::optional<std::array<double, 3>> place{}; ///< m, where it is

  /// "part Shell: The wall has no thickness. Give it a positive thickness."
  [[nodiscard]] std::string sentence() const
  {
    std::string text = object.empty() ? problem : object + ": " + problem;
    if (!remedy.empty())
      text += " " + remedy;
    return text;
  }
};

template <class T>
using Expected = tl::expected<T, Failure>;

[[nodiscard]] inline tl::unexpected<Failure> failure(Failure::Kind kind, std::string object, std::string problem,
                                                     std::string remedy)
{
  return tl::unexpected(Failure{kind, std::move(object), std::move(problem), std::move(remedy)});
}

} // namespace kiln
