// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "look/Language.h"
#include "report/ReportPage.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "units/DecimalSign.h"
#include "window/About.h"
#include "window/Application.h"
#include "window/ImportDialog.h"
#include "window/MainWindow.h"

#include <QAbstractButton>
#include <QAction>
#include <QApplication>
#include <QCommandLineParser>
#include <QDialog>
#include <QMouseEvent>
#include <QTabWidget>
#include <QTimer>
#include <iostream>

namespace
{

/// Saves a picture of the window once the scene is drawn, and leaves; for the documentation.
/// Of the dialog where one stands open, else of the window.
void takePicture(kiln::MainWindow& window, const QString& file)
{
  constexpr int settle = 3000;                     // ms
  QTimer::singleShot(0, &window, [&window, file] { // counted from when it has been read
    QTimer::singleShot(settle, &window, [&window, file] {
      QWidget* shown = &window;
      for (QWidget* other : QApplication::topLevelWidgets())
        if (qobject_cast<QDialog*>(other) != nullptr && other->isVisible())
          shown = other;
      const bool saved = shown->grab().save(file);
      QCoreApplication::exit(saved ? 0 : 1);
    });
  });
}

/// As the mouse would, up to where the height is to be chosen.
void drawInScene(kiln::ScenePanel& scene, const QString& pixels)
{
  const QStringList parts = pixels.split(',');
  constexpr int numbers = 5;
  if (parts.size() != numbers)
    return;
  const auto number = [&](int i) { return parts[i].toDouble(); };
  kiln::SceneCanvas& canvas = scene.canvas();
  const auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButton button) {
    QMouseEvent event(type, at, canvas.mapToGlobal(at), button, Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(&canvas, &event);
  };
  const QPointF from(number(0), number(1));
  const QPointF to(number(2), number(3));
  scene.drawOnFace(0, false);
  for (const QPointF& at : {from, to}) {
    send(QEvent::MouseMove, at, Qt::NoButton);
    send(QEvent::MouseButtonPress, at, Qt::LeftButton);
    send(QEvent::MouseButtonRelease, at, Qt::LeftButton);
  }
  send(QEvent::MouseMove, to - QPointF(0, number(4)), Qt::NoButton);
}

/// Makes a report of the opened project without anybody at the window, and leaves: what \c ukiln report asks for.
struct ReportOrder {
  QStringList files;    ///< to write; none: no report is wanted
  QString name;         ///< of a report of the project, or its id; empty: the first one, or a usual one
  QString templateFile; ///< a report from there instead
  QStringList cases;    ///< ids; none: those of the report
};

int makeReport(kiln::MainWindow& window, const ReportOrder& order)
{
  const auto refuse = [](const std::string& sentence, int code) {
    std::cerr << sentence << std::endl;
    return code;
  };
  constexpr int notReady = 1, unreadable = 2, unwritable = 4; // as ukiln says it
  std::string id;
  kiln::Document& document = window.document();
  const std::vector<kiln::Report>& reports = document.project().reports;
  if (!order.templateFile.isEmpty()) {
    auto taken = kiln::reportFromTemplate(document, order.templateFile);
    if (!taken)
      return refuse(taken.error().sentence(), unreadable);
    for (const std::string& line : taken->unmatched)
      std::cerr << line << std::endl;
    id = taken->id;
  } else if (!order.name.isEmpty()) {
    for (const kiln::Report& report : reports)
      if (report.id == order.name.toStdString() || report.name == order.name.toStdString())
        id = report.id;
    if (id.empty())
      return refuse("The project has no report “" + order.name.toStdString() + "”.", notReady);
  } else {
    id = window.report().chosenOrNew();
  }
  if (!order.cases.isEmpty())
    id = kiln::reportOfCases(document, id, order.cases);
  const auto made = window.report().maker().make(id, order.files);
  if (!made)
    return refuse(made.error().sentence(),
                  made.error().kind == kiln::Failure::Kind::Unwritable ? unwritable : notReady);
  for (const std::string& warning : made->content.warnings)
    std::cerr << warning << std::endl;
  for (const std::string& name : made->unknown)
    std::cerr << "Nothing is known of {" << name << "}." << std::endl;
  return 0;
}

} // namespace

int main(int argc, char** argv)
{
  kiln::prepareApplication();
  QApplication application(argc, argv);
  kiln::speak(kiln::chosenLanguage());
  QCommandLineParser parser;
  parser.setApplicationDescription(QObject::tr("Usual Kiln: a thermal bench."));
  parser.addHelpOption();
  const QCommandLineOption version({"v", "version"}, QObject::tr("say the version, with those of the libraries"));
  parser.addOption(version);
  parser.addPositionalArgument("FILE", QObject::tr("a project to open (*.kiln)"), "[FILE]");
  const QCommandLineOption look("look", QObject::tr("light or dark for this session"), "look");
  const QCommandLineOption language("language", QObject::tr("speak this language for this session: en or de"), "code");
  const QCommandLineOption picture("picture", QObject::tr("save a picture of the window to this file and leave"),
                                   "file");
  const QCommandLineOption cut("cut", QObject::tr("cut the model open along x, y or z"), "axis");
  const QCommandLineOption select("select", QObject::tr("open the ledger row of this object"), "id");
  const QCommandLineOption colorBy("color-by", QObject::tr("0 temperature, 1 material, 2 conductivity, 3 condition"),
                                   "number");
  const QCommandLineOption readiness("readiness", QObject::tr("show what is missing or doubtful"));
  const QCommandLineOption shownCase("case", QObject::tr("show this case"), "id");
  const QCommandLineOption at("at", QObject::tr("put the playhead at this time"), "seconds");
  const QCommandLineOption page("page", QObject::tr("page of the strip: 0 time, 1 network, 2 numbers"), "number");
  const QCommandLineOption question("question", QObject::tr("show this question"), "id");
  const QCommandLineOption beside("beside", QObject::tr("show the compared case beside"));
  const QCommandLineOption wipe("wipe", QObject::tr("show the compared case behind a line"));
  const QCommandLineOption view("view", QObject::tr("show this view of the project: 1 for the first"), "number");
  const QCommandLineOption tab("tab", QObject::tr("page in the middle: 0 scene, 1 materials, 2 parameters, 3 surfaces"),
                               "number");
  const QCommandLineOption press("press", QObject::tr("press this button, as pictures of dialogs need"), "name");
  const QCommandLineOption panel("panel", QObject::tr("open the panel Picture beside the scene"));
  const QCommandLineOption size("size", QObject::tr("width and height of the window, px: 1024x700"), "size");
  const QCommandLineOption draw("draw", QObject::tr("draw a rectangle in the scene from pixel to pixel and raise it"),
                                "x1,y1,x2,y2,up");
  const QCommandLineOption reportTo("report-to", QObject::tr("make a report into this file and leave"), "file");
  const QCommandLineOption report("report", QObject::tr("which report of the project"), "name");
  const QCommandLineOption reportCase("report-case", QObject::tr("of this case instead of its own"), "id");
  const QCommandLineOption reportTemplate("report-template", QObject::tr("by this template"), "file");
  parser.addOptions({reportTo,  report, reportCase, reportTemplate, size, draw,     view,    panel,
                     tab,       press,  look,       picture,        cut,  select,   colorBy, readiness,
                     shownCase, at,     page,       beside,         wipe, question, language});
  parser.process(application);
  if (parser.isSet(version)) {
    std::cout << kiln::versionText().toStdString() << std::endl;
    return 0;
  }

  if (parser.isSet(language))
    kiln::speak(parser.value(language));
  kiln::setDecimalComma(QLocale::system().decimalPoint() == ",");
  kiln::Preferences preferences;
  const QString wanted = parser.value(look);
  kiln::applyTheme(application, wanted == "dark"    ? kiln::ThemeChoice::Dark
                                : wanted == "light" ? kiln::ThemeChoice::Light
                                                    : preferences.themeChoice());
  kiln::MainWindow window;
  const QString file = parser.positionalArguments().value(0);
  const bool geometry = kiln::ImportDialog::canRead(file);
  if (!file.isEmpty() && !geometry)
    window.openFile(file);
  if (parser.isSet(shownCase))
    window.document().showCase(parser.value(shownCase).toStdString());
  if (parser.isSet(at))
    window.document().setPlayhead(parser.value(at).toDouble());
  if (parser.isSet(page))
    window.strip().setPage(parser.value(page).toInt());
  if (parser.isSet(question))
    QTimer::singleShot(0, &window, [&] { window.strip().showQuestion(parser.value(question).toStdString()); });
  if (parser.isSet(view))
    window.scene().showView(parser.value(view).toInt() - 1);
  if (parser.isSet(cut))
    window.scene().setSection(static_cast<int>(QString("xyz").indexOf(parser.value(cut))), 0.5);
  if (parser.isSet(colorBy))
    window.scene().setColorBy(parser.value(colorBy).toInt());
  if (parser.isSet(panel))
    window.scene().toggleLook();
  if (const QStringList wide = parser.value(size).split('x'); wide.size() == 2)
    window.resize(wide[0].toInt(), wide[1].toInt());
  window.show();
  if (geometry) // its dialog stands before the window
    QTimer::singleShot(0, &window, [&] { window.openFile(file); });
  if (parser.isSet(beside))
    window.scene().compare(kiln::ScenePanel::Compare::Beside);
  if (parser.isSet(wipe))
    window.scene().compare(kiln::ScenePanel::Compare::Wipe);
  if (parser.isSet(readiness))
    QTimer::singleShot(0, &window, &kiln::MainWindow::toggleReadiness);
  if (parser.isSet(select))
    QTimer::singleShot(0, &window, [&] { window.revealObject(parser.value(select)); });
  if (parser.isSet(tab))
    window.findChild<QTabWidget*>("centre")->setCurrentIndex(parser.value(tab).toInt());
  constexpr int opened = 1200; // ms, rows have unfolded by then
  QTimer::singleShot(opened, &window, [&] {
    for (const QString& name : parser.values(press))
      if (auto* button = window.findChild<QAbstractButton*>(name))
        button->click();
      else if (auto* action = window.findChild<QAction*>(name))
        action->trigger();
  });
  if (parser.isSet(draw))
    QTimer::singleShot(opened, &window, [&] { drawInScene(window.scene(), parser.value(draw)); });
  const ReportOrder order{parser.values(reportTo), parser.value(report), parser.value(reportTemplate),
                          parser.values(reportCase)};
  if (!order.files.isEmpty())
    QTimer::singleShot(0, &window, [&] {
      if (window.document().file().empty()) { // said already why
        std::cerr << "The project could not be opened." << std::endl;
        return QCoreApplication::exit(2);
      }
      QCoreApplication::exit(makeReport(window, order));
    });
  if (parser.isSet(picture))
    takePicture(window, parser.value(picture));
  return QApplication::exec();
}
