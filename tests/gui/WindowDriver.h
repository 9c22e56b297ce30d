// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "ledger/LedgerRowView.h"
#include "look/Theme.h"
#include "window/Application.h"
#include "window/MainWindow.h"

#include <QApplication>
#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <functional>
#include <memory>

namespace kiln
{

#ifdef __SANITIZE_ADDRESS__
inline constexpr int childTime = 300'000; // ms; checked code is some ten times as slow
#else
inline constexpr int childTime = 60'000; // ms, far above the usual second
#endif

/// Works the main window with mouse and keys, as a user would.
class WindowDriver
{
protected:
  QTemporaryDir folder_;
  std::unique_ptr<MainWindow> window_;

  void open()
  {
    window_ = std::make_unique<MainWindow>();
    window_->solver().setProgram(UKILN);
    window_->drafts().setProgram(UKILN);
    window_->resize(1280, 800);
    window_->show();
    QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
    window_->activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(window_.get()));
  }
  Document& document() { return window_->document(); }
  const Project& project() { return document().project(); }

  template <class Widget>
  Widget* find(const QString& name) const
  {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    auto* widget = window_->findChild<Widget*>(name);
    if (widget == nullptr)
      qFatal("no widget %s", qPrintable(name));
    return widget;
  }

  /// Walks down the entries of the menu that \p open brings up, with the keyboard.
  static void walkMenu(const QStringList& entries, const std::function<void()>& open)
  {
    int left = 200;
    QStringList rest = entries;
    QTimer walker;
    QObject::connect(&walker, &QTimer::timeout, qApp, [&] {
      auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
      if (menu == nullptr || rest.isEmpty())
        return;
      if (--left < 0)
        qFatal("no menu entry %s", qPrintable(rest.first()));
      for (QAction* action : menu->actions())
        if (action->text().remove('&').startsWith(rest.first())) {
          menu->setActiveAction(action);
          rest.removeFirst();
          QTest::keyClick(menu, rest.isEmpty() ? Qt::Key_Return : Qt::Key_Right);
          return;
        }
    });
    walker.start(20);
    constexpr int tries = 3; // a menu that something else closed before it was walked through is opened again
    for (int i = 0; i < tries && (i == 0 || !rest.isEmpty()); ++i) {
      rest = entries;
      open();
      if (QTest::qWaitFor([&] { return rest.isEmpty(); }, 1000))
        break;
      static_cast<void>(QTest::qWaitFor([] { return QApplication::activePopupWidget() == nullptr; }, kilnPatience));
    }
    QTRY_VERIFY2(rest.isEmpty(), qPrintable(entries.join(" > ")));
  }
  /// Opens a button's menu and walks down its entries with the keyboard.
  void choose(const QString& button, const QStringList& entries) const
  {
    constexpr int flat = 4; // px: a row built anew has no layout yet
    QTRY_VERIFY2(find<QToolButton>(button)->isVisible() && find<QToolButton>(button)->height() > flat,
                 qPrintable(button));
    auto* tool = find<QToolButton>(button);
    walkMenu(entries, [tool] { QTest::mouseClick(tool, Qt::LeftButton); });
  }
  void type(const QString& field, const QString& value) const
  {
    auto* edit = find<QLineEdit>(field);
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, value);
    QTest::keyClick(edit, Qt::Key_Return);
  }
  void pickCombo(const QString& name, int index) const
  {
    auto* combo = find<QComboBox>(name);
    combo->setCurrentIndex(index);
    emit combo->activated(index);
  }
  void openRow(const QString& id) const
  {
    auto* row = find<LedgerRowView>("row:" + id);
    row->setFocus();
    if (!row->isOpen())
      QTest::keyClick(row, Qt::Key_Return);
    QVERIFY(row->isOpen());
    openMore(*row);
  }
  /// Unfolds what is seldom needed of a form.
  static void openMore(const QWidget& form)
  {
    for (auto* more : form.findChildren<QToolButton*>())
      if (more->objectName().startsWith("more:") && !more->isChecked())
        more->click();
  }
  void closeRow(const QString& id) const
  {
    auto* row = find<LedgerRowView>("row:" + id);
    row->setFocus();
    if (row->isOpen())
      QTest::keyClick(row, Qt::Key_Return);
  }
  void waitForShapes()
  {
    QTRY_VERIFY_WITH_TIMEOUT(document().geometryIsCurrent() && !window_->drafts().isBusy(), childTime);
  }
  void solve()
  {
    QTest::mouseClick(find<QPushButton>("solve"), Qt::LeftButton);
    const auto ended = [&] {
      const CaseState::Stage stage = document().shownState().stage;
      return !window_->solver().isRunning() && (stage == CaseState::Stage::Solved || stage == CaseState::Stage::Failed);
    };
    QTRY_VERIFY_WITH_TIMEOUT(ended(), childTime);
    QVERIFY2(document().shownState().stage == CaseState::Stage::Solved, qPrintable(document().shownState().message));
    QVERIFY(document().shownState().result->relativeImbalance() < 1e-6);
  }
};

/// Runs a suite of the window, in the light theme.
/// \param child  what the program does instead where a test starts it again with \p word and one word more
template <class Suite>
int runWindowTests(int argc, char** argv, const char* word = nullptr, int (*child)(const QString&) = nullptr)
{
  prepareApplication();
  QApplication application(argc, argv);
  applyTheme(application, ThemeChoice::Light);
  if (child != nullptr && argc == 3 && QString(argv[1]) == word) {
    QStandardPaths::setTestModeEnabled(true);
    return child(argv[2]);
  }
  Suite suite;
  return QTest::qExec(&suite, argc, argv);
}

} // namespace kiln
