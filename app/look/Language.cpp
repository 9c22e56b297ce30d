// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "look/Language.h"

#include <QCoreApplication>
#include <QFile>
#include <QHash>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLibraryInfo>
#include <QLocale>
#include <QRegularExpression>
#include <QSettings>
#include <QTranslator>
#include <algorithm>
#include <memory>
#include <vector>

namespace kiln
{
namespace
{

constexpr auto settingsKey = "language";

/// What the sources say, by what they say alone: wherever it stands, it means the same.
class BySource final : public QTranslator
{
public:
  [[nodiscard]] QString translate(const char* /*context*/, const char* source, const char* disambiguation,
                                  int count) const override
  {
    return QTranslator::translate("kiln", source, disambiguation, count);
  }
};

/// What the core says: whole, or by patterns with %1, %2 … for names and numbers.
class CoreWords
{
public:
  void read(const QString& file)
  {
    *this = {};
    QFile source(file);
    if (!source.open(QIODevice::ReadOnly))
      return;
    const QJsonObject all = QJsonDocument::fromJson(source.readAll()).object();
    for (auto each = all.begin(); each != all.end(); ++each)
      each.key().contains('%') && QRegularExpression("%\\d").match(each.key()).hasMatch()
          ? addPattern(each.key(), each.value().toString())
          : void(whole_.insert(each.key(), each.value().toString()));
    std::sort(patterns_.begin(), patterns_.end(), [](const Pattern& a, const Pattern& b) { return a.fixed > b.fixed; });
  }

  [[nodiscard]] QString translated(const QString& text)
  {
    if (whole_.isEmpty() || text.isEmpty())
      return text;
    if (const auto found = known_.constFind(text); found != known_.constEnd())
      return *found;
    constexpr int most = 20000;
    if (known_.size() > most)
      known_.clear();
    return *known_.insert(text, anew(text));
  }

private:
  struct Pattern {
    QRegularExpression expression;
    std::vector<int> places; ///< which %k stands at each capture
    QString target;
    qsizetype fixed = 0;  ///< letters that are given
    bool ofName = false;  ///< "part %1": what stands there is what the user calls it
    bool ofLabel = false; ///< "%1 x": along an axis
  };

  /// Not a name, which begins with a capital: of the program's own words only sentences do.
  static bool isOwnWord(const QString& text)
  {
    return !text.isEmpty() && (!text[0].isUpper() || QString(".!?").contains(text.back()));
  }

  void addPattern(const QString& source, const QString& target)
  {
    static const QRegularExpression place("%(\\d)");
    Pattern pattern;
    pattern.target = target;
    QString expression;
    qsizetype done = 0;
    for (auto each = place.globalMatch(source); each.hasNext();) {
      const auto match = each.next();
      expression += QRegularExpression::escape(source.mid(done, match.capturedStart() - done)) + "(.*?)";
      pattern.places.push_back(match.captured(1).toInt());
      done = match.capturedEnd();
    }
    expression += QRegularExpression::escape(source.mid(done));
    pattern.expression.setPattern("\\A" + expression + "\\z");
    pattern.expression.setPatternOptions(QRegularExpression::DotMatchesEverythingOption);
    QString letters = source;
    pattern.fixed = letters.remove(place).size();
    static const QRegularExpression ofName("\\A[a-z ]+ %1\\z");
    pattern.ofName = ofName.match(source).hasMatch();
    pattern.ofLabel = QStringList{"%1 x", "%1 y", "%1 z"}.contains(source);
    patterns_.push_back(std::move(pattern));
  }

  [[nodiscard]] QString anew(const QString& text)
  {
    if (const auto found = whole_.constFind(text); found != whole_.constEnd())
      return *found;
    if (QString filled = byPattern(text); !filled.isEmpty())
      return filled;
    return inPieces(text);
  }

  [[nodiscard]] QString byPattern(const QString& text)
  {
    for (const Pattern& pattern : patterns_) {
      const auto match = pattern.expression.match(text);
      if (!match.hasMatch() || (pattern.ofName && match.captured(1).contains(": ")))
        continue;
      QString filled;
      for (qsizetype i = 0; i < pattern.target.size(); ++i) {
        const bool place = pattern.target[i] == '%' && i + 1 < pattern.target.size() && pattern.target[i + 1].isDigit();
        if (!place) {
          filled += pattern.target[i];
          continue;
        }
        const auto at = std::find(pattern.places.begin(), pattern.places.end(), pattern.target[++i].digitValue());
        const auto capture = static_cast<int>(at - pattern.places.begin()) + 1;
        const QString captured = match.captured(capture);
        filled += pattern.ofLabel || (!pattern.ofName && isOwnWord(captured)) ? translated(captured) : captured;
      }
      return filled;
    }
    return {};
  }

  /// Sentence by sentence, and what stands before a colon by itself.
  [[nodiscard]] QString inPieces(const QString& text)
  {
    static const QRegularExpression border("(?<=[.!?])\\s+(?=[\\p{Lu}“])");
    if (const auto match = border.match(text); match.hasMatch())
      return translated(text.left(match.capturedStart())) + " " + translated(text.mid(match.capturedEnd()));
    if (const qsizetype colon = text.indexOf(": "); colon > 0 && colon + 2 < text.size())
      return translated(text.left(colon)) + ": " + translated(text.mid(colon + 2));
    return text;
  }

  QHash<QString, QString> whole_, known_;
  std::vector<Pattern> patterns_;
};

CoreWords& coreWords()
{
  static CoreWords words;
  return words;
}

} // namespace

QList<QPair<QString, QString>> languages() { return {{"en", "English"}, {"de", "Deutsch"}}; }

QString chosenLanguage() { return QSettings().value(settingsKey).toString(); }

void chooseLanguage(const QString& code) { QSettings().setValue(settingsKey, code); }

namespace
{

QString& spokenNow()
{
  static QString code = "en";
  return code;
}

} // namespace

QString spokenLanguage() { return spokenNow(); }

void speak(const QString& code)
{
  static BySource ours;
  static QTranslator toolkit;
  const QString wanted = code.isEmpty() ? QLocale::system().name().section('_', 0, 0) : code;
  QCoreApplication::removeTranslator(&ours);
  QCoreApplication::removeTranslator(&toolkit);
  coreWords().read(":/words/core_" + wanted + ".json");
  if (toolkit.load("qtbase_" + wanted, QLibraryInfo::path(QLibraryInfo::TranslationsPath)))
    QCoreApplication::installTranslator(&toolkit);
  const bool known = ours.load(":/words/usual-kiln_" + wanted + ".qm");
  spokenNow() = known ? wanted : "en";
  if (known || ours.load(":/words/usual-kiln_en.qm"))
    QCoreApplication::installTranslator(&ours);
}

QString inWords(std::string_view text)
{
  return coreWords().translated(QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size())));
}

QString inWords(const Failure& failure)
{
  const QString problem = inWords(failure.problem) + (failure.remedy.empty() ? "" : " " + inWords(failure.remedy));
  return failure.object.empty() ? problem : inWords(failure.object) + ": " + problem;
}

} // namespace kiln
