// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "questions/QuestionAnswer.h"
#include "report/ReportContent.h"
#include "scene/ScenePanel.h"

#include <memory>

namespace kiln
{

/// Makes the pictures of a report, in the colours of paper, of what the document shows.
class ReportPictures
{
public:
  /// \param scene  may be nullptr: there are no pictures of the model then
  ReportPictures(Document& document, Preferences& preferences, ScenePanel* scene)
      : document_(document), preferences_(preferences), scene_(scene)
  {
  }

  /// The model as one of the project's views shows it; it stays so.
  [[nodiscard]] std::optional<ReportPicture> view(const View& view) const;
  /// The model as it is seen now.
  [[nodiscard]] std::optional<ReportPicture> scene() const;
  /// Curves of the shown run.
  [[nodiscard]] ReportPicture course() const;
  /// Temperatures along a line of the project.
  [[nodiscard]] ReportPicture line(const Line& line) const;
  [[nodiscard]] ReportPicture paths() const;
  [[nodiscard]] std::optional<ReportPicture> answer(const Question& question, const QuestionAnswer& answer,
                                                    const Project& seen) const;

private:
  [[nodiscard]] static ReportPicture drawn(QWidget& widget, const QString& caption);

  Document& document_;
  Preferences& preferences_;
  ScenePanel* scene_;
};

} // namespace kiln
