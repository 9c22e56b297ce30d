// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What the desktop is told when something that took long has ended: a desktop that listens, on a bus of its own.
#include "window/Notifier.h"

#include <QApplication>
#include <QDBusConnection>
#include <QProcess>
#include <QTest>
#include <QWidget>

using namespace kiln;

namespace
{

struct Notice {
  QString program, title, text;
};

/// The desktop's side of it.
class Desktop : public QObject
{
  Q_OBJECT
  Q_CLASSINFO("D-Bus Interface", "org.freedesktop.Notifications")

public:
  QList<Notice> notices;

public slots:
  uint Notify(const QString& program, uint, const QString&, const QString& title, const QString& text,
              const QStringList&, const QVariantMap&, int)
  {
    notices.push_back({program, title, text});
    return static_cast<uint>(notices.size());
  }
};

} // namespace

class NoticeTest : public QObject
{
  Q_OBJECT

  QProcess bus_;
  Desktop desktop_;

private slots:
  void initTestCase()
  {
    bus_.start("dbus-daemon", {"--session", "--nofork", "--print-address=1"});
    QVERIFY2(bus_.waitForStarted(), "the package dbus-daemon is missing");
    QVERIFY(bus_.waitForReadyRead());
    const QByteArray address = bus_.readLine().trimmed();
    qputenv("DBUS_SESSION_BUS_ADDRESS", address); // before the program's first use of it
    QDBusConnection own = QDBusConnection::connectToBus(QString::fromUtf8(address), "desktop");
    QVERIFY(own.isConnected());
    QVERIFY(own.registerObject("/org/freedesktop/Notifications", &desktop_, QDBusConnection::ExportAllSlots));
    QVERIFY(own.registerService("org.freedesktop.Notifications"));
    QApplication::setApplicationDisplayName("Usual Kiln");
  }
  void init() { desktop_.notices.clear(); }
  void cleanupTestCase()
  {
    QDBusConnection::disconnectFromBus("desktop");
    bus_.kill();
    bus_.waitForFinished();
  }

  void whatTookLongIsTold_data()
  {
    QTest::addColumn<bool>("good");
    QTest::addColumn<QString>("title");
    QTest::newRow("solved") << true << "Firing is solved";
    QTest::newRow("failed") << false << "Firing was not solved";
  }
  void whatTookLongIsTold()
  {
    QFETCH(bool, good);
    QFETCH(QString, title);
    notifyOfLong("Firing", good, 150);
    QTRY_COMPARE(desktop_.notices.size(), 1);
    QCOMPARE(desktop_.notices[0].program, QString("Usual Kiln"));
    QCOMPARE(desktop_.notices[0].title, title);
    QVERIFY2(desktop_.notices[0].text.startsWith("After 2 min 30 s"), qPrintable(desktop_.notices[0].text));
  }

  /// Who looks at the window sees it there; what was quick needs no telling; what has no name is nobody's.
  void elseNothingIs()
  {
    notifyOfLong("Firing", true, 2);
    notifyOfLong({}, true, 150);
    QWidget window;
    window.show();
    window.activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&window));
    notifyOfLong("Firing", true, 150);
    QTest::qWait(200);
    QVERIFY(desktop_.notices.isEmpty());
  }
};

QTEST_MAIN(NoticeTest)
#include "tst_notice.moc"
