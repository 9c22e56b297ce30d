// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "window/Animation.h"

#include <memory>

namespace kiln
{

/// An animated WebP picture, made frame by frame.
class AnimatedPicture final : public Animation
{
public:
  /// \param milliseconds  that each frame is shown
  AnimatedPicture(QSize size, int milliseconds);
  ~AnimatedPicture() override;

  [[nodiscard]] bool add(const QImage& frame) override;
  [[nodiscard]] Expected<void> save(const QString& file) override;

private:
  struct Encoder;
  std::unique_ptr<Encoder> encoder_;
};

} // namespace kiln
