// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QFrame>

namespace kiln
{

/// Stands in the scene while the project has no part: what belongs there, and the first things one can do.
class EmptyScene : public QFrame
{
  Q_OBJECT

public:
  /// \param scene  it stands in the middle of
  EmptyScene(Document& document, QWidget* scene);

signals:
  void partWanted(std::size_t kind); ///< of those that the ledger can add
  void geometryWanted();
  void demoWanted();

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  void refresh();
  void place();

  Document& document_;
};

} // namespace kiln
