// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/Conductivity.h"

#include "geometry/Rotation.h"

#include <algorithm>

namespace kiln
{

Conductivity::Conductivity(const Material& material, const Part& part)
    : along_{material.conductivity, material.conductivityY.value_or(material.conductivity),
             material.conductivityZ.value_or(material.conductivity)},
      axes_(rotationOf(part.shape.placement.rotation) * rotationOf(part.materialAxes)),
      constant_(
          std::all_of(along_.begin(), along_.end(), [](const Property& property) { return property.table.empty(); })),
      isotropic_(!material.conductivityY && !material.conductivityZ)
{
  value_ = turned({along_[0].si, along_[1].si, along_[2].si});
}

Conductivity::Conductivity(double k) : value_(k * Eigen::Matrix3d::Identity()) {}

Eigen::Matrix3d Conductivity::turned(const Vec3& along) const
{
  if (isotropic_)
    return along[0] * Eigen::Matrix3d::Identity();
  return axes_ * along.asDiagonal() * axes_.transpose();
}

Eigen::Matrix3d Conductivity::at(double temperature) const
{
  if (constant_)
    return value_;
  return turned({valueAt(along_[0], temperature).value, valueAt(along_[1], temperature).value,
                 valueAt(along_[2], temperature).value});
}

Eigen::Matrix3d Conductivity::slopeAt(double temperature) const
{
  if (constant_)
    return Eigen::Matrix3d::Zero();
  return turned({valueAt(along_[0], temperature).slope, valueAt(along_[1], temperature).slope,
                 valueAt(along_[2], temperature).slope});
}

} // namespace kiln
