// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "results/CaseResult.h"
#include "run/InputHash.h"

#include <memory>
#include <optional>
#include <string>

namespace kiln
{

/// Which mesh shows the shapes of a project best: that of a result, one that was prepared, or a draft, each with the
/// fingerprint of what it was made from.
class ShownShapes
{
public:
  using Result = std::shared_ptr<const CaseResult>;

  void setPrepared(std::shared_ptr<const Mesh> mesh, const std::string& hash);
  /// \param fused  touching faces are known; else still part by part
  void setDraft(std::shared_ptr<const Mesh> mesh, const std::string& geometryHash, bool fused);
  void setProblem(const std::string& geometryHash, const Failure& problem);
  /// A result or mesh of the present inputs shows the present shapes: remembered for when inputs change again.
  void note(const Result& result, const InputHashes& now);

  /// The mesh to show; may be empty.
  [[nodiscard]] std::shared_ptr<const Mesh> shown(const Result& result, const InputHashes& now) const;
  /// Was the shown mesh made from the present shapes, with touching faces known?
  [[nodiscard]] bool areCurrent(const Result& result, const InputHashes& now) const;
  /// Nothing shows the present shapes yet.
  [[nodiscard]] bool wantDraft(const InputHashes& now) const;
  /// Why the present shapes could not be drawn; nullptr when they could.
  [[nodiscard]] const Failure* problem(const InputHashes& now) const;

private:
  [[nodiscard]] bool isPrepared(const Result& result, const InputHashes& now) const;

  std::shared_ptr<const Mesh> prepared_, draft_, meshed_;
  std::string preparedHash_, draftHash_, meshedGeometry_;
  bool draftFused_ = false;
  std::optional<std::pair<std::string, Failure>> problem_;
};

} // namespace kiln
