// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The best of: a search for the least or the most of a figure, on functions whose best is known.
#include "TestProjects.h"

#include "questions/BestOf.h"

#include <QTest>

using namespace kiln;
using namespace kiln::test;

namespace
{

AskedAxis numbers(double low, double high, double set, bool whole = false)
{
  AskedAxis axis;
  axis.label = "number";
  axis.isRange = true;
  axis.low = low;
  axis.high = high;
  axis.set = set;
  axis.whole = whole;
  return axis;
}

AskedAxis listed(std::vector<std::string> words)
{
  AskedAxis axis;
  axis.label = "list";
  for (const std::string& word : words)
    axis.values.emplace_back(word);
  axis.words = std::move(words);
  return axis;
}

/// Watches "cost" and "stress", the second with a limit where one is given.
Project watching(std::optional<double> limit = std::nullopt)
{
  Project p = projectWith(0.1);
  p.watches = {watch("cost", PointFigure{}), watch("stress", PointFigure{})};
  if (limit)
    p.watches[1].upper = number(*limit);
  return p;
}

double numberOf(const OwnValue& value) { return std::get<Property>(value).si; }

/// Answers by functions of the point, and counts.
struct Functions {
  std::function<double(const AskedPoint&)> cost;
  std::function<double(const AskedPoint&)> stress = [](const AskedPoint&) { return 0.0; };
  int asked = 0;
  int stopAfter = 1'000'000;

  std::vector<PointAnswer> operator()(const std::vector<AskedPoint>& points)
  {
    std::vector<PointAnswer> answers;
    for (const AskedPoint& point : points) {
      if (++asked > stopAfter)
        return answers;
      answers.push_back({{}, {{"cost", cost(point), {}, {}, {}}, {"stress", stress(point), {}, {}, {}}}, {}, 0, false});
    }
    return answers;
  }
};

BestAnswer best(const Project& seen, const AskBest& ask, const std::vector<AskedAxis>& axes, Functions& functions)
{
  return searchBest(seen, ask, axes, std::ref(functions), [](const BestAnswer&) {});
}

AskBest least(int budget, bool everywhere = false)
{
  AskBest ask;
  ask.watch = "cost";
  ask.budget = number(budget);
  ask.everywhere = everywhere;
  return ask;
}

} // namespace

class BestTest : public QObject
{
  Q_OBJECT

private slots:
  /// A bowl with its least at (3, −1).
  void aBowl()
  {
    Functions bowl{[](const AskedPoint& at) {
      return 1 + std::pow(numberOf(at[0]) - 3, 2) + 4 * std::pow(numberOf(at[1]) + 1, 2);
    }};
    const BestAnswer found = best(watching(), least(80), {numbers(0, 10, 8), numbers(-5, 5, 4)}, bowl);
    QVERIFY2(found.best.has_value(), found.words.c_str());
    const BestStep& step = found.steps[*found.best];
    QVERIFY2(std::abs(numberOf(step.point[0]) - 3) < 0.05 && std::abs(numberOf(step.point[1]) + 1) < 0.05,
             found.words.c_str());
    QVERIFY(bowl.asked <= 80);
  }

  /// The most of what a limit allows lies on it: x + y as large as x² + y² ≤ 8 lets it be, at (2, 2).
  void theMostThatALimitAllows()
  {
    Functions sum{[](const AskedPoint& at) { return numberOf(at[0]) + numberOf(at[1]); },
                  [](const AskedPoint& at) { return std::pow(numberOf(at[0]), 2) + std::pow(numberOf(at[1]), 2); }};
    AskBest ask = least(120);
    ask.most = true;
    const BestAnswer found = best(watching(8), ask, {numbers(0, 10, 1), numbers(0, 10, 0.5)}, sum);
    QVERIFY2(found.best.has_value(), found.words.c_str());
    const BestStep& step = found.steps[*found.best];
    QVERIFY2(*step.aim > 4 * 0.99 && *step.margin >= 0, std::to_string(*step.aim).c_str());
    for (const BestStep& other : found.steps)
      QVERIFY(!other.best || *other.margin >= 0); // never one that passes a limit
  }

  /// Two valleys, the deeper one far from what is set: found only by looking everywhere.
  void theDeeperValley()
  {
    const auto valleys = [](const AskedPoint& at) {
      const double x = numberOf(at[0]);
      return 5 - 2 * std::exp(-std::pow(x - 2, 2)) - 3 * std::exp(-std::pow((x - 8) / 0.7, 2));
    };
    Functions here{valleys}, everywhere{valleys};
    const BestAnswer local = best(watching(), least(60), {numbers(0, 10, 2.5)}, here);
    QVERIFY(std::abs(numberOf(local.steps[*local.best].point[0]) - 2) < 0.05);
    const BestAnswer global = best(watching(), least(60, true), {numbers(0, 10, 2.5)}, everywhere);
    QVERIFY2(std::abs(numberOf(global.steps[*global.best].point[0]) - 8) < 0.05, global.words.c_str());
  }

  /// Whole numbers are tried alone, each once; the best is the neighbour that rounding would miss.
  void wholeNumbers()
  {
    Functions steps{[](const AskedPoint& at) {
      const double n = numberOf(at[0]);
      return std::abs(n - 7) + 0.1 * n;
    }};
    const BestAnswer found = best(watching(), least(30), {numbers(1, 20, 15, true)}, steps);
    QCOMPARE(numberOf(found.steps[*found.best].point[0]), 7.0);
    std::set<double> tried;
    for (const BestStep& step : found.steps) {
      QCOMPARE(std::round(numberOf(step.point[0])), numberOf(step.point[0]));
      QVERIFY(tried.insert(numberOf(step.point[0])).second);
    }
  }

  /// Every word of a list, each with numbers of its own.
  void listsAndNumbers()
  {
    Functions both{[](const AskedPoint& at) {
      const bool good = std::get<std::string>(at[0]) == "brick";
      return (good ? 1 : 2) + std::pow(numberOf(at[1]) - (good ? 4 : 6), 2);
    }};
    const BestAnswer found =
        best(watching(), least(90), {listed({"fibre", "brick", "board"}), numbers(0, 10, 5)}, both);
    const BestStep& step = found.steps[*found.best];
    QCOMPARE(std::get<std::string>(step.point[0]), std::string("brick"));
    QVERIFY(std::abs(numberOf(step.point[1]) - 4) < 0.05);
    std::set<std::string> tried;
    for (const BestStep& one : found.steps)
      tried.insert(std::get<std::string>(one.point[0]));
    QCOMPARE(tried.size(), std::size_t{3});
  }

  void listsAlone()
  {
    Functions costs{[](const AskedPoint& at) {
      return static_cast<double>(std::get<std::string>(at[0]).size() + 10 * std::get<std::string>(at[1]).size());
    }};
    const BestAnswer found = best(watching(), least(9), {listed({"fibre", "mud"}), listed({"a", "bb", "ccc"})}, costs);
    QCOMPARE(found.steps.size(), std::size_t{6});
    QCOMPARE(found.steps[*found.best].point, (AskedPoint{std::string("mud"), std::string("a")}));
  }

  /// Where no point keeps every limit, the nearest miss is named.
  void nothingIsAllowed()
  {
    Functions far{[](const AskedPoint& at) { return numberOf(at[0]); },
                  [](const AskedPoint& at) { return 400 + numberOf(at[0]); }};
    const BestAnswer found = best(watching(350), least(40), {numbers(1, 10, 5)}, far);
    QVERIFY(!found.best);
    QVERIFY2(found.words.find("stress") != std::string::npos && found.words.find("51") != std::string::npos,
             found.words.c_str()); // 401 − 350 at the lower end
  }

  void stoppedHalfWay()
  {
    Functions some{[](const AskedPoint& at) { return std::pow(numberOf(at[0]) - 3, 2); }};
    some.stopAfter = 4;
    const BestAnswer found = best(watching(), least(50), {numbers(0, 10, 8)}, some);
    QCOMPARE(found.steps.size(), std::size_t{4});
    QVERIFY(found.best.has_value());
    QVERIFY2(found.words.find("stopped") != std::string::npos, found.words.c_str());
  }

  /// Points that cannot be solved are walked around.
  void someCannotBeSolved()
  {
    int failed = 0;
    const SolvePoints solve = [&](const std::vector<AskedPoint>& points) {
      std::vector<PointAnswer> answers;
      for (const AskedPoint& at : points) {
        const double x = numberOf(at[0]);
        if (x > 7) {
          ++failed;
          answers.push_back({{}, {}, "part fin: It is too thick.", 0, false});
        } else {
          answers.push_back({{}, {{"cost", std::pow(x - 6, 2), {}, {}, {}}}, {}, 0, false});
        }
      }
      return answers;
    };
    const BestAnswer found = searchBest(watching(), least(60), {numbers(0, 10, 1)}, solve, [](const BestAnswer&) {});
    QVERIFY2(std::abs(numberOf(found.steps[*found.best].point[0]) - 6) < 0.1, found.words.c_str());
    const SolvePoints none = [](const std::vector<AskedPoint>& points) {
      return std::vector<PointAnswer>(points.size(), PointAnswer{{}, {}, "part fin: It is too thick.", 0, false});
    };
    QVERIFY(searchBest(watching(), least(10), {numbers(0, 10, 1)}, none, [](const BestAnswer&) {
            }).words.find("too thick") != std::string::npos);
  }

  /// What is no number is no figure, and a limit that cannot be judged is not kept.
  void whatIsNotKnownIsNotKept()
  {
    const SolvePoints solve = [](const std::vector<AskedPoint>& points) {
      std::vector<PointAnswer> answers;
      for (const AskedPoint& at : points) {
        const double x = numberOf(at[0]);
        std::vector<AnsweredFigure> figures{{"cost", x, {}, {}, {}}, {"stress", {}, {}, {}, {}}};
        if (x > 4)
          figures[1].value = 10;
        answers.push_back({{}, figures, {}, 0, false});
      }
      return answers;
    };
    const BestAnswer found = searchBest(watching(50), least(60), {numbers(0, 10, 8)}, solve, [](const BestAnswer&) {});
    QVERIFY2(found.best.has_value(), found.words.c_str());
    QVERIFY2(numberOf(found.steps[*found.best].point[0]) > 4, found.words.c_str()); // not 0, where nothing is known
    for (const BestStep& step : found.steps)
      QVERIFY(!step.best || numberOf(step.point[0]) > 4);
  }

  void aRangeIsNeeded()
  {
    Functions any{[](const AskedPoint&) { return 1.0; }};
    AskedAxis open = numbers(5, 5, 5);
    open.isOpen = true;
    QVERIFY(best(watching(), least(10), {open}, any).words.find("no range") != std::string::npos);
    QCOMPARE(any.asked, 0);
  }
};

QTEST_APPLESS_MAIN(BestTest)
#include "tst_best.moc"
