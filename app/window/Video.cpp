// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/Video.h"

#include "io/AtomicFile.h"

#include <ebml/EbmlHead.h>
#include <ebml/EbmlSubHead.h>
#include <ebml/MemIOCallback.h>
#include <libyuv/convert.h>
#include <matroska/KaxBlock.h>
#include <matroska/KaxCluster.h>
#include <matroska/KaxInfo.h>
#include <matroska/KaxInfoData.h>
#include <matroska/KaxSegment.h>
#include <matroska/KaxTrackVideo.h>
#include <matroska/KaxTracks.h>
#include <string>
#include <string_view>
#include <thread>
#include <vector>
#include <vpx/vp8cx.h>
#include <vpx/vpx_encoder.h>

namespace kiln
{
namespace
{

using namespace libmatroska;

/// A frame as it is stored.
struct Packet {
  std::string bytes;
  std::uint64_t milliseconds = 0;
  bool complete = false; ///< it needs none before it
};

constexpr std::uint64_t nanoseconds = 1'000'000; // of the unit of time, a millisecond

template <class Child, class Parent>
void set(Parent& parent, std::uint64_t value)
{
  static_cast<libebml::EbmlUInteger&>(libebml::GetChild<Child>(parent)) = value;
}

template <class Child, class Parent>
void set(Parent& parent, const std::string& value)
{
  static_cast<libebml::EbmlString&>(libebml::GetChild<Child>(parent)) = value;
}

void describeTrack(KaxTrackEntry& track, QSize size)
{
  track.SetGlobalTimecodeScale(nanoseconds);
  track.EnableLacing(false);
  set<KaxTrackNumber>(track, 1);
  set<KaxTrackUID>(track, 1);
  set<KaxTrackType>(track, track_video);
  set<KaxCodecID>(track, "V_VP9");
  auto& video = libebml::GetChild<KaxTrackVideo>(track);
  set<KaxVideoPixelWidth>(video, static_cast<std::uint64_t>(size.width()));
  set<KaxVideoPixelHeight>(video, static_cast<std::uint64_t>(size.height()));
}

/// A stretch that begins with a complete frame.
void addFrames(KaxSegment& segment, const KaxTrackEntry& track, std::vector<Packet>& packets)
{
  KaxCluster* cluster = nullptr;
  for (Packet& packet : packets) {
    if (cluster == nullptr || packet.complete) {
      cluster = &libebml::AddNewChild<KaxCluster>(segment);
      cluster->SetParent(segment);
      cluster->InitTimecode(packet.milliseconds, nanoseconds);
      set<KaxClusterTimecode>(*cluster, packet.milliseconds);
    }
    auto& block = libebml::AddNewChild<KaxSimpleBlock>(*cluster);
    block.SetParent(*cluster);
    block.SetKeyframe(packet.complete);
    auto* bytes = reinterpret_cast<binary*>(packet.bytes.data()); // copied into the buffer, which the block keeps
    auto* buffer = new DataBuffer(bytes, static_cast<std::uint32_t>(packet.bytes.size()), nullptr, true);
    block.AddFrame(track, packet.milliseconds * nanoseconds, *buffer, LACING_NONE);
  }
}

/// The file, as the container's standard has it.
std::string written(std::vector<Packet>& packets, QSize size, int milliseconds)
{
  libebml::EbmlHead head;
  set<libebml::EDocType>(head, "webm");
  set<libebml::EDocTypeVersion>(head, 4);
  set<libebml::EDocTypeReadVersion>(head, 2);
  KaxSegment segment;
  auto& info = libebml::GetChild<KaxInfo>(segment);
  set<KaxTimecodeScale>(info, nanoseconds);
  static_cast<libebml::EbmlFloat&>(libebml::GetChild<KaxDuration>(info)) =
      static_cast<double>(packets.back().milliseconds) + milliseconds;
  static_cast<libebml::EbmlUnicodeString&>(libebml::GetChild<KaxMuxingApp>(info)) = libebml::UTFstring(L"Usual Kiln");
  static_cast<libebml::EbmlUnicodeString&>(libebml::GetChild<KaxWritingApp>(info)) = libebml::UTFstring(L"Usual Kiln");
  auto& track = libebml::GetChild<KaxTrackEntry>(libebml::GetChild<KaxTracks>(segment));
  describeTrack(track, size);
  addFrames(segment, track, packets);
  libebml::MemIOCallback out;
  head.Render(out, true);
  constexpr int sizeLength = 8; // bytes
  segment.WriteHead(out, sizeLength);
  const std::uint64_t begin = out.getFilePointer();
  for (libebml::EbmlElement* child : segment)
    child->Render(out);
  segment.ForceSize(out.getFilePointer() - begin);
  const std::uint64_t end = out.getFilePointer();
  segment.OverwriteHead(out);
  out.setFilePointer(static_cast<std::int64_t>(end));
  return {reinterpret_cast<const char*>(out.GetDataBuffer()), out.getFilePointer()};
}

} // namespace

struct Video::Encoder {
  QSize size;
  int milliseconds = 0;
  std::int64_t frames = 0;
  bool ready = false;
  vpx_codec_ctx_t codec{};
  vpx_image_t* image = nullptr;
  std::vector<Packet> packets;

  bool take(const vpx_image_t* frame)
  {
    const std::int64_t now = frames * milliseconds;
    if (vpx_codec_encode(&codec, frame, now, static_cast<unsigned long>(milliseconds), 0, VPX_DL_GOOD_QUALITY) !=
        VPX_CODEC_OK)
      return false;
    vpx_codec_iter_t each = nullptr;
    while (const vpx_codec_cx_pkt_t* packet = vpx_codec_get_cx_data(&codec, &each))
      if (packet->kind == VPX_CODEC_CX_FRAME_PKT)
        packets.push_back({{static_cast<const char*>(packet->data.frame.buf), packet->data.frame.sz},
                           static_cast<std::uint64_t>(packet->data.frame.pts),
                           (packet->data.frame.flags & VPX_FRAME_IS_KEY) != 0});
    return true;
  }
};

Video::Video(QSize size, int milliseconds) : encoder_(std::make_unique<Encoder>())
{
  const auto even = [](int length) { return std::max(2, length - length % 2); }; // colours are stored two by two
  Encoder& own = *encoder_;
  own.size = {even(size.width()), even(size.height())};
  own.milliseconds = milliseconds;
  vpx_codec_enc_cfg_t options;
  if (vpx_codec_enc_config_default(vpx_codec_vp9_cx(), &options, 0) != VPX_CODEC_OK)
    return;
  constexpr unsigned longestWay = 100; // frames from one that is complete to the next
  options.g_w = static_cast<unsigned>(own.size.width());
  options.g_h = static_cast<unsigned>(own.size.height());
  options.g_timebase = {1, 1000};
  options.g_threads = std::max(1U, std::thread::hardware_concurrency());
  options.g_lag_in_frames = 0;
  options.rc_end_usage = VPX_Q;
  options.kf_max_dist = longestWay;
  own.image = vpx_img_alloc(nullptr, VPX_IMG_FMT_I420, options.g_w, options.g_h, 16);
  own.ready = own.image != nullptr && vpx_codec_enc_init(&own.codec, vpx_codec_vp9_cx(), &options, 0) == VPX_CODEC_OK;
  constexpr int fine = 16; // of 0 (exact) to 63
  constexpr int quick = 6; // of 0 (small) to 8
  constexpr int video = 1; // BT.601, as the conversion gives it
  if (own.ready)
    own.ready = vpx_codec_control(&own.codec, VP8E_SET_CQ_LEVEL, fine) == VPX_CODEC_OK &&
                vpx_codec_control(&own.codec, VP8E_SET_CPUUSED, quick) == VPX_CODEC_OK &&
                vpx_codec_control(&own.codec, VP9E_SET_COLOR_SPACE, video) == VPX_CODEC_OK;
}

Video::~Video()
{
  vpx_img_free(encoder_->image);
  vpx_codec_destroy(&encoder_->codec);
}

bool Video::add(const QImage& frame)
{
  Encoder& own = *encoder_;
  if (!own.ready)
    return false;
  const QImage image =
      frame.scaled(own.size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation).convertToFormat(QImage::Format_RGB32);
  vpx_image_t& to = *own.image;
  const bool taken = libyuv::ARGBToI420(image.constBits(), static_cast<int>(image.bytesPerLine()), to.planes[0],
                                        to.stride[0], to.planes[1], to.stride[1], to.planes[2], to.stride[2],
                                        own.size.width(), own.size.height()) == 0 &&
                     own.take(&to);
  ++own.frames;
  return taken;
}

Expected<void> Video::save(const QString& file)
{
  Encoder& own = *encoder_;
  if (!own.ready || !own.take(nullptr) || own.packets.empty())
    return failure(Failure::Kind::Unwritable, "file " + file.toStdString(), "The frames could not be put together.",
                   "Save numbered pictures instead.");
  return writeAtomically(file.toStdString(), written(own.packets, own.size, own.milliseconds));
}

} // namespace kiln
