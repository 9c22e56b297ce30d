// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <hdf5.h>
#include <utility>

namespace kiln
{

/// Closes what HDF5 opened.
class Hdf5Handle
{
public:
  Hdf5Handle() = default;
  Hdf5Handle(hid_t id, herr_t (*close)(hid_t)) : id_(id), close_(close) {}
  ~Hdf5Handle() { reset(); }
  Hdf5Handle(Hdf5Handle&& other) noexcept : id_(std::exchange(other.id_, -1)), close_(other.close_) {}
  Hdf5Handle& operator=(Hdf5Handle&& other) noexcept
  {
    reset();
    id_ = std::exchange(other.id_, -1);
    close_ = other.close_;
    return *this;
  }
  Hdf5Handle(const Hdf5Handle&) = delete;
  Hdf5Handle& operator=(const Hdf5Handle&) = delete;
  void reset()
  {
    if (id_ >= 0)
      close_(std::exchange(id_, -1));
  }
  operator hid_t() const { return id_; }
  /// Lets go without closing: what cannot be written must not be tried again.
  void abandon() { id_ = -1; }

private:
  hid_t id_ = -1;
  herr_t (*close_)(hid_t) = nullptr;
};

} // namespace kiln
