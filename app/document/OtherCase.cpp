// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/OtherCase.h"

#include "io/ProjectFile.h"
#include "look/Language.h"
#include "model/OwnValues.h"
#include "run/InputHash.h"

#include <QCoreApplication>
#include <QPointer>
#include <QThreadPool>

namespace kiln
{
namespace
{

Expected<OtherCase::Read> readCase(const std::filesystem::path& file, const std::string& caseId)
{
  const Expected<Project> project = loadProject(file);
  if (!project)
    return tl::unexpected(project.error());
  const Case* own = findById(project->cases, caseId);
  if (own == nullptr)
    return failure(Failure::Kind::NotReady, "file " + file.filename().string(),
                   "It has no case “" + caseId + "” any more.", "Choose another case to compare with.");
  auto seen = projectForCase(*project, *own);
  if (!seen)
    return tl::unexpected(seen.error());
  OtherCase::Read read{std::move(*seen), *own,
                       storedState(std::filesystem::path(file).replace_extension(".results"), *own)};
  InputHashes now = inputHashes(read.seen);
  now.solution = solutionHash(read.seen, read.own);
  judge(&read.own, read.state, read.seen, now);
  return read;
}

} // namespace

void OtherCase::want(const std::filesystem::path& file, const std::string& caseId)
{
  if (file == file_ && caseId == caseId_)
    return;
  forget();
  file_ = file;
  caseId_ = caseId;
  const QPointer<OtherCase> self(this);
  QThreadPool::globalInstance()->start([self, file, caseId, asked = asked_] {
    auto read = std::make_shared<Expected<Read>>(readCase(file, caseId));
    QMetaObject::invokeMethod(qApp, [self, read, asked] {
      if (!self || asked != self->asked_)
        return;
      if (*read)
        self->read_ = std::make_shared<const Read>(std::move(**read));
      else
        self->problem_ = inWords(read->error());
      emit self->arrived();
    });
  });
}

void OtherCase::forget()
{
  ++asked_;
  file_.clear();
  caseId_.clear();
  read_.reset();
  problem_.clear();
}

} // namespace kiln
