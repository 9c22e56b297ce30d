// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What of a queue may start, in which order, and what becomes of what waits for something that fails.
#include "base/Id.h"
#include "base/ProcessMemory.h"
#include "run/JobQueue.h"

#include <QTest>
#include <random>
#include <set>
#include <type_traits>
#include <unistd.h>

using namespace kiln;

namespace
{

// Numbers of different kinds do not become each other, nor does a number become one of them unasked.
using A = Id<struct OfA>;
using B = Id<struct OfB>;
template <class X, class Y>
concept Comparable = requires(X x, Y y)
{
  x == y;
};
static_assert(!std::is_convertible_v<int, A> && !std::is_convertible_v<A, B> && !std::is_constructible_v<A, B>);
static_assert(std::is_convertible_v<A, int> && Comparable<A, A> && Comparable<A, int> && !Comparable<A, B>);

constexpr QueueCapacity plenty{8, 1e15};

QueuedJob job(const std::string& id, std::vector<std::string> after = {})
{
  return {id, std::move(after), QueuedJob::State::Waiting, 0, {}};
}

JobQueue queueOf(const std::vector<QueuedJob>& jobs)
{
  JobQueue queue;
  for (const QueuedJob& one : jobs)
    queue.add(one);
  return queue;
}

std::string orderOf(const JobQueue& queue)
{
  std::string order;
  for (const QueuedJob& one : queue.jobs())
    order += one.id;
  return order;
}

QueuedJob::State stateOf(const JobQueue& queue, const std::string& id) { return queue.find(id)->state; }

} // namespace

class QueueTest : public QObject
{
  Q_OBJECT

private slots:
  void oneAfterTheOther()
  {
    JobQueue queue = queueOf({job("a"), job("b"), job("c")});
    QCOMPARE(*queue.startNext({1, 1e15}), std::string("a"));
    QVERIFY(!queue.startNext({1, 1e15}));
    queue.finish("a");
    QCOMPARE(*queue.startNext({1, 1e15}), std::string("b"));
    queue.finish("b");
    queue.finish(*queue.startNext({1, 1e15}));
    QVERIFY(!queue.isBusy());
    QCOMPARE(queue.count(QueuedJob::State::Done), 3);
  }

  /// Given measured needs, then as many run as fit into free memory with a fifth to spare; before any was measured,
  /// one.
  void asManyAsMemoryAllows()
  {
    JobQueue queue = queueOf({job("a"), job("b"), job("c")});
    QCOMPARE(*queue.startNext({3, 4e9}), std::string("a"));
    QVERIFY(!queue.startNext({3, 4e9})); // nothing is known yet
    queue.measure("a", 1e9);
    QVERIFY(!queue.startNext({3, 1.19e9}));
    QCOMPARE(*queue.startNext({3, 1.21e9}), std::string("b"));
    queue.measure("b", 3e9); // larger than the first one was
    QVERIFY(!queue.startNext({3, 3.5e9}));
    QCOMPARE(*queue.startNext({3, 3.7e9}), std::string("c"));
    queue.measure("c", 1e9);
    QCOMPARE(queue.find("b")->peak, 3e9);
  }

  void onesBeforeWhatStartsFromThem()
  {
    JobQueue queue = queueOf({job("b", {"a"}), job("a"), job("c", {"elsewhere"})});
    QCOMPARE(*queue.startNext(plenty), std::string("a"));
    queue.measure("a", 1);
    QCOMPARE(*queue.startNext(plenty), std::string("c")); // what it waits for is not in the queue: it is there already
    QVERIFY(!queue.startNext(plenty));
    queue.finish("a");
    QCOMPARE(*queue.startNext(plenty), std::string("b"));
  }

  void aFailureHoldsUpOnlyWhatStartsFromIt()
  {
    JobQueue queue = queueOf({job("a"), job("b", {"a"}), job("c", {"b", "a"}), job("d")});
    queue.fail(*queue.startNext(plenty), "it melted", "Case A");
    QCOMPARE(stateOf(queue, "a"), QueuedJob::State::Failed);
    QCOMPARE(queue.find("a")->reason, std::string("it melted"));
    for (const char* left : {"b", "c"}) {
      QCOMPARE(stateOf(queue, left), QueuedJob::State::LeftOut);
      QVERIFY(queue.find(left)->reason.find("Case A") != std::string::npos);
    }
    QCOMPARE(*queue.startNext(plenty), std::string("d"));
  }

  void pausedNothingStarts()
  {
    JobQueue queue = queueOf({job("a"), job("b")});
    QVERIFY(queue.startNext({1, 1e15}));
    queue.pause(true);
    queue.finish("a");
    QVERIFY(!queue.startNext(plenty));
    QVERIFY(queue.isBusy());
    queue.pause(false);
    QCOMPARE(*queue.startNext(plenty), std::string("b"));
  }

  void movedButNotBeforeWhatItStartsFrom()
  {
    JobQueue queue = queueOf({job("a"), job("b"), job("c", {"b"}), job("d")});
    QVERIFY(queue.moveBefore("d", "a"));
    QCOMPARE(orderOf(queue), std::string("dabc"));
    QVERIFY(!queue.moveBefore("c", "a")); // it would pass b
    QVERIFY(!queue.moveBefore("b", ""));  // c would be before it
    QVERIFY(queue.moveBefore("a", ""));
    QCOMPARE(orderOf(queue), std::string("dbca"));
    QVERIFY(!queue.moveBefore("gone", "a") && !queue.moveBefore("a", "gone"));
    static_cast<void>(queue.startNext(plenty));
    QVERIFY(!queue.moveBefore("d", "")); // it runs
  }

  void takenOutOrClearedAway()
  {
    JobQueue queue = queueOf({job("a"), job("b", {"a"}), job("c")});
    QVERIFY(queue.remove("a"));
    QCOMPARE(stateOf(queue, "b"), QueuedJob::State::LeftOut);
    QCOMPARE(*queue.startNext(plenty), std::string("c"));
    QVERIFY(!queue.remove("c")); // it runs
    queue.clearOver();
    QCOMPARE(orderOf(queue), std::string("c"));
    queue.add(job("d"));
    queue.clearWaiting();
    QCOMPARE(orderOf(queue), std::string("c"));
  }

  void addedAgainItIsDoneAgain()
  {
    JobQueue queue = queueOf({job("a")});
    static_cast<void>(queue.startNext(plenty));
    queue.add(job("a")); // it runs already
    QCOMPARE(queue.count(QueuedJob::State::Running), 1);
    queue.finish("a");
    queue.add(job("a"));
    QCOMPARE(queue.jobs().size(), 1U);
    QCOMPARE(*queue.startNext(plenty), std::string("a"));
  }

  /// Given queues by chance, with failures, moves and removals, then every job ends, none before what it starts from.
  void everythingComesToAnEndInOrder()
  {
    std::mt19937 random(7);
    for (int round = 0; round < 200; ++round) {
      JobQueue queue;
      const int count = 3 + static_cast<int>(random() % 12);
      for (int i = 0; i < count; ++i) {
        std::vector<std::string> after;
        for (int j = 0; j < i; ++j)
          if (random() % 4 == 0)
            after.push_back(std::to_string(j));
        queue.add(job(std::to_string(i), after));
      }
      std::set<std::string> ended;
      std::vector<std::string> running;
      for (int steps = 0; queue.isBusy() && steps < 1000; ++steps) {
        if (random() % 5 == 0)
          queue.moveBefore(std::to_string(random() % 12), std::to_string(random() % 12));
        if (const auto next = queue.startNext({1 + static_cast<int>(random() % 3), 1e15})) {
          for (const std::string& before : queue.find(*next)->after)
            QVERIFY2(ended.contains(before), next->c_str());
          running.push_back(*next);
          queue.measure(*next, 1);
        } else if (!running.empty()) {
          const std::string own = running[random() % running.size()];
          std::erase(running, own);
          if (random() % 6 == 0)
            queue.fail(own, "no", own);
          else
            queue.finish(own), ended.insert(own);
        }
      }
      QVERIFY(!queue.isBusy());
    }
  }

  void memoryIsMeasured()
  {
    const double before = peakMemory(::getpid());
    QVERIFY(before > 1e6 && before < 1e12);
    std::vector<char> much(64'000'000, 1);
    QVERIFY(peakMemory(::getpid()) > 64e6 && much.back() == 1);
    QCOMPARE(peakMemory(0x7ffffff0), 0.0); // no such process
    QVERIFY(availableMemory() > 1e7);
  }
};

QTEST_APPLESS_MAIN(QueueTest)
#include "tst_queue.moc"
