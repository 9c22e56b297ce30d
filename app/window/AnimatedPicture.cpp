// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/AnimatedPicture.h"

#include "io/AtomicFile.h"

#include <string_view>
#include <webp/encode.h>
#include <webp/mux.h>

namespace kiln
{

struct AnimatedPicture::Encoder {
  QSize size;
  int milliseconds = 0, now = 0;
  WebPConfig config{};
  WebPAnimEncoder* encoder = nullptr;
};

AnimatedPicture::AnimatedPicture(QSize size, int milliseconds) : encoder_(std::make_unique<Encoder>())
{
  encoder_->size = size;
  encoder_->milliseconds = milliseconds;
  WebPAnimEncoderOptions options;
  WebPAnimEncoderOptionsInit(&options);
  options.allow_mixed = 1;
  encoder_->encoder = WebPAnimEncoderNew(size.width(), size.height(), &options);
  WebPConfigInit(&encoder_->config);
  encoder_->config.quality = 85;
  encoder_->config.method = 2; // quick rather than small
}

AnimatedPicture::~AnimatedPicture() { WebPAnimEncoderDelete(encoder_->encoder); }

bool AnimatedPicture::add(const QImage& frame)
{
  const QImage image = frame.scaled(encoder_->size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
                           .convertToFormat(QImage::Format_RGBA8888);
  WebPPicture picture;
  if (encoder_->encoder == nullptr || WebPPictureInit(&picture) == 0)
    return false;
  picture.width = image.width();
  picture.height = image.height();
  picture.use_argb = 1;
  const bool taken = WebPPictureImportRGBA(&picture, image.constBits(), static_cast<int>(image.bytesPerLine())) != 0 &&
                     WebPAnimEncoderAdd(encoder_->encoder, &picture, encoder_->now, &encoder_->config) != 0;
  WebPPictureFree(&picture);
  encoder_->now += encoder_->milliseconds;
  return taken;
}

Expected<void> AnimatedPicture::save(const QString& file)
{
  WebPData data;
  WebPDataInit(&data);
  const bool made = encoder_->encoder != nullptr &&
                    WebPAnimEncoderAdd(encoder_->encoder, nullptr, encoder_->now, nullptr) != 0 &&
                    WebPAnimEncoderAssemble(encoder_->encoder, &data) != 0;
  Expected<void> written;
  if (made)
    written =
        writeAtomically(file.toStdString(), std::string_view(reinterpret_cast<const char*>(data.bytes), data.size));
  else
    written = failure(Failure::Kind::Unwritable, "file " + file.toStdString(), "The frames could not be put together.",
                      "Save numbered pictures instead.");
  WebPDataClear(&data);
  return written;
}

} // namespace kiln
