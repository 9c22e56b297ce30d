// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "report/ReportContent.h"

#include <QTextDocument>
#include <filesystem>
#include <memory>

class QPagedPaintDevice;

namespace kiln
{

/// Kinds of files that a report becomes, by their endings.
inline constexpr const char* reportEndings[] = {"html", "pdf", "odt"};

/// Writes it whole or not at all: a page that stands alone, pages of paper, or a text to go on writing in.
/// Fails with kind Unwritable, and on another ending than those three.
[[nodiscard]] Expected<void> writeReport(const ReportContent& content, const std::filesystem::path& file);

/// A text document of it. \param scale  pixels of the document for each of a screen with 96 to the inch
/// \param vectors  pictures of lines and letters stay so
[[nodiscard]] std::unique_ptr<QTextDocument> textDocument(const ReportContent& content, double scale, bool vectors);

/// Paints its pages: A4, with what is out of date and the number on each of them.
void paintPages(const ReportContent& content, QPagedPaintDevice& device);

} // namespace kiln
