// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Whoever hears the window instead of seeing it, and works it by keys alone: everything that can be worked has a name
// and is reached by Tab, on every page.
#include "BarDriver.h"

#include <QAbstractItemView>
#include <QAbstractScrollArea>
#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QAccessible>
#include <QPlainTextEdit>
#include <QScrollBar>
#include <QTabWidget>

using namespace kiln;
using namespace kiln::test;

class ReachTest : public QObject, private BarDriver
{
  Q_OBJECT

private:
  /// Can it be worked by itself?
  static bool isWorked(const QWidget& widget)
  {
    const QWidget* around = widget.parentWidget();
    const bool within = qobject_cast<const QComboBox*>(around) != nullptr ||
                        qobject_cast<const QAbstractSpinBox*>(around) != nullptr ||
                        qobject_cast<const QTabBar*>(around) != nullptr ||
                        widget.objectName().startsWith("qt_");  // parts that the library adds
    const bool ofRow = widget.objectName().startsWith("mute:"); // Space on the row does the same
    const bool head = widget.inherits("QHeaderView");           // of a table, which is reached
    if (within || ofRow || head || qobject_cast<const QScrollBar*>(&widget) != nullptr)
      return false;
    return qobject_cast<const QAbstractButton*>(&widget) != nullptr ||
           qobject_cast<const QLineEdit*>(&widget) != nullptr || qobject_cast<const QComboBox*>(&widget) != nullptr ||
           qobject_cast<const QAbstractSlider*>(&widget) != nullptr ||
           qobject_cast<const QAbstractSpinBox*>(&widget) != nullptr ||
           qobject_cast<const QPlainTextEdit*>(&widget) != nullptr ||
           qobject_cast<const QAbstractItemView*>(&widget) != nullptr;
  }
  static QString pathOf(const QWidget* widget)
  {
    QStringList path;
    for (; widget != nullptr && path.size() < 4; widget = widget->parentWidget())
      path.prepend(QString(widget->metaObject()->className()) + "#" + widget->objectName());
    return path.join(" / ");
  }
  /// What is wrong on what is shown now.
  QStringList wrong(int& checked)
  {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QCoreApplication::processEvents();
    QStringList found;
    for (QWidget* widget : window_->findChildren<QWidget*>()) {
      if (!widget->isVisible() || !isWorked(*widget))
        continue;
      ++checked;
      QAccessibleInterface* heard = QAccessible::queryAccessibleInterface(widget);
      if (heard == nullptr || heard->text(QAccessible::Name).trimmed().isEmpty())
        found << "no name: " + pathOf(widget);
      if (widget->isEnabled() && (widget->focusPolicy() & Qt::TabFocus) == 0 && !qobject_cast<QTabBar*>(widget))
        found << "not reached by Tab: " + pathOf(widget);
    }
    return found;
  }

private slots:
  void initTestCase() { solved(); }
  void cleanupTestCase() { window_.reset(); }

  void everyPage_data()
  {
    QTest::addColumn<int>("tab");
    QTest::addColumn<int>("page");
    for (int page = 0; page < window_->strip().pageNames().size(); ++page)
      QTest::newRow(qPrintable("strip: " + window_->strip().pageNames()[page])) << 0 << page;
    const auto* centre = find<QTabWidget>("centre");
    for (int tab = 1; tab < centre->count(); ++tab)
      QTest::newRow(qPrintable("centre: " + centre->tabText(tab))) << tab << int(StripPanel::numbersPage);
  }
  void everyPage()
  {
    QFETCH(int, tab);
    QFETCH(int, page);
    find<QTabWidget>("centre")->setCurrentIndex(tab);
    showPage(page);
    int checked = 0;
    const QStringList found = wrong(checked);
    QVERIFY2(found.isEmpty(), qPrintable(found.join("\n")));
    QVERIFY(checked > 12);
    // Nothing of the strip has to be pushed sideways at 1280 px.
    for (const auto* area : window_->strip().findChildren<QAbstractScrollArea*>())
      if (area->isVisible() && !area->inherits("QHeaderView"))
        QVERIFY2(!area->horizontalScrollBar()->isVisible(), qPrintable(pathOf(area)));
  }

  void opened()
  {
    find<QTabWidget>("centre")->setCurrentIndex(0);
    openPanel();
    for (const char* row : {"warm", "cold"})
      openRow(row);
    int checked = 0;
    const QStringList found = wrong(checked);
    QVERIFY2(found.isEmpty(), qPrintable(found.join("\n")));
    QVERIFY(checked > 60);
  }
};

int main(int argc, char** argv) { return runWindowTests<ReachTest>(argc, argv); }
#include "tst_reach.moc"
