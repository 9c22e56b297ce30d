// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QFrame>

class QVBoxLayout;

namespace kiln
{

/// The live list of what is missing or doubtful. A click on a line leads to the place that mends it.
class ReadinessList : public QFrame
{
  Q_OBJECT

public:
  explicit ReadinessList(Document& document, QWidget* parent = nullptr);

  /// Height that shows every line at this width, pixels.
  [[nodiscard]] int heightFor(int width) const;

signals:
  void wanted(const kiln::Finding& finding);
  void mendWanted(const kiln::Mend& mend);

public slots:
  /// To be called before it is shown; while it is, it follows by itself.
  void refresh();

private:
  void refreshIfShown();

  Document& document_;
  QVBoxLayout* lines_;
};

} // namespace kiln
