// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Spoiled STEP and triangle files through the real `ukiln import`, as the window reads them: taken in or refused with a
// sentence, in time; nothing is left half written.
#include "TestProjects.h"
#include "Trials.h"
#include "geometry/GeometryImport.h"
#include "io/ProjectFile.h"

#include <QElapsedTimer>
#include <QFile>
#include <QProcess>
#include <QRegularExpression>
#include <QTest>
#include <sys/resource.h>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// Cuts the file short, turns bytes, doubles or leaves out a stretch, or writes nonsense numbers.
QByteArray spoiled(QByteArray bytes, Random& random)
{
  const auto anywhere = [&] { return static_cast<qsizetype>(random() % static_cast<unsigned>(bytes.size())); };
  switch (random() % 5) {
  case 0:
    return bytes.left(anywhere());
  case 1:
    for (int i = 0; i < 20; ++i)
      bytes[anywhere()] = static_cast<char>(random());
    return bytes;
  case 2:
    return bytes.insert(anywhere(), bytes.mid(anywhere(), 300));
  case 3:
    return bytes.remove(anywhere(), 200);
  default:
    for (int i = 0; i < 30; ++i)
      if (const qsizetype at = anywhere(); bytes[at] >= '0' && bytes[at] <= '9')
        bytes.replace(at, 1, i % 3 == 0 ? "-9e99" : i % 3 == 1 ? "#" : "7");
    return bytes;
  }
}

/// The geometry kernel's readers fault on some spoiled files. ukiln then says that they failed; the address sanitizer
/// says where instead.
bool isFaultOfTheKernel(const QString& error)
{
#ifdef __SANITIZE_ADDRESS__
  static const QRegularExpression fault("DEADLYSIGNAL[^#]*#0 [^\n]*/libTK[A-Za-z0-9]+\\.so");
  return fault.match(error).hasMatch();
#else
  static_cast<void>(error);
  return false;
#endif
}

} // namespace

class TestSpoiled : public QObject
{
  Q_OBJECT

private:
  QTemporaryDir folder_;

  /// The mesh of a solved case, written by the program itself.
  bool solvedAsVtu(Project project, const QString& to)
  {
    project.surfaces = {surface("base", {"plate.bottom"})};
    project.boundaries = {boundary("cold", FixedSurface{"base", number(300)})};
    const QString file = folder_.filePath("solved.kiln");
    if (!saveProject(project, file.toStdString()))
      return false;
    const auto run = [](const QStringList& arguments) {
      QProcess process;
      process.start(UKILN, arguments);
      return process.waitForFinished(60'000) && process.exitCode() == 0;
    };
    return run({"solve", file}) && run({"export", file, "--case", "Steady", "--format", "vtu", "--to", to});
  }

private slots:
  void spoiledFilesAreReadOrRefused_data()
  {
    QTest::addColumn<QString>("ending");
    QTest::newRow("STEP") << "step";
    QTest::newRow("STL") << "stl";
    QTest::newRow("VTU") << "vtu";
  }
  void spoiledFilesAreReadOrRefused()
  {
    QFETCH(QString, ending);
    Project project = projectWith(0.01);
    project.materials = {material("stuff", 1)};
    project.parts = {part("plate", "stuff", block(0.06, 0.04, 0.004)),
                     part("rod", "stuff", Cylinder{number(0.005), number(0.03)}, Vec3(0, 0, 0.004))};
    const QString sound = folder_.filePath("sound." + ending);
    if (ending == "vtu")
      QVERIFY(solvedAsVtu(project, sound));
    else
      QVERIFY(writeGeometry(project, sound.toStdString()).has_value());
    QFile file(sound);
    QVERIFY(file.open(QIODevice::ReadOnly));
    const QByteArray bytes = file.readAll();
    Random random(seed());
    int refused = 0;
    qint64 slowest = 0; // ms
    const int tries = trials(30);
    for (int i = 0; i < tries; ++i) {
      const QString path = folder_.filePath(QString("spoiled-%1.%2").arg(i).arg(ending));
      const QString out = folder_.filePath(QString("out-%1-%2.kiln").arg(ending).arg(i));
      QFile made(path);
      QVERIFY(made.open(QIODevice::WriteOnly));
      made.write(spoiled(bytes, random));
      made.close();
      QProcess process;
      QElapsedTimer clock;
      clock.start();
      process.start(UKILN, {"import", path, "--to", out});
      QVERIFY2(process.waitForFinished(60'000), qPrintable(path + " hangs"));
      slowest = std::max(slowest, clock.elapsed());
      QVERIFY2(process.exitStatus() == QProcess::NormalExit, qPrintable(path + " crashes it"));
      const QString error = QString::fromUtf8(process.readAllStandardError());
      if (process.exitCode() == 0) {
        QVERIFY(QFile::exists(out));
        continue;
      }
      ++refused;
      if (isFaultOfTheKernel(error))
        continue;
      QVERIFY2(error.contains(": ") && error.trimmed().endsWith('.'), qPrintable(QString::number(i) + ": " + error));
      QVERIFY(!QFile::exists(out));
    }
    qInfo("%d of %d refused, the slowest in %lld ms", refused, tries, slowest);
    QVERIFY(refused > 0);
    rusage children{};
    ::getrusage(RUSAGE_CHILDREN, &children);
    constexpr long most = 4'000'000; // kB: a small file asks for no more, however it is damaged
    QVERIFY2(children.ru_maxrss < most, qPrintable(QString::number(children.ru_maxrss)));
    QVERIFY(refused < tries || ending == "vtu"); // a mesh is packed: hardly any damage goes unnoticed
  }
};

QTEST_APPLESS_MAIN(TestSpoiled)
#include "tst_spoiled.moc"
