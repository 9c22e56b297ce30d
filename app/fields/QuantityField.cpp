// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/QuantityField.h"
#include "look/Language.h"

#include <QKeyEvent>
#include <QStyle>

namespace kiln
{

QuantityField::QuantityField(Quantity quantity, Range range, QWidget* parent)
    : QLineEdit(parent), quantity_(quantity), range_(range)
{
  connect(this, &QLineEdit::textEdited, this, &QuantityField::readBack);
  connect(this, &QLineEdit::returnPressed, this, &QuantityField::commit);
}

void QuantityField::setNumber(const std::optional<Number>& number)
{
  if (number_ == number && text().isEmpty() != number.has_value())
    return;
  number_ = number;
  showNumber();
}

void QuantityField::setTemperatureUnit(TemperatureUnit unit)
{
  unit_ = unit;
  showNumber();
}

void QuantityField::showNumber()
{
  setText(!number_           ? QString()
          : number_->formula ? QString::fromStdString(number_->text)
                             : shownText(*number_, quantity_, unit_));
  setModified(false);
  setCursorPosition(0); // the number counts, not the unit
  if (!number_ && placeholderText().isEmpty())
    setPlaceholderText(tr("not set"));
  setWrong(false);
}

void QuantityField::setWrong(bool wrong)
{
  if (property("wrong").toBool() == wrong)
    return;
  setProperty("wrong", wrong);
  style()->unpolish(this);
  style()->polish(this);
}

Expected<Entry> QuantityField::read(const QString& typed) const
{
  return reader_ ? reader_(typed) : readEntry(Project{}, typed.toStdString(), quantity_, unit_);
}

void QuantityField::readBack()
{
  setWrong(false);
  if (text().trimmed().isEmpty()) {
    emit said({}, false);
    return;
  }
  const auto parsed = read(text());
  emit said(parsed ? QString::fromStdString(parsed->readBack) : QString(), false);
}

void QuantityField::commit()
{
  const std::string typed = text().trimmed().toStdString();
  const bool same =
      number_ && (number_->formula ? number_->text == typed
                                   : shownText(*number_, quantity_, unit_).trimmed().toStdString() == typed);
  if (same || isReadOnly()) {
    setWrong(false);
    emit said({}, false);
    return;
  }
  if (typed.empty() && optional_) {
    if (number_) {
      number_.reset();
      emit cleared();
    }
    return;
  }
  const auto parsed = read(text().trimmed());
  QString refusal;
  if (!parsed)
    refusal = inWords(parsed.error());
  else if (const auto wrong = outsideRange(parsed->number.si, range_, quantity_))
    refusal = tr("“%1” %2. The old value is kept.").arg(text().trimmed(), QString::fromStdString(*wrong));
  if (!refusal.isEmpty()) {
    setWrong(true);
    emit said(refusal, true);
    return;
  }
  setWrong(false);
  // A bare number was meant in the unit shown now; say so in the file.
  bool bare = false;
  text().trimmed().toDouble(&bare);
  const std::string unit = displayUnit(quantity_, unit_);
  number_ = parsed->number;
  if (bare && !unit.empty())
    number_->text = typed + " " + unit;
  showNumber();
  emit said({}, false);
  emit committed(*number_);
}

void QuantityField::keyPressEvent(QKeyEvent* event)
{
  if (event->key() == Qt::Key_Escape) {
    const bool begun = isModified() || property("wrong").toBool();
    showNumber();
    emit said({}, false);
    event->setAccepted(begun); // once nothing is half typed it is for the menu or the dialog around it
    return;
  }
  QLineEdit::keyPressEvent(event);
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
    event->accept(); // it was for this field, not for the row around it
}

void QuantityField::focusOutEvent(QFocusEvent* event)
{
  if (isModified())
    commit();
  if (property("wrong").toBool())
    showNumber(); // the sentence stays; the old value is back
  QLineEdit::focusOutEvent(event);
}

} // namespace kiln
