// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "report/ReportContent.h"

namespace kiln
{

/// A page that stands alone: pictures are in it, nothing is fetched, it prints well. It is XML, too.
[[nodiscard]] std::string reportHtml(const ReportContent& content);

/// Text with what has a meaning in HTML written out; letters that XML does not know are left out.
[[nodiscard]] std::string htmlEscaped(const std::string& text);

} // namespace kiln
