// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QString>

namespace kiln
{

/// Tells the desktop (org.freedesktop.Notifications) that something that took long has ended, where nobody looks at the
/// window. Without a desktop that listens nothing happens.
void notifyOfLong(const QString& what, bool good, double seconds);

} // namespace kiln
