// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportPictures.h"

#include "look/DrawnWidget.h"
#include "look/Theme.h"
#include "report/ReportWords.h"
#include "results/HeatPaths.h"
#include "strip/AnswerChart.h"
#include "strip/LinePage.h"
#include "strip/PathsPage.h"
#include "strip/TimeChart.h"

#include <QBuffer>

namespace kiln
{

using telling::tr;

namespace
{

constexpr QSize sceneSize(820, 540), chartSize(900, 380), pathsSize(900, 460); // px
constexpr double chartFiner = 2;

std::string pngOf(const QImage& image)
{
  QByteArray bytes;
  QBuffer buffer(&bytes);
  constexpr int fast = 80; // of 100: weakly packed
  image.save(&buffer, "PNG", fast);
  return bytes.toStdString();
}

} // namespace

ReportPicture ReportPictures::drawn(QWidget& widget, const QString& caption)
{
  return {pngOf(drawnAsPixels(widget, chartFiner)), drawnAsSvg(widget, caption).toStdString(), widget.width(),
          widget.height(), caption.toStdString()};
}

std::optional<ReportPicture> ReportPictures::view(const View& view) const
{
  if (scene_ == nullptr)
    return std::nullopt;
  scene_->show(view);
  std::optional<ReportPicture> picture = scene();
  picture->caption = view.name + " · " + picture->caption;
  return picture;
}

std::optional<ReportPicture> ReportPictures::scene() const
{
  if (scene_ == nullptr)
    return std::nullopt;
  const PaperColors paper;
  const QImage image = scene_->picture(sceneSize, Qt::white);
  constexpr int shownWide = 820;
  return ReportPicture{pngOf(image),
                       {},
                       shownWide,
                       shownWide * sceneSize.height() / sceneSize.width(),
                       scene_->pictureCaption().toStdString()};
}

ReportPicture ReportPictures::course() const
{
  const PaperColors paper;
  TimeChart chart(document_, preferences_);
  chart.resize(chartSize);
  chart.refresh();
  const std::string unit = displayUnit(Quantity::Temperature, preferences_.temperatureUnit());
  return drawn(chart, tr("%1: watches in %2, powers and heat below, over time")
                          .arg(document_.caseAndInstant(), QString::fromStdString(unit)));
}

ReportPicture ReportPictures::line(const Line& line) const
{
  const PaperColors paper;
  LinePage page(document_, preferences_);
  page.showLine(line.id);
  page.chart().resize(chartSize);
  const std::string unit = displayUnit(Quantity::Temperature, preferences_.temperatureUnit());
  return drawn(page.chart(),
               tr("%1 · %2: temperature along the line, %3")
                   .arg(QString::fromStdString(line.name), document_.caseAndInstant(), QString::fromStdString(unit)));
}

ReportPicture ReportPictures::paths() const
{
  const PaperColors paper;
  PathsCanvas canvas(document_, preferences_);
  canvas.resize(pathsSize);
  const ShownFigures& figures = *document_.shownFigures();
  const auto result = document_.shownState().result;
  canvas.setPaths(
      heatPaths(document_.shownProject(),
                {figures.paths, figures.contacts, figures.links, figures.nodes, result ? result->heatFloor : 0}, {}));
  return drawn(canvas, tr("%1: from where heat enters to where it leaves, W").arg(document_.caseAndInstant()));
}

std::optional<ReportPicture> ReportPictures::answer(const Question& question, const QuestionAnswer& answer,
                                                    const Project& seen) const
{
  const std::vector<AnswerChart::Kind> kinds = AnswerChart::kindsFor(question, answer);
  const Watch* watch = findById(seen.watches, answer.watch);
  if (watch == nullptr && !seen.watches.empty())
    watch = &seen.watches.front();
  if (kinds.empty() || watch == nullptr)
    return std::nullopt;
  const PaperColors paper;
  AnswerChart chart;
  chart.resize(chartSize);
  chart.show({question, answer, seen, preferences_.temperatureUnit()}, kinds.front(), *watch, *watch);
  return drawn(chart, QString::fromStdString(question.name) + " · " + AnswerChart::nameOf(kinds.front()) + " · " +
                          QString::fromStdString(watch->name));
}

} // namespace kiln
