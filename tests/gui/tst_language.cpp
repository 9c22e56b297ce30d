// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The window in German: every text of the sources has its translation, every word of the model too, and what stands on
// the screen is the one and not the other.
#include "../RandomProject.h"
#include "WindowDriver.h"
#include "io/ProjectFile.h"
#include "look/Language.h"
#include "model/Fields.h"

#include <QAbstractButton>
#include <QLabel>
#include <QMenuBar>
#include <QProcess>
#include <QRegularExpression>
#include <QSettings>
#include <QTabBar>
#include <set>

namespace kiln
{

class LanguageTest : public QObject, WindowDriver
{
  Q_OBJECT

  /// Is it a number, a unit, a name of an axis or a citation, alike in all languages?
  static bool isAlike(const QString& text)
  {
    static const QRegularExpression number("^[\\d.]+(e-?\\d+)?( .*)?$");
    static const std::set<QString> same{"x",     "y",    "z",         "Band",     "Form",
                                        "In",    "Name", "Parameter", "Radius",   "Thermostat",
                                        "Fluid", "r",    "Solidus",   "Liquidus", "{of}, {figure}"};
    return text.isEmpty() || same.contains(text) || number.match(text).hasMatch();
  }

  void miss(std::set<QString>& missing, std::string_view word) const
  {
    const QString text = QString::fromUtf8(word.data(), static_cast<qsizetype>(word.size()));
    if (!isAlike(text) && inWords(word) == text)
      missing.insert(text);
  }

private slots:
  void cleanup()
  {
    window_.reset();
    speak("en");
    QSettings().remove("language");
  }

  /// Given the sources, then each of their texts stands in the list of translations, with the same places for names.
  void nothingOfTheWindowIsMissing()
  {
    QProcess words;
    words.start("python3", {QString(KILN_SOURCE_DIR) + "/scripts/words", "--check"});
    QVERIFY(words.waitForFinished(childTime));
    QVERIFY2(words.exitCode() == 0, words.readAllStandardOutput().constData());
  }

  /// Given projects of all kinds of objects, then labels, hints and choices of every field have their word.
  void nothingOfTheModelIsMissing()
  {
    speak("de");
    std::set<QString> missing;
    std::size_t seen = 0;
    constexpr unsigned projects = 60;
    for (unsigned seed = 1; seed <= projects; ++seed) {
      Project project = test::randomProject(seed);
      for (const Field& field : settings(project)) {
        ++seen;
        if (field.label.find(", step ") == std::string::npos)
          miss(missing, field.label);
        miss(missing, field.help);
        miss(missing, field.usually);
        for (const KindSpec& kind : field.choice.kinds)
          miss(missing, kind.label), miss(missing, kind.help);
        if (field.reference)
          miss(missing, field.reference->nothing), miss(missing, field.reference->othersShown);
      }
    }
    for (std::size_t q = 0; q < std::size(describing::quantityKinds); ++q)
      miss(missing, quantityName(static_cast<Quantity>(q)));
    QVERIFY(seen > 10000);
    QStringList list(missing.begin(), missing.end());
    QVERIFY2(list.isEmpty(), qPrintable(list.join("\n")));
  }

  /// Given sentences of the core, then they are known whole, by their pattern, and one after the other.
  void sentences_data()
  {
    QTest::addColumn<QString>("english");
    QTest::addColumn<QString>("german");
    QTest::newRow("whole") << "It has no material."
                           << "Es hat keinen Werkstoff.";
    QTest::newRow("with a name") << "Part Lid has no emissivity."
                                 << "Teil Lid hat keinen Emissionsgrad.";
    QTest::newRow("two") << "There is no such file. Choose another."
                         << "Diese Datei gibt es nicht. Wählen Sie eine andere.";
    QTest::newRow("with its object") << "part Lid: It has no material. Choose a material for it."
                                     << "Teil Lid: Es hat keinen Werkstoff. Wählen Sie einen Werkstoff dafür.";
    QTest::newRow("words within") << "Enter a heat flux such as 3 kW/m²."
                                  << "Geben Sie eine Wärmestromdichte ein, zum Beispiel 3 kW/m².";
    QTest::newRow("a place") << "top, front left"
                             << "oben, vorn links";
    QTest::newRow("a name that is a word, too") << "part Body: It has no material."
                                                << "Teil Body: Es hat keinen Werkstoff.";
    QTest::newRow("a name in small letters") << "part air"
                                             << "Teil air";
    QTest::newRow("a name in a sentence") << "Part Cone has no emissivity."
                                          << "Teil Cone hat keinen Emissionsgrad.";
    QTest::newRow("not known") << "Something nobody said."
                               << "Something nobody said.";
  }
  void sentences()
  {
    QFETCH(const QString, english);
    QFETCH(const QString, german);
    speak("de");
    QCOMPARE(inWords(english.toStdString()), german);
    QCOMPARE(inWords(english.toStdString()), german); // and again, as it is kept
    speak("en");
    QCOMPARE(inWords(english.toStdString()), english);
  }

  /// Given an error, then object, problem and remedy are told in this order.
  void errors()
  {
    speak("de");
    const Failure failure{Failure::Kind::NotReady, "contact A | B", "It has no material.", "Choose one.", {}, {}};
    QVERIFY2(inWords(failure).endsWith("Es hat keinen Werkstoff. Wählen Sie einen."), qPrintable(inWords(failure)));
    QVERIFY2(inWords(failure).startsWith("Kontakt A | B: "), qPrintable(inWords(failure)));
  }

  /// Given numbers of things, then one and several have their form, in both languages.
  void several()
  {
    speak("en");
    QCOMPARE(QCoreApplication::translate("kiln::SurfaceSentence", "%n face(s)", nullptr, 1), "1 face");
    QCOMPARE(QCoreApplication::translate("kiln::SurfaceSentence", "%n face(s)", nullptr, 3), "3 faces");
    speak("de");
    QCOMPARE(QCoreApplication::translate("kiln::SurfaceSentence", "%n face(s)", nullptr, 1), "1 Fläche");
    QCOMPARE(QCoreApplication::translate("kiln::SurfaceSentence", "%n face(s)", nullptr, 3), "3 Flächen");
  }

  /// Given the demo in a German window, then menus, bands, pages and watches are German, and what the user named stays.
  void theWindow()
  {
    speak("de");
    open();
    window_->openFile(QString(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    QStringList menus;
    for (const QAction* action : window_->menuBar()->actions())
      menus << QString(action->text()).remove('&');
    QCOMPARE(menus, QStringList({"Datei", "Bearbeiten", "Lösen", "Netz", "Ansicht", "Hilfe"}));
    QStringList seen;
    for (const QLabel* label : window_->findChildren<QLabel*>())
      seen << label->text();
    for (const char* word : {"WÄRME HINEIN", "TEILE", "KONTAKTE", "UMGEBUNG", "MESSWERTE"})
      QVERIFY2(seen.contains(word), word);
    QVERIFY(seen.contains("Coils, hottest")); // the user's own
    QCOMPARE(find<QTabBar>("stripPages")->tabText(0), "Zeit");
  }

  /// Given a heat source opened there, then its fields are called by German words.
  void aRow()
  {
    speak("de");
    open();
    window_->openFile(QString(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    window_->revealObject("coil-power");
    const auto labels = [&] {
      QStringList words;
      for (const QLabel* label : window_->findChildren<QLabel*>())
        if (label->isVisible())
          words << label->text();
      return words;
    };
    QTRY_VERIFY2(labels().contains("Leistung"), qPrintable(labels().join(" | ")));
  }

  /// Given the choice in the menu, then it is kept for the next start, and says so.
  void chosenInTheMenu()
  {
    open();
    QCOMPARE(chosenLanguage(), QString());
    QAction* german = nullptr;
    for (QMenu* menu : window_->findChildren<QMenu*>())
      for (QAction* action : menu->actions())
        if (action->text() == "Deutsch")
          german = action;
    QVERIFY(german != nullptr);
    german->trigger();
    QCOMPARE(chosenLanguage(), QString("de"));
    QVERIFY(german->isChecked());
  }
};

} // namespace kiln

int main(int argc, char** argv) { return kiln::runWindowTests<kiln::LanguageTest>(argc, argv); }

#include "tst_language.moc"
