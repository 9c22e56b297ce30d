// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QWidget>

class QFormLayout;
class QToolButton;

namespace kiln
{

/// What is seldom needed of a form, folded behind one button. Stays as it was left for all forms of its name.
class MoreRows : public QWidget
{
  Q_OBJECT

public:
  /// \param name   of the button, after "more:"
  /// \param title  what it holds: "Accuracy and storing"
  MoreRows(const QString& name, const QString& title, QWidget* parent = nullptr);

  [[nodiscard]] QFormLayout& form() { return *form_; }

private:
  void show(bool open);

  QToolButton* button_;
  QWidget* body_;
  QFormLayout* form_;
};

} // namespace kiln
