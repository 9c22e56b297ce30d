// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"
#include "model/Project.h"

#include <QWidget>
#include <filesystem>
#include <memory>
#include <set>
#include <string>

class QComboBox;

namespace kiln
{

class RayPicture;

/// A picture of the bodies of a file: every face, or every body, in a colour of its own.
class ImportPreview : public QWidget
{
  Q_OBJECT

public:
  explicit ImportPreview(QWidget* parent = nullptr);

  /// \param drawing  as the reader wrote it; what cannot be read leaves the picture empty
  /// \param read     the project that the reader made
  void draw(const std::filesystem::path& drawing, const Project& read);
  /// Lights bodies, by the ids of their parts.
  void light(const std::set<std::string>& parts);

  /// Colours that are drawn, by face.
  [[nodiscard]] const std::vector<QColor>& faceColors() const { return colors_; }

private:
  void color();

  RayPicture* picture_;
  QComboBox* by_;
  std::shared_ptr<const Mesh> mesh_;
  std::map<std::string, QColor> given_; ///< colours of the file, by part
  std::vector<QColor> colors_;
};

} // namespace kiln
