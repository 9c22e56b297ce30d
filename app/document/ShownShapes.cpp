// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/ShownShapes.h"

namespace kiln
{

void ShownShapes::setPrepared(std::shared_ptr<const Mesh> mesh, const std::string& hash)
{
  prepared_ = std::move(mesh);
  preparedHash_ = hash;
}

void ShownShapes::setDraft(std::shared_ptr<const Mesh> mesh, const std::string& geometryHash, bool fused)
{
  draft_ = std::move(mesh);
  draftHash_ = geometryHash;
  draftFused_ = fused;
  problem_.reset();
}

void ShownShapes::setProblem(const std::string& geometryHash, const Failure& problem)
{
  problem_ = {geometryHash, problem};
}

bool ShownShapes::isPrepared(const Result& result, const InputHashes& now) const
{
  return (result && result->meshHash == now.mesh) || (prepared_ && preparedHash_ == now.mesh);
}

void ShownShapes::note(const Result& result, const InputHashes& now)
{
  if (!isPrepared(result, now))
    return;
  meshedGeometry_ = now.geometry;
  meshed_ = shown(result, now);
}

std::shared_ptr<const Mesh> ShownShapes::shown(const Result& result, const InputHashes& now) const
{
  if (result && result->meshHash == now.mesh)
    return {result, &result->mesh};
  if (prepared_ && preparedHash_ == now.mesh)
    return prepared_;
  if (draft_ && draftHash_ == now.geometry && now.geometry != meshedGeometry_)
    return draft_;
  if (meshed_ && now.geometry == meshedGeometry_)
    return meshed_;
  if (result)
    return {result, &result->mesh};
  return prepared_ ? prepared_ : draft_;
}

bool ShownShapes::areCurrent(const Result& result, const InputHashes& now) const
{
  return isPrepared(result, now) || (draft_ && draftFused_ && draftHash_ == now.geometry) ||
         now.geometry == meshedGeometry_;
}

bool ShownShapes::wantDraft(const InputHashes& now) const
{
  const bool drawn = draft_ && draftFused_ && draftHash_ == now.geometry;
  return now.geometry != meshedGeometry_ && !drawn;
}

const Failure* ShownShapes::problem(const InputHashes& now) const
{
  return problem_ && problem_->first == now.geometry ? &problem_->second : nullptr;
}

} // namespace kiln
