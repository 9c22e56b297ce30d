// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The whole window on screens of other pixels: the program itself draws it at one, one and a half and two pixels a
// point, and the pictures are the same.
#include "BarDriver.h"

#include <QCursor>
#include <QProcess>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr QSize points(1000, 620);

/// Mean difference of two pictures of one size over all pixels and colours, 0…255, and the share of pixels that differ
/// by more than a quarter of that in any colour.
struct Unlike {
  double mean, share;
};
Unlike unlike(const QImage& a, const QImage& b)
{
  double sum = 0;
  int far = 0;
  for (int y = 0; y < a.height(); ++y)
    for (int x = 0; x < a.width(); ++x) {
      const QColor one = a.pixelColor(x, y);
      const QColor other = b.pixelColor(x, y);
      const int red = std::abs(one.red() - other.red());
      const int green = std::abs(one.green() - other.green());
      const int blue = std::abs(one.blue() - other.blue());
      sum += red + green + blue;
      far += std::max({red, green, blue}) > 64 ? 1 : 0;
    }
  const double all = static_cast<double>(a.width()) * a.height();
  return {sum / all / 3, far / all};
}

} // namespace

class SharpTest : public QObject
{
  Q_OBJECT

private slots:
  void initTestCase()
  {
    file_ = folder_.filePath("bar.kiln");
    QVERIFY(saveProject(bar(), file_.toStdString()).has_value());
    QCOMPARE(QProcess::execute(UKILN, {"solve", file_}), 0);
    QCursor::setPos(2, 2); // hovers over nothing
    once_ = picture(1, {});
    QCOMPARE(once_.size(), points);
  }

  void onOtherScreens_data()
  {
    QTest::addColumn<double>("scale");
    QTest::newRow("one and a half") << 1.5;
    QTest::newRow("two") << 2.0;
  }
  void onOtherScreens()
  {
    QFETCH(double, scale);
    const QImage fine = picture(scale, {});
    QCOMPARE(fine.size(), (QSizeF(points) * scale).toSize());
    const QImage coarse = fine.scaled(points, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    const QRect scene(270, 130, 380, 330); // where there is no writing but labels
    const Unlike there = unlike(once_.copy(scene), coarse.copy(scene));
    QVERIFY2(there.mean < 2 && there.share < 0.008,
             qPrintable(QString("scene: %1, %2").arg(there.mean).arg(there.share)));
    const Unlike all = unlike(once_, coarse); // letters are set on other pixels
    QVERIFY2(all.mean < 3 && all.share < 0.02, qPrintable(QString("all: %1, %2").arg(all.mean).arg(all.share)));
  }

  /// So large is the difference of another picture: the check would see it.
  void anotherPictureDiffers()
  {
    const QImage other = picture(1, {"--color-by", "1"});
    QVERIFY2(unlike(once_, other).mean > 3, qPrintable(QString::number(unlike(once_, other).mean)));
  }

private:
  QImage picture(double scale, const QStringList& more)
  {
    const QString to = folder_.filePath("picture.png");
    QFile::remove(to);
    QProcess program;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert("QT_SCALE_FACTOR", QString::number(scale));
    program.setProcessEnvironment(environment);
    program.start(QFileInfo(UKILN).dir().filePath("usual-kiln"),
                  QStringList{"--look", "light", "--size", "1000x620", "--picture", to} + more + QStringList{file_});
    if (!program.waitForFinished(120'000))
      return {};
    return QImage(to).convertToFormat(QImage::Format_RGB32);
  }

  QTemporaryDir folder_;
  QString file_;
  QImage once_;
};

QTEST_MAIN(SharpTest)
#include "tst_sharp.moc"
