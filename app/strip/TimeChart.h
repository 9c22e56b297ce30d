// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "io/LogFile.h"
#include "look/Preferences.h"

#include <QColor>
#include <QPainterPath>
#include <QWidget>
#include <set>

namespace kiln
{

inline constexpr double timeAxisHeight = 18; // pixels
inline constexpr double timeLaneHeight = 18;

/// Traces of a run against time: watched temperatures with their limits, lanes of source powers and watched heat below,
/// marks of what happened, the playhead. The left button moves the playhead, with Shift it drags a window whose heat is
/// summed; the wheel zooms in time, the right button drags what is shown from then on, a double click shows all.
class TimeChart : public QWidget
{
  Q_OBJECT

public:
  TimeChart(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  struct Trace {
    std::string id;
    QString name;
    QColor color;
    bool shown = true;
  };
  [[nodiscard]] const std::vector<Trace>& traces() const { return traces_; }
  void setTraceShown(const std::string& id, bool shown);
  void setLogTime(bool on);
  /// The same watches of other cases, dashed: those selected with the shown one, else the compared one.
  void setOthersShown(bool on);
  /// Names of the cases that are drawn besides the shown one.
  [[nodiscard]] QStringList othersShown() const;
  void fit();
  /// Lays logged temperatures over the computed ones. \param offset  s, added to the logged times
  void setMeasured(std::vector<LoggedColumn> measured, double offset);
  [[nodiscard]] const std::vector<LoggedColumn>& measured() const { return measured_; }
  /// How far the computed trace that is meant (of the same name, else the nearest) is from each logged one.
  [[nodiscard]] QStringList misfits() const;
  /// Heat that entered, left and was stored between two instants, in words; empty without a dragged window.
  [[nodiscard]] QString windowText() const;
  /// Pixel of an instant and back, s.
  [[nodiscard]] double xOf(double time) const;
  [[nodiscard]] double timeAt(double x) const;
  [[nodiscard]] QRectF plot() const;
  [[nodiscard]] QSize minimumSizeHint() const override { return {200, 120}; }

public slots:
  void refresh();

signals:
  void tracesChanged();

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void leaveEvent(QEvent* event) override;

private:
  [[nodiscard]] const RunRecord* record() const;
  struct Other {
    QString name;
    std::shared_ptr<const RunRecord> run;
  };
  [[nodiscard]] std::vector<Other> findOthers() const;
  [[nodiscard]] QPainterPath pathOf(const RunRecord& run, const std::string& watch) const;
  void paintOthers(QPainter& painter) const;
  [[nodiscard]] double shownTemperature(double kelvin) const;
  [[nodiscard]] double yOf(double kelvin) const;
  /// A quantity drawn below the traces on a scale of its own.
  struct Lane {
    enum class Kind { Source, Watch, Schedule };
    Kind kind;
    std::string id;
    QString name;
    Quantity quantity;
    std::vector<std::pair<double, double>> course; ///< s, SI
  };
  [[nodiscard]] std::vector<Lane> findLanes() const;
  [[nodiscard]] std::optional<Lane> laneOf(const Parameter& parameter) const;
  void findRange();
  void paintGrid(QPainter& painter) const;
  void paintTraces(QPainter& painter) const;
  void paintLimits(QPainter& painter) const;
  void paintLanes(QPainter& painter) const;
  void paintLane(QPainter& painter, const Lane& lane, const QRectF& place) const;
  [[nodiscard]] QString wordsOf(const Lane& lane) const;
  [[nodiscard]] QString markText(const RunMark& mark) const;
  void paintMarks(QPainter& painter) const;
  void paintPlayhead(QPainter& painter) const;
  void paintReadout(QPainter& painter) const;
  void paintMeasured(QPainter& painter) const;
  void paintWindow(QPainter& painter) const;
  [[nodiscard]] std::optional<double> markAt(const QPointF& pixel) const;

  Document& document_;
  Preferences& preferences_;
  std::vector<Trace> traces_;
  std::set<std::string> hidden_;
  double from_ = 0, to_ = 1;  ///< shown time, s
  double low_ = 0, high_ = 1; ///< shown temperature, in the unit shown
  bool fitted_ = true, log_ = false, withOthers_ = false;
  std::vector<Other> others_;
  std::optional<double> pointer_; ///< pixel x under the pointer
  std::vector<LoggedColumn> measured_;
  double offset_ = 0;                               ///< s
  std::optional<std::pair<double, double>> window_; ///< s, dragged with Shift
  std::optional<std::pair<double, double>> zoom_;   ///< s, while it is dragged
  std::vector<Lane> lanes_;
};

/// "2 h 40 min", in steps that read well.
[[nodiscard]] double roundTimeStep(double span, int most);

} // namespace kiln
