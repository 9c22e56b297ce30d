// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/ShownText.h"
#include "model/Fields.h"
#include "model/Formula.h"

#include <QLineEdit>
#include <functional>
#include <optional>

namespace kiln
{

/// A field for one number with its unit. Shows what the user typed; takes any unit of the right kind.
/// While typing it reads the value back; a wrong entry is refused with a sentence and the old value stays.
class QuantityField : public QLineEdit
{
  Q_OBJECT

public:
  QuantityField(Quantity quantity, Range range, QWidget* parent = nullptr);

  void setNumber(const std::optional<Number>& number);
  void setTemperatureUnit(TemperatureUnit unit);
  /// What it holds from now on; the number is set anew after this.
  void setQuantity(Quantity quantity) { quantity_ = quantity; }
  /// A missing number may be left empty; clearing then removes it.
  void setOptional(bool optional) { optional_ = optional; }
  /// Understands formulas too; without one only numbers with units are taken.
  using Reader = std::function<Expected<Entry>(const QString& typed)>;
  void setReader(Reader reader) { reader_ = std::move(reader); }
  [[nodiscard]] const std::optional<Number>& number() const { return number_; }

signals:
  void committed(const kiln::Number& number);
  void cleared();
  /// What the text means now ("1.3 kW = 1300 W"), or why it is refused; empty when there is nothing to say.
  void said(const QString& sentence, bool wrong);

protected:
  void keyPressEvent(QKeyEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;

private:
  void commit();
  [[nodiscard]] Expected<Entry> read(const QString& typed) const;
  void readBack();
  void showNumber();
  void setWrong(bool wrong);

  Quantity quantity_;
  Range range_;
  TemperatureUnit unit_ = TemperatureUnit::Celsius;
  bool optional_ = false;
  Reader reader_;
  std::optional<Number> number_;
};

} // namespace kiln
