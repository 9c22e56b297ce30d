// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Tools under everything else: joined groups, memory in large pages, packed text, work in other processes.
#include "base/InProcesses.h"
#include "base/Joining.h"
#include "base/LargePages.h"
#include "base/PackedText.h"
#include "base/Processors.h"
#include "base/RisingRoot.h"

#include <QTest>
#include <algorithm>
#include <csignal>
#include <cstdint>
#include <numeric>
#include <random>
#include <set>
#include <stdexcept>
#include <sys/resource.h>
#include <unistd.h>

using namespace kiln;

class BaseTest : public QObject
{
  Q_OBJECT

private slots:
  void piecesAreAnsweredByProcessesOfTheirOwn()
  {
    constexpr std::size_t count = 9; // more than there are processors
    int here = 0;
    const auto answers = inProcesses(count, [&](std::size_t piece) {
      ++here;
      return std::string((piece + 1) << 18U, static_cast<char>('a' + piece)); // up to 2 MB: more than a pipe holds
    });
    QCOMPARE(here, 0); // nothing of it is seen
    QCOMPARE(answers.size(), count);
    for (std::size_t piece = 0; piece < count; ++piece) {
      QVERIFY(answers[piece]);
      QCOMPARE(answers[piece]->size(), (piece + 1) << 18U);
      QVERIFY(answers[piece]->find_first_not_of(static_cast<char>('a' + piece)) == std::string::npos);
    }
    QVERIFY(inProcesses(0, [](std::size_t) { return std::string(); }).empty());
  }

  /// A system that gives no more processes: the work is done all the same.
  void withoutProcessesItIsDoneHere()
  {
    rlimit before{};
    QVERIFY(::getrlimit(RLIMIT_NOFILE, &before) == 0);
    rlimit none = before;
    none.rlim_cur = 0; // no pipe, so no process to hear of
    QVERIFY(::setrlimit(RLIMIT_NOFILE, &none) == 0);
    const auto answers = inProcesses(3, [](std::size_t piece) { return std::to_string(piece); });
    QVERIFY(::setrlimit(RLIMIT_NOFILE, &before) == 0);
    for (std::size_t piece = 0; piece < 3; ++piece)
      QVERIFY(answers[piece] && *answers[piece] == std::to_string(piece));
  }

  /// A piece that ends its process, or throws, is one without an answer; the others have theirs.
  void aPieceThatEndsItsProcessIsMissedAlone()
  {
    for (const int processors : {1, 3}) {
      limitProcessors(processors);
      const auto answers = inProcesses(5, [](std::size_t piece) -> std::string {
        if (piece == 1)
          ::raise(SIGKILL);
        if (piece == 2)
          throw std::runtime_error("no");
        if (piece == 3)
          ::_exit(0); // ends well, but says nothing
        return "piece " + std::to_string(piece);
      });
      QVERIFY(answers[0] && *answers[0] == "piece 0");
      QVERIFY(!answers[1] && !answers[2]);
      QVERIFY(answers[3] && answers[3]->empty());
      QVERIFY(answers[4] && *answers[4] == "piece 4");
    }
    limitProcessors(2);
  }

  void aGroupIsKnownByItsSmallestMember()
  {
    Joining joining(7);
    joining.join(5, 3);
    joining.join(6, 5);
    joining.join(1, 2);
    QCOMPARE(joining.find(6), 3U);
    QCOMPARE(joining.find(2), 1U);
    QCOMPARE(joining.find(0), 0U);
    QCOMPARE(joining.find(4), 4U);
    joining.join(2, 6);
    for (const std::size_t member : {1U, 2U, 3U, 5U, 6U})
      QCOMPARE(joining.find(member), 1U);
  }

  /// Against colours that are painted over one by one.
  void groupsDoNotDependOnTheOrderOfJoining()
  {
    constexpr std::size_t many = 300;
    std::mt19937 random(11);
    std::uniform_int_distribution<std::size_t> any(0, many - 1);
    Joining joining(many);
    std::vector<std::size_t> colour(many);
    std::iota(colour.begin(), colour.end(), 0U);
    for (int pair = 0; pair < 220; ++pair) {
      const std::size_t a = any(random);
      const std::size_t b = any(random);
      joining.join(a, b);
      const auto [low, high] = std::minmax(colour[a], colour[b]);
      std::replace(colour.begin(), colour.end(), std::size_t{high}, std::size_t{low});
    }
    for (std::size_t i = 0; i < many; ++i)
      QCOMPARE(joining.find(i), colour[i]);
    QVERIFY(std::set(colour.begin(), colour.end()).size() > 50);
  }

  void aRisingRootIsFoundFromAnyGuess()
  {
    const auto excess = [](double t) { return 2 * t + (t > 300 ? 50.0 : 0.0) - 700; }; // crosses at 325
    for (const double near : {0.0, 1.0, 299.0, 325.0, 326.0, 5000.0, -20.0})
      QVERIFY(std::abs(rootOfRising(excess, near) - 325) < 1e-9);
    QCOMPARE(rootOfRising([](double t) { return t + 5; }, 300), 0.0); // above zero everywhere
    const double jump = rootOfRising([](double t) { return t < 300 ? -1.0 : 1.0; }, 290);
    QVERIFY(std::abs(jump - 300) < 1e-9);
  }

  void largeArraysStartOnAPageAndSmallOnesAsUsual()
  {
    LargeVector<double> values(1'000'000, 2.5); // 8 MB
    QCOMPARE(reinterpret_cast<std::uintptr_t>(values.data()) % (2U << 20U), 0U);
    LargeVector<double> copy = values;
    copy.resize(3'000'000, 1.0);
    QCOMPARE(reinterpret_cast<std::uintptr_t>(copy.data()) % (2U << 20U), 0U);
    QCOMPARE(std::accumulate(copy.begin(), copy.end(), 0.0), 2.5e6 + 2e6);
    copy.resize(10);
    copy.shrink_to_fit();
    values = copy;
    QCOMPARE(values.size(), 10U);
    QCOMPARE(values.back(), 2.5);
  }

  void packedTextComesBackOrIsRefused()
  {
    std::string text;
    for (int i = 0; i < 5000; ++i)
      text += "vertex " + std::to_string(i * 37 % 1013) + "\n";
    const std::string packed = packedText(text);
    QVERIFY(packed.size() < text.size() / 2);
    QCOMPARE(unpackedText(packed).value_or(""), text);
    for (const std::size_t left : {packed.size() - 7, packed.size() / 2, std::size_t{3}})
      QVERIFY2(!unpackedText(packed.substr(0, left)), std::to_string(left).c_str());
    QVERIFY(!unpackedText("*" + packed));
  }
};

QTEST_APPLESS_MAIN(BaseTest)
#include "tst_base.moc"
