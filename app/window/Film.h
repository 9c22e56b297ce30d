// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

class QWidget;

namespace kiln
{

/// Instants of a film of the run: evenly spread, both ends included.
[[nodiscard]] std::vector<double> filmInstants(const RunRecord& run, int frames);

/// Saves a picture of \p scene (with its legend and the case and instant it shows) at every frame:
/// FOLDER/CASE-0001.png, … . Asks for nothing; shows progress and can be cancelled.
/// \return how many were saved
int saveFilm(Document& document, QWidget& scene, const QString& folder, int frames);

/// The same as one file: a video (*.webm), else an animated picture (WebP). \return how many frames it holds
int saveAnimation(Document& document, QWidget& scene, const QString& file, int frames);

/// Asks for the number of frames and a file, then saves a video, an animated picture or numbered ones.
void askForFilm(Document& document, QWidget& scene, QWidget* window);

} // namespace kiln
