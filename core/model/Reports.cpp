// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Reports.h"

namespace kiln
{

std::vector<ReportSection> usualSections()
{
  std::vector<ReportSection> sections;
  const auto add = [&](ReportTopic topic, const std::string& title = {}) {
    ReportSection section;
    section.id = "s" + std::to_string(sections.size() + 1);
    section.topic = topic;
    section.title = title;
    sections.push_back(std::move(section));
  };
  add(ReportTopic::Words, "Purpose");
  add(ReportTopic::Figures);
  add(ReportTopic::Views);
  for (std::size_t i = 1; i < describing::reportTopics.size(); ++i) { // all others as they stand in the list
    const auto topic = static_cast<ReportTopic>(i);
    if (topic != ReportTopic::Figures && topic != ReportTopic::Views)
      add(topic);
  }
  add(ReportTopic::Words, "Conclusion");
  return sections;
}

} // namespace kiln
