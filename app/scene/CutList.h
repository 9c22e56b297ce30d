// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"
#include "model/Views.h"

#include <QWidget>
#include <vector>

class QVBoxLayout;

namespace kiln
{

/// The planes that open the model: each with its place, its tilt, the side that goes, and a way to remove it.
class CutList : public QWidget
{
  Q_OBJECT

public:
  CutList(std::vector<CutPlane>& cuts, QWidget* parent = nullptr);

  /// They were changed by another way, or the model has another extent.
  void refresh(const Vec3& low, const Vec3& high);

signals:
  void changed();

private:
  void addRow(std::size_t index);
  void addCut(int axis);
  void turn(CutPlane& cut, double about, double lean) const;

  std::vector<CutPlane>& cuts_;
  Vec3 low_ = Vec3::Zero(), high_ = Vec3::Ones();
  QVBoxLayout* rows_;
};

[[nodiscard]] Vec3 placeOf(const Number3& numbers);
[[nodiscard]] Number3 numbersOf(const Vec3& place);

} // namespace kiln
