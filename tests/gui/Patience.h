// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QTest>

/// How long a test waits for what it expects to see, ms. What comes at once on a quiet machine takes seconds where the
/// picture is drawn in software and another test has the second processor; only a failing test waits this long.
inline constexpr int kilnPatience = 30'000;

#undef QTRY_VERIFY
#undef QTRY_VERIFY2
#undef QTRY_COMPARE
#define QTRY_VERIFY(expr) QTRY_VERIFY_WITH_TIMEOUT(expr, kilnPatience)
#define QTRY_VERIFY2(expr, message) QTRY_VERIFY2_WITH_TIMEOUT(expr, message, kilnPatience)
#define QTRY_COMPARE(expr, expected) QTRY_COMPARE_WITH_TIMEOUT(expr, expected, kilnPatience)
