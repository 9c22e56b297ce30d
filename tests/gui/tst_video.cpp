// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Videos are read back by another library than the one that wrote them, and decoded: sizes, times and pictures.
#include "window/AnimatedPicture.h"
#include "window/Video.h"

#include <QPainter>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <cstdio>
#include <memory>
#include <vector>
#include <vpx/vp8dx.h>
#include <vpx/vpx_decoder.h>
#include <webm/callback.h>
#include <webm/file_reader.h>
#include <webm/status.h>
#include <webm/webm_parser.h>

namespace kiln
{

/// What a file holds.
struct SeenVideo : webm::Callback {
  std::uint64_t width = 0, height = 0;
  std::string codec, kind;
  double duration = 0;
  std::uint64_t cluster = 0;
  std::vector<std::uint64_t> times; ///< ms
  std::vector<bool> complete;
  std::vector<std::vector<std::uint8_t>> frames;

  webm::Status OnEbml(const webm::ElementMetadata& /*own*/, const webm::Ebml& head) override
  {
    kind = head.doc_type.value();
    return webm::Status(webm::Status::kOkCompleted);
  }
  webm::Status OnInfo(const webm::ElementMetadata& /*own*/, const webm::Info& info) override
  {
    duration = info.duration.value();
    return webm::Status(webm::Status::kOkCompleted);
  }
  webm::Status OnTrackEntry(const webm::ElementMetadata& /*own*/, const webm::TrackEntry& track) override
  {
    codec = track.codec_id.value();
    width = track.video.value().pixel_width.value();
    height = track.video.value().pixel_height.value();
    return webm::Status(webm::Status::kOkCompleted);
  }
  webm::Status OnClusterBegin(const webm::ElementMetadata& /*own*/, const webm::Cluster& own,
                              webm::Action* action) override
  {
    cluster = own.timecode.value();
    *action = webm::Action::kRead;
    return webm::Status(webm::Status::kOkCompleted);
  }
  webm::Status OnSimpleBlockBegin(const webm::ElementMetadata& /*own*/, const webm::SimpleBlock& block,
                                  webm::Action* action) override
  {
    times.push_back(cluster + static_cast<std::uint64_t>(block.timecode));
    complete.push_back(block.is_key_frame);
    *action = webm::Action::kRead;
    return webm::Status(webm::Status::kOkCompleted);
  }
  webm::Status OnFrame(const webm::FrameMetadata& own, webm::Reader* reader, std::uint64_t* left) override
  {
    if (*left == own.size)
      frames.emplace_back();
    while (*left > 0) {
      std::vector<std::uint8_t> bytes(*left);
      std::uint64_t got = 0;
      const webm::Status status = reader->Read(bytes.size(), bytes.data(), &got);
      frames.back().insert(frames.back().end(), bytes.begin(), bytes.begin() + static_cast<std::ptrdiff_t>(got));
      *left -= got;
      if (!status.ok())
        return status;
    }
    return webm::Status(webm::Status::kOkCompleted);
  }
};

class VideoTest : public QObject
{
  Q_OBJECT

  /// A bar that moves over a glow.
  static QImage frame(int number, QSize size = {320, 200})
  {
    QImage image(size, QImage::Format_RGB32);
    QPainter painter(&image);
    QLinearGradient glow(0, 0, size.width(), 0);
    glow.setColorAt(0, QColor("#201020"));
    glow.setColorAt(1, QColor("#f0a040"));
    painter.fillRect(image.rect(), glow);
    painter.fillRect(20 + 10 * number, 40, 30, 60, Qt::white);
    return image;
  }

  static std::unique_ptr<SeenVideo> read(const QString& file)
  {
    auto seen = std::make_unique<SeenVideo>();
    webm::FileReader reader(std::fopen(file.toLocal8Bit().constData(), "rb")); // which closes it
    webm::WebmParser parser;
    const webm::Status status = parser.Feed(seen.get(), &reader);
    if (!status.completed_ok())
      throw std::runtime_error("not read to its end: " + std::to_string(status.code));
    return seen;
  }

  /// Brightness of a decoded picture less that of its source, root of the mean square, of 255.
  static double missed(const vpx_image_t& seen, const QImage& source)
  {
    double sum = 0;
    for (int y = 0; y < source.height(); ++y)
      for (int x = 0; x < source.width(); ++x) {
        const QColor color(source.pixel(x, y));
        const double wanted =
            16 + (65.738 * color.red() + 129.057 * color.green() + 25.064 * color.blue()) / 256; // BT.601
        const double off = seen.planes[0][y * seen.stride[0] + x] - wanted;
        sum += off * off;
      }
    return std::sqrt(sum / source.width() / source.height());
  }

private slots:
  /// Given a hundred and thirty frames, then all are there at their times, the first one complete, and look like
  /// what was put in.
  void framesComeBack()
  {
    const QTemporaryDir folder;
    const QString file = folder.filePath("Heizen äöü.webm");
    constexpr int count = 130;
    Video video({320, 200}, 80);
    for (int i = 0; i < count; ++i)
      QVERIFY(video.add(frame(i % 25)));
    const auto saved = video.save(file);
    QVERIFY2(saved, saved ? "" : saved.error().sentence().c_str());
    const auto seen = read(file);
    QCOMPARE(seen->kind, std::string("webm"));
    QCOMPARE(seen->codec, std::string("V_VP9"));
    QCOMPARE(seen->width, 320U);
    QCOMPARE(seen->height, 200U);
    QCOMPARE(seen->duration, count * 80.0);
    QCOMPARE(seen->frames.size(), std::size_t(count));
    QVERIFY(seen->complete.front());
    vpx_codec_ctx_t codec{};
    QCOMPARE(vpx_codec_dec_init(&codec, vpx_codec_vp9_dx(), nullptr, 0), VPX_CODEC_OK);
    for (int i = 0; i < count; ++i) {
      const auto& bytes = seen->frames[static_cast<std::size_t>(i)];
      QCOMPARE(seen->times[static_cast<std::size_t>(i)], static_cast<std::uint64_t>(80 * i));
      QCOMPARE(vpx_codec_decode(&codec, bytes.data(), static_cast<unsigned>(bytes.size()), nullptr, 0), VPX_CODEC_OK);
      vpx_codec_iter_t each = nullptr;
      const vpx_image_t* picture = vpx_codec_get_frame(&codec, &each);
      QVERIFY(picture != nullptr);
      const double off = missed(*picture, frame(i % 25));
      QVERIFY2(off < 6, qPrintable(QString("frame %1 is off by %2").arg(i).arg(off)));
      QVERIFY(missed(*picture, frame((i + 7) % 25)) > 3 * off); // and is no other one
    }
    vpx_codec_destroy(&codec);
  }

  /// Given odd sizes and frames of another size, then they are made to fit.
  void oddSizes()
  {
    const QTemporaryDir folder;
    Video video({321, 199}, 40);
    QVERIFY(video.add(frame(0, {640, 400})));
    QVERIFY(video.add(frame(1, {100, 100})));
    QVERIFY(video.save(folder.filePath("odd.webm")));
    const auto seen = read(folder.filePath("odd.webm"));
    QCOMPARE(seen->width, 320U);
    QCOMPARE(seen->height, 198U);
    QCOMPARE(seen->frames.size(), std::size_t(2));
  }

  /// Given nothing to write, or nowhere, then that is said and nothing is left behind; likewise of an animated picture.
  void whatCannotBeWritten()
  {
    const QTemporaryDir folder;
    const auto empty = Video({320, 200}, 80).save(folder.filePath("empty.webm"));
    QVERIFY(!empty && !QFile::exists(folder.filePath("empty.webm")));
    QVERIFY2(empty.error().sentence().find("numbered pictures") != std::string::npos, empty.error().sentence().c_str());
    std::vector<std::unique_ptr<Animation>> kinds;
    kinds.push_back(std::make_unique<Video>(QSize(320, 200), 80));
    kinds.push_back(std::make_unique<AnimatedPicture>(QSize(320, 200), 80));
    for (const auto& one : kinds) {
      QVERIFY(one->add(frame(0)));
      const auto nowhere = one->save("/nowhere/at/all/film");
      QVERIFY(!nowhere && nowhere.error().kind == Failure::Kind::Unwritable);
    }
  }
};

} // namespace kiln

QTEST_MAIN(kiln::VideoTest)
#include "tst_video.moc"
