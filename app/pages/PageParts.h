// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QList>
#include <QStringList>

class QLabel;
class QTreeWidget;
class QVBoxLayout;
class QWidget;

namespace kiln
{

// What the pages of the centre share: a list at the left, what is chosen in it at the right.

/// Fills a page: \p list at the left, at the right \p message above what \p right holds.
/// \param sizes  of the two sides, px
void splitPage(QWidget& page, QWidget* list, QVBoxLayout* right, QLabel* message, const QList<int>& sizes);

/// The look of such a list: its first column takes the room that others leave.
/// \param characters  it is at least as wide
void dressList(QTreeWidget& list, const QString& objectName, const QStringList& heads, int characters);

} // namespace kiln
