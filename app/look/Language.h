// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <QList>
#include <QPair>
#include <QString>
#include <string_view>

namespace kiln
{

/// Languages that the window speaks: code and own name. English is the one that the sources are written in.
[[nodiscard]] QList<QPair<QString, QString>> languages();

/// What the user chose: a code, or empty where the system decides. It counts from the next start.
[[nodiscard]] QString chosenLanguage();
void chooseLanguage(const QString& code);

/// From now on what goes through tr(), what the toolkit says, and \ref inWords are in this language, as far as it is
/// known; an unknown one is English.
/// \param code  "de"; empty: that of the system
void speak(const QString& code);

/// The code of the language that is spoken now.
[[nodiscard]] QString spokenLanguage();

/// A word or sentences of the core, which speaks English, in the language of the window. Sentences are known whole, or
/// by a pattern with places for names and numbers; what is not known stays as it is.
[[nodiscard]] QString inWords(std::string_view text);
/// The same of an error: the object, what is wrong, and the remedy.
[[nodiscard]] QString inWords(const Failure& failure);

} // namespace kiln
