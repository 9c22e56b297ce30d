// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "window/Animation.h"

#include <memory>

namespace kiln
{

/// A video of frames as a WebM file (VP9), which may be used without licence fees.
class Video final : public Animation
{
public:
  /// \param milliseconds  that each frame is shown
  Video(QSize size, int milliseconds);
  ~Video() override;

  [[nodiscard]] bool add(const QImage& frame) override;
  [[nodiscard]] Expected<void> save(const QString& file) override;

private:
  struct Encoder;
  std::unique_ptr<Encoder> encoder_;
};

} // namespace kiln
