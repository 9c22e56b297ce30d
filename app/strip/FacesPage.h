// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace kiln
{

/// The strip's page Faces: the heat through every face of the model by the ledger, beside what the heat flux at it
/// says; of an insulated face the latter is what is left over. A click lights the face.
class FacesPage : public QWidget
{
  Q_OBJECT

public:
  explicit FacesPage(Document& document, QWidget* parent = nullptr);

protected:
  void showEvent(QShowEvent* event) override;

private:
  void refresh();
  void fill(const CaseResult& result);

  Document& document_;
  QTableWidget* table_;
  QLabel* sum_;
  std::shared_ptr<const CaseResult> filledOf_;
};

} // namespace kiln
