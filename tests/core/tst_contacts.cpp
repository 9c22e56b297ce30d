// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Contacts of a part of an interface beside one of the whole pair, and contacts that claim the same faces.
#include "TestProjects.h"
#include "geometry/TouchingPairs.h"
#include "io/ProjectFile.h"
#include "model/OwnValues.h"

#include <QTest>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double side = 0.04;   // m
constexpr double inner = 0.02;  // m, side of the spot in the middle of the interface
constexpr double watts = 6;     // through it
constexpr double dense = 1e6;   // W/(m·K): each part is as warm all over
constexpr double around = 80;   // W/(m²·K)
constexpr double within = 2000; // W/(m²·K)

/// Two blocks on each other; the face between them is divided into a spot and what is around it.
Project spotted(bool secondOrder)
{
  Project p = projectWith(0.01);
  p.mesh.secondOrder = secondOrder;
  p.materials = {material("dense", dense)};
  p.parts = {part("low", "dense", block(side, side, 0.01)),
             part("high", "dense", block(side, side, 0.01), Vec3(0, 0, 0.01))};
  p.parts[0].steps = {
      {"spot", SplitFace{"low.top", SplitByRectangle{number(0), number(0), number(inner), number(inner)}}, {}}};
  p.surfaces = {surface("under", {"low.bottom"}), surface("over", {"high.top"}), surface("spot", {"low.spot.inside"}),
                surface("rest", {"low.spot.outside"})};
  p.sources = {source("heat", SurfacePower{"over", number(watts)})};
  p.boundaries = {boundary("cold", FixedSurface{"under", number(300)})};
  p.contacts = {contact("low", "high", AreaConductance{number(around)})};
  p.watches = {watch("hot", PartFigure{PartFigure::Kind::Mean, {"high"}}), watch("across", ContactHeat{"high", "low"})};
  return p;
}

Contact onSpot(const std::string& surface = "spot")
{
  Contact paste = contact("high", "low", AreaConductance{number(within)});
  paste.id = "paste";
  paste.name = "Paste";
  paste.surface = surface;
  return paste;
}

constexpr auto Error = Finding::Severity::Error;
constexpr auto Hint = Finding::Severity::Hint;

std::vector<Finding> allFindings(const Project& p)
{
  std::vector<Finding> findings = checkModel(p);
  for (Finding& more : checkOnGeometry(p, buildGeometry(p)->table))
    findings.push_back(std::move(more));
  return findings;
}

} // namespace

class ContactsTest : public QObject
{
  Q_OBJECT

private slots:
  void bothConductancesCountSideBySide_data()
  {
    QTest::addColumn<bool>("second");
    QTest::addColumn<bool>("whole");
    for (const bool second : {false, true})
      for (const bool whole : {true, false})
        QTest::addRow("order %d, %s", second ? 2 : 1, whole ? "the rest by the pair" : "the rest by a surface")
            << second << whole;
  }
  /// The parts are as warm all over, so that P = ΔT (h₁ A₁ + h₂ A₂).
  void bothConductancesCountSideBySide()
  {
    QFETCH(bool, second);
    QFETCH(bool, whole);
    Project p = spotted(second);
    p.contacts.push_back(onSpot());
    if (!whole)
      p.contacts[0].surface = "rest";
    QVERIFY(!hasErrors(allFindings(p)));
    const CaseResult result = solve(p);
    const double spot = inner * inner;
    const double rise = watts / (within * spot + around * (side * side - spot));
    QVERIFY2(std::abs(valueOf(p, result, "hot") - 300 - rise) < 1e-3 * rise,
             qPrintable(QString("%1, not %2 K").arg(valueOf(p, result, "hot") - 300).arg(rise)));
    QVERIFY(std::abs(valueOf(p, result, "across") - watts) < 1e-6 * watts); // of the whole pair
    QVERIFY(result.relativeImbalance() < 1e-6);
    // Each piece by itself: P = ΔT h A, in the direction of its contact.
    double sum = 0;
    for (const ContactPiece& piece : contactPieces(p, result.mesh.geometry)) {
      const bool isSpot = piece.contact->surface == "spot";
      const double own = heatThrough(result, piece.faces, piece.contact->partA);
      const double byHand = isSpot ? rise * within * spot : rise * around * (side * side - spot);
      QVERIFY2(std::abs(std::abs(own) - byHand) < 2e-3 * watts, qPrintable(QString::number(own)));
      sum += std::abs(own);
    }
    QVERIFY(std::abs(sum - watts) < 1e-6 * watts);
  }

  void aPerfectSpotInAnInsulatedInterfaceCarriesAll()
  {
    Project p = spotted(true);
    p.contacts[0].exchange = NoContact{};
    p.contacts.push_back(onSpot());
    p.contacts[1].exchange = PerfectContact{};
    const CaseResult result = solve(p);
    QVERIFY(std::abs(valueOf(p, result, "across") - watts) < 1e-6 * watts);
    QVERIFY(std::abs(valueOf(p, result, "hot") - 300) < 0.01);
  }

  void aContactThatIsSwitchedOff_data()
  {
    QTest::addColumn<int>("off"); // which of the two: of the pair, of the spot
    QTest::newRow("of the pair") << 0;
    QTest::newRow("of the spot") << 1;
    QTest::newRow("both") << 2;
  }
  /// A contact that a case switches off counts as if it were not there: where the parts touch heat passes freely, and
  /// the faces of a spot fall to the contact of the pair.
  void aContactThatIsSwitchedOff()
  {
    QFETCH(int, off);
    Project p = spotted(false);
    p.contacts.push_back(onSpot());
    Case one = p.cases.front();
    one.id = one.name = "off";
    for (int i = 0; i < 2; ++i)
      if (off == i || off == 2)
        one.changes.push_back({p.contacts[static_cast<std::size_t>(i)].id + ".muted", true});
    Project seen = *projectForCase(p, one);
    QVERIFY(!hasErrors(allFindings(seen)));
    const double rise = valueOf(seen, solve(seen), "hot") - 300;
    const double byHand = off == 1 ? watts / (around * side * side) : 0;
    QVERIFY2(std::abs(rise - byHand) < (off == 1 ? 1e-3 * byHand : 0.01), qPrintable(QString::number(rise)));
    QCOMPARE(mentions(allFindings(seen), Hint, {"switched off", "freely"}), off != 1);
    QVERIFY(std::abs(valueOf(p, solve(p), "hot") - 300) > 1); // the project's own keeps both
  }

  /// Of two contacts of one pair the one that is on counts, whichever comes first; it is no error that there are two.
  void anAlternativeThatIsOff()
  {
    for (const std::size_t off : {std::size_t(0), std::size_t(1)}) {
      Project p = spotted(false);
      Contact other = contact("low", "high", AreaConductance{number(2 * around)});
      other.id = other.name = "aged";
      p.contacts.push_back(other);
      QVERIFY(mentions(allFindings(p), Error, {"already joins"}));
      p.contacts[off].muted = true;
      QVERIFY(!hasErrors(allFindings(p)));
      const double byHand = watts / ((off == 0 ? 2 : 1) * around * side * side);
      QVERIFY(std::abs(valueOf(p, solve(p), "hot") - 300 - byHand) < 1e-3 * byHand);
    }
  }

  void thePiecesMakeUpThePair()
  {
    Project p = spotted(false);
    p.contacts.push_back(onSpot());
    const FaceTable table = buildGeometry(p)->table;
    std::vector<ContactClash> clashes;
    const auto pieces = contactPieces(p, table, &clashes);
    QCOMPARE(pieces.size(), std::size_t{2});
    QVERIFY(clashes.empty());
    QVERIFY(pieces[0].contact == &p.contacts[0] && pieces[1].contact == &p.contacts[1]);
    QVERIFY(std::abs(pieces[1].area - inner * inner) < 1e-12);
    QVERIFY(std::abs(pieces[0].area + pieces[1].area - side * side) < 1e-12);
    p.contacts.erase(p.contacts.begin()); // what nothing is set for is perfect, and said
    QVERIFY(mentions(allFindings(p), Hint, {"low | high", "perfect only because nothing was set"}));
  }

  void contactsThatClaimTheSameFacesAreNamedBoth()
  {
    Project p = spotted(false);
    p.contacts.push_back(onSpot());
    p.contacts.push_back(onSpot());
    p.contacts[2].id = "glue";
    p.contacts[2].name = "Glue";
    QVERIFY(mentions(allFindings(p), Error, {"contact Glue", "contact Paste", "both claim 0.0004 m²"}));
    p.contacts[2].surface = "rest"; // now the pair as a whole has nothing left
    QVERIFY(!hasErrors(allFindings(p)));
    p.contacts[2].surface.clear();
    QVERIFY(mentions(allFindings(p), Error, {"contact Glue", "already joins these parts"}));
  }

  void aContactOnFacesThatThePartsDoNotShareSaysSo()
  {
    Project p = spotted(false);
    p.contacts.push_back(onSpot("over"));
    QVERIFY(mentions(allFindings(p), Hint, {"contact Paste", "does nothing"}));
    p.contacts[1].surface = "gone";
    QVERIFY(mentions(allFindings(p), Error, {"contact Paste", "gone", "does not exist"}));
  }

  void theSurfaceOfAContactIsKept()
  {
    Project p = spotted(false);
    p.contacts.push_back(onSpot());
    const auto again = readProject(writeProject(p), "again");
    QVERIFY(again && *again == p);
  }
};

QTEST_GUILESS_MAIN(ContactsTest)
#include "tst_contacts.moc"
