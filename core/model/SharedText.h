// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <memory>
#include <string>
#include <utility>

namespace kiln
{

/// A long text that all copies of a project share. Copies are compared by their address first.
class SharedText
{
public:
  SharedText() = default;
  explicit SharedText(std::string text)
      : text_(text.empty() ? nullptr : std::make_shared<const std::string>(std::move(text)))
  {
  }
  [[nodiscard]] const std::string& text() const
  {
    static const std::string none;
    return text_ ? *text_ : none;
  }
  [[nodiscard]] bool empty() const { return !text_; }
  bool operator==(const SharedText& other) const { return text_ == other.text_ || text() == other.text(); }

private:
  std::shared_ptr<const std::string> text_;
};

} // namespace kiln
