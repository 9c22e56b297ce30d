// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "look/Theme.h"

#include <QApplication>
#include <QFont>
#include <QFontDatabase>
#include <QPalette>
#include <QStyleFactory>

namespace kiln
{
namespace
{

Theme current = Theme::light(); // the window has one look at a time

QPalette paletteOf(const Theme& t)
{
  QPalette palette;
  palette.setColor(QPalette::Window, t.window);
  palette.setColor(QPalette::WindowText, t.text);
  palette.setColor(QPalette::Base, t.raised);
  palette.setColor(QPalette::AlternateBase, t.panel);
  palette.setColor(QPalette::Text, t.text);
  palette.setColor(QPalette::Button, t.panel);
  palette.setColor(QPalette::ButtonText, t.text);
  palette.setColor(QPalette::Highlight, t.accent);
  palette.setColor(QPalette::HighlightedText, Qt::white);
  palette.setColor(QPalette::ToolTipBase, t.raised);
  palette.setColor(QPalette::ToolTipText, t.text);
  palette.setColor(QPalette::PlaceholderText, t.quiet);
  palette.setColor(QPalette::Mid, t.line);
  for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
    palette.setColor(QPalette::Disabled, role, t.quiet);
  return palette;
}

} // namespace

PaperColors::PaperColors() : before_(current)
{
  current = Theme::light();
  current.panel = current.window = Qt::white;
}

PaperColors::~PaperColors() { current = before_; }

Theme Theme::light()
{
  Theme t;
  t.window = QColor(0xee, 0xef, 0xf0);
  t.panel = QColor(0xf7, 0xf7, 0xf6);
  t.raised = QColor(0xff, 0xff, 0xff);
  t.line = QColor(0xd6, 0xd8, 0xda);
  t.text = QColor(0x22, 0x26, 0x2a);
  t.quiet = QColor(0x69, 0x70, 0x77);
  t.accent = QColor(0x1f, 0x76, 0x86);
  t.bad = QColor(0xb3, 0x26, 0x1e);
  t.good = QColor(0x3c, 0x7a, 0x57);
  t.warning = QColor(0x95, 0x62, 0x00);
  t.scene = QColor(0xe3, 0xe6, 0xe8);
  t.sceneLine = QColor(0x20, 0x22, 0x26);
  return t;
}

Theme Theme::night()
{
  Theme t;
  t.dark = true;
  t.window = QColor(0x1c, 0x1f, 0x23);
  t.panel = QColor(0x23, 0x27, 0x2b);
  t.raised = QColor(0x2c, 0x31, 0x36);
  t.line = QColor(0x3b, 0x41, 0x47);
  t.text = QColor(0xe6, 0xe8, 0xea);
  t.quiet = QColor(0x9a, 0xa2, 0xa9);
  t.accent = QColor(0x45, 0xa5, 0xb6);
  t.bad = QColor(0xf0, 0x7a, 0x6c);
  t.good = QColor(0x7c, 0xc0, 0x98);
  t.warning = QColor(0xe0, 0xb0, 0x55);
  t.scene = QColor(0x2b, 0x31, 0x37);
  t.sceneLine = QColor(0xd8, 0xdc, 0xe0);
  return t;
}

QString Theme::styleSheet() const
{
  QString sheet = QStringLiteral(R"(
    QWidget#panel, QWidget#sceneTools, QWidget#panel QScrollArea, QWidget#panelBody { background: @panel; border: none; }
    QFrame#card { background: @raised; border: 1px solid @line; border-radius: 6px; }
    QLabel[role="quiet"] { color: @quiet; }
    QLabel[role="title"] { color: @quiet; font-weight: 600; letter-spacing: 1px; }
    QLabel[role="figure"] { font-size: 14pt; font-weight: 600; }
    QLabel[role="bad"] { color: @bad; }
    QLabel[role="warning"] { color: @warning; }
    QLineEdit, QComboBox, QAbstractSpinBox, QPushButton { background: @raised; border: 1px solid @line; border-radius: 4px; min-height: 18px; padding: 2px 6px; color: @text; }
    QLineEdit:focus, QComboBox:focus, QAbstractSpinBox:focus { border-color: @accent; }
    QAbstractSpinBox QLineEdit { border: none; padding: 0; min-height: 0; }
    QComboBox QLineEdit { border: none; padding: 0; min-height: 0; background: transparent; }
    QComboBox { padding-right: 18px; }
    QComboBox::drop-down { border: none; width: 18px; subcontrol-origin: border; subcontrol-position: center right; }
    QComboBox::down-arrow { image: url(:/icons/@look/arrow-down.svg); width: 14px; height: 14px; }
    QComboBox:disabled, QLineEdit:disabled, QAbstractSpinBox:disabled { background: @window; color: @quiet; }
    QComboBox QAbstractItemView { background: @raised; border: 1px solid @line; color: @text; selection-background-color: @accent; selection-color: white; }
    QAbstractSpinBox::up-button { border: none; width: 16px; subcontrol-origin: border; subcontrol-position: top right; }
    QAbstractSpinBox::down-button { border: none; width: 16px; subcontrol-origin: border; subcontrol-position: bottom right; }
    QAbstractSpinBox::up-arrow { image: url(:/icons/@look/arrow-up.svg); width: 10px; height: 10px; }
    QAbstractSpinBox::down-arrow { image: url(:/icons/@look/arrow-down.svg); width: 10px; height: 10px; }
    QLineEdit[wrong="true"] { border-color: @bad; }
    QToolButton { border: 1px solid transparent; border-radius: 4px; padding: 3px 6px; color: @text; }
    QWidget#sceneTools QToolButton { padding: 3px 3px; }
    QWidget#sceneTools QComboBox { padding-left: 5px; padding-right: 4px; }
    QToolButton[flat="true"] { color: @quiet; padding: 1px 2px; }
    QToolButton:hover { background: @raised; border-color: @line; }
    QToolButton:checked { background: @raised; border-color: @accent; color: @accent; }
    QToolButton:focus { border-color: @accent; }
    QToolButton:disabled { color: @quiet; }
    QToolButton[chip="true"] { background: @raised; border: 1px solid @accent; border-radius: 9px; padding: 2px 8px; }
    QToolButton::menu-indicator { image: none; }
    QPushButton { padding: 2px 12px; }
    QPushButton:hover { border-color: @accent; }
    QPushButton:disabled { background: @window; color: @quiet; }
    QPushButton#solve { background: @accent; border-color: @accent; color: white; font-weight: 600; }
    QPushButton#solve:disabled { background: @line; border-color: @line; color: @quiet; }
    QTableView::item { padding: 1px 6px; border: none; }
    QTableView { background: @raised; border: none; gridline-color: @line; color: @text; alternate-background-color: @panel; }
    QHeaderView::section { background: @panel; color: @quiet; border: none; border-bottom: 1px solid @line; padding: 3px 6px; }
    QSplitter::handle { background: @line; }
    QStatusBar { background: @panel; color: @quiet; border-top: 1px solid @line; }
    QStatusBar::item { border: none; }
    QTabBar::tab { background: transparent; color: @quiet; padding: 4px 12px; border-bottom: 2px solid transparent; }
    QTabBar#stripPages::tab { padding: 4px 4px; margin-right: 1px; }
    QTabBar QToolButton { padding: 0; background: @panel; }
    QTabBar::tab:selected { color: @text; border-bottom-color: @accent; }
    QTabWidget::pane { border: none; }
    QProgressBar { background: @line; border: none; border-radius: 3px; max-height: 6px; }
    QProgressBar::chunk { background: @accent; border-radius: 3px; }
    QMenuBar { background: @window; color: @text; }
    QMenuBar::item:selected, QMenu::item:selected { background: @accent; color: white; }
    QMenu { background: @raised; color: @text; border: 1px solid @line; }
    QToolTip { background: @raised; color: @text; border: 1px solid @line; }
    QScrollBar:vertical { width: 9px; background: transparent; margin: 0; }
    QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 24px; }
    QScrollBar:horizontal { height: 9px; background: transparent; margin: 0; }
    QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 24px; }
    QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page { background: none; height: 0; width: 0; }
    QSlider::groove:horizontal { height: 4px; background: @line; border-radius: 2px; }
    QSlider::handle:horizontal { width: 12px; margin: -5px 0; border-radius: 6px; background: @accent; }
  )");
  sheet.replace(QLatin1String("@look"), dark ? "dark" : "light");
  for (const auto& [name, color] : {std::pair{"@window", window},
                                    {"@panel", panel},
                                    {"@raised", raised},
                                    {"@line", line},
                                    {"@text", text},
                                    {"@quiet", quiet},
                                    {"@accent", accent},
                                    {"@bad", bad},
                                    {"@warning", warning}})
    sheet.replace(QLatin1String(name), color.name());
  return sheet;
}

const Theme& theme() { return current; }

void applyTheme(QApplication& application, ThemeChoice choice)
{
  static const QPalette systemPalette = QApplication::palette();
  const bool systemDark = systemPalette.color(QPalette::Window).lightness() < 128;
  current =
      choice == ThemeChoice::Dark || (choice == ThemeChoice::System && systemDark) ? Theme::night() : Theme::light();
  QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
  QFont font(QStringLiteral("Open Sans")); // its figures are tabular
  constexpr double points = 9.5;
  font.setPointSizeF(points);
  font.setStyleHint(QFont::SansSerif);
  QApplication::setFont(font);
  QApplication::setPalette(paletteOf(current));
  application.setStyleSheet(current.styleSheet());
}

} // namespace kiln
