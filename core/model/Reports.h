// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/SharedText.h"
#include "model/Values.h"

/// Reports: which cases and questions they tell of, in which order, with which words of the user's own.
namespace kiln
{

/// What a section of a report tells.
enum class ReportTopic {
  Words,
  Assumptions,
  Differences,
  Parts,
  HeatIn,
  Surroundings,
  Contacts,
  Mesh,
  Figures,
  Balance,
  HotSpots,
  Views,
  Course,
  Lines,
  Paths,
  Compared,
  Questions,
  Record
};

namespace describing
{
inline constexpr KindSpecs<18> reportTopics{
    {{"words", "Own words", "Purpose, conclusion, whatever is to be said."},
     {"assumptions", "What was assumed", "Everything that was taken by default."},
     {"differences", "What differs between the cases", "Fields that are not the same in all of them."},
     {"parts", "Parts, materials and finishes", "With the sources of their values."},
     {"heatIn", "Heat sources", "With what they gave."},
     {"surroundings", "Boundaries and surroundings", "With their correlations and how far these hold."},
     {"contacts", "Contacts and enclosures", "Between parts, with the heat across."},
     {"mesh", "Mesh, and how sure", "Elements, and what finer meshes said."},
     {"figures", "Figures and limits", "Every watch with its limits, margin and reference."},
     {"balance", "Heat balance", "What entered, left and was stored."},
     {"hotSpots", "Hottest and coldest places", "Of every part, with where they are."},
     {"views", "Pictures", "The views of the project, with legend."},
     {"course", "Course in time", "Of cases that run in time: curves, times to limits."},
     {"lines", "Along lines", "Temperatures along the lines of the project."},
     {"paths", "Heat paths", "From which source to which boundary."},
     {"compared", "Cases compared", "Their figures side by side."},
     {"questions", "Questions", "What was asked, and what came out."},
     {"record", "To compute it again", "Versions, fingerprints, solver and notes."}}};
} // namespace describing

/// One section of a report.
struct ReportSection {
  std::string id;
  ReportTopic topic = ReportTopic::Words;
  std::string title;              ///< empty: what its topic is called
  std::string text;               ///< own words before the rest; {Shell, hottest} stands for that figure
  std::vector<std::string> views; ///< ids, of pictures; none: all
  bool off = false;               ///< it is not printed
  UnknownKeys unknown;
  bool operator==(const ReportSection&) const = default;
};
template <class A>
void describe(A& a, ReportSection& s)
{
  a.text({"id", "", "Of its own within the report."}, s.id);
  a.choice({"topic", "Tells", ""}, s.topic, describing::reportTopics);
  a.optionalText({"title", "Title", "Empty: what it tells.", Stage::Nothing}, s.title);
  a.optionalText({"text", "Words", "{Shell, hottest} stands for that figure.", Stage::Nothing}, s.text);
  a.references({"views", "Views", "None: all of the project.", Refers::View}, s.views);
  a.flag({"off", "Switched off", "It is kept and not printed."}, s.off);
  a.unknown(s.unknown);
}

/// What is told of some cases and questions, and how.
struct Report : Object {
  std::string title, author, organisation, number; ///< of the title block
  SharedText logo;                                 ///< a PNG picture, packed
  std::vector<std::string> cases;                  ///< ids; none: the one that is shown
  std::vector<std::string> questions;              ///< ids
  std::vector<ReportSection> sections;
  bool operator==(const Report&) const = default;
};
template <class A>
void describe(A& a, Report& r)
{
  describeObject(a, r);
  a.optionalText({"title", "Title", "Of the title block; empty: the name of the project.", Stage::Nothing}, r.title);
  a.optionalText({"author", "By", "Who answers for it.", Stage::Nothing}, r.author);
  a.optionalText({"organisation", "Of", "The firm or workshop.", Stage::Nothing}, r.organisation);
  a.optionalText({"number", "Number", "By which it is filed.", Stage::Nothing}, r.number);
  a.longText({"logo", "", "A PNG picture, packed as bodies are.", Stage::Nothing}, r.logo);
  a.references({"cases", "Cases", "None: the one that is shown.", Refers::Case}, r.cases);
  a.references({"questions", "Questions", "", Refers::Question}, r.questions);
  a.list({"sections", "Sections", "In their order."}, r.sections);
  a.unknown(r.unknown);
}

/// The usual sections in the usual order, all of them printed; ids s1, s2, …
[[nodiscard]] std::vector<ReportSection> usualSections();

} // namespace kiln
