// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/Notifier.h"

#include "units/Quantity.h"

#include <QApplication>
#include <QDBusConnection>
#include <QDBusMessage>
#include <QVariantMap>

namespace kiln
{

void notifyOfLong(const QString& what, bool good, double seconds)
{
  constexpr double longEnough = 20; // s
  if (seconds < longEnough || what.isEmpty() || QApplication::activeWindow() != nullptr)
    return;
  QDBusConnection bus = QDBusConnection::sessionBus();
  if (!bus.isConnected())
    return;
  QDBusMessage call = QDBusMessage::createMethodCall("org.freedesktop.Notifications", "/org/freedesktop/Notifications",
                                                     "org.freedesktop.Notifications", "Notify");
  const QString title =
      good ? QApplication::tr("%1 is solved").arg(what) : QApplication::tr("%1 was not solved").arg(what);
  const QString text =
      QApplication::tr("After %1.").arg(QString::fromStdString(formatQuantity(seconds, Quantity::Time, {}, 2)));
  constexpr int asUsual = -1; // how long it stays
  call << QApplication::applicationDisplayName() << 0U << QString() << title << text << QStringList() << QVariantMap()
       << asUsual;
  bus.send(call);
}

} // namespace kiln
