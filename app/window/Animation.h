// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <QImage>
#include <QString>

namespace kiln
{

/// Something that moves, made frame by frame and written to one file.
class Animation
{
public:
  Animation() = default;
  Animation(const Animation&) = delete;
  Animation& operator=(const Animation&) = delete;
  virtual ~Animation() = default;

  /// Scaled to the size of the animation where it has another. \return false when it could not be taken in
  [[nodiscard]] virtual bool add(const QImage& frame) = 0;
  /// Writes all frames to a file at once.
  [[nodiscard]] virtual Expected<void> save(const QString& file) = 0;
};

} // namespace kiln
