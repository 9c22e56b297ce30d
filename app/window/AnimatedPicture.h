// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <QImage>
#include <memory>

namespace kiln
{

/// An animated WebP picture, made frame by frame.
class AnimatedPicture
{
public:
  /// \param milliseconds  that each frame is shown
  AnimatedPicture(int width, int height, int milliseconds);
  ~AnimatedPicture();
  AnimatedPicture(const AnimatedPicture&) = delete;
  AnimatedPicture& operator=(const AnimatedPicture&) = delete;

  /// Scaled to the picture's size where it has another. \return false when it could not be taken in
  [[nodiscard]] bool add(const QImage& frame);
  /// Writes all frames to a file at once.
  [[nodiscard]] Expected<void> save(const QString& file);

private:
  struct Encoder;
  std::unique_ptr<Encoder> encoder_;
};

} // namespace kiln
