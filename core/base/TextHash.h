// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <memory>
#include <string>
#include <string_view>

namespace kiln
{

/// 32 hexadecimal digits that stand for a text (XXH3, 128 bits).
[[nodiscard]] std::string textHash(std::string_view text);

/// The same of a text that comes piece by piece.
class TextHasher
{
public:
  TextHasher();
  ~TextHasher();
  TextHasher(const TextHasher&) = delete;
  TextHasher& operator=(const TextHasher&) = delete;

  void add(std::string_view piece);
  [[nodiscard]] std::string hash() const;

private:
  struct State;
  std::unique_ptr<State> state_;
};

} // namespace kiln
