// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/ImportPreview.h"

#include "io/ResultFile.h"
#include "scene/ColorMap.h"
#include "window/RayPicture.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QVBoxLayout>

namespace kiln
{

ImportPreview::ImportPreview(QWidget* parent) : QWidget(parent), picture_(new RayPicture), by_(new QComboBox)
{
  setObjectName("importPreview");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  auto* row = new QHBoxLayout;
  by_->setObjectName("previewBy");
  by_->setAccessibleName(tr("Colours of the picture"));
  by_->addItems({tr("A colour for each face"), tr("A colour for each body")});
  connect(by_, &QComboBox::activated, this, &ImportPreview::color);
  row->addWidget(by_);
  row->addStretch();
  layout->addLayout(row);
  picture_->setObjectName("previewPicture");
  picture_->setAccessibleName(tr("Picture of the bodies"));
  picture_->setToolTip(tr("Drag to turn, wheel to enlarge"));
  layout->addWidget(picture_, 1);
}

void ImportPreview::draw(const std::filesystem::path& drawing, const Project& read)
{
  auto stored = loadMesh(drawing);
  const bool first = mesh_ == nullptr;
  mesh_ = stored ? std::make_shared<const Mesh>(std::move(stored->mesh)) : std::make_shared<const Mesh>();
  given_.clear();
  for (const Part& part : read.parts)
    if (!part.colour.empty())
      given_[part.id] = QColor(QString::fromStdString(part.colour));
  if (first && !given_.empty())
    by_->setCurrentIndex(1);
  picture_->setMesh(mesh_);
  color();
}

void ImportPreview::color()
{
  if (mesh_ == nullptr)
    return;
  constexpr int apart = 3; // neighbours in the list of colours look alike
  std::vector<QColor> partColor;
  const FaceTable& table = mesh_->geometry;
  for (std::size_t p = 0; p < table.parts.size(); ++p) {
    const auto given = given_.find(table.parts[p].id);
    partColor.push_back(given != given_.end() ? given->second : kindColor(static_cast<int>(p) * apart + 1));
  }
  std::map<std::string, int> known; // by name of the face
  std::vector<int> groups;
  colors_.clear();
  for (const Face& face : table.faces) {
    const std::string name = face.names.empty() ? std::string() : face.names.front();
    groups.push_back(known.try_emplace(name, static_cast<int>(known.size())).first->second);
    colors_.push_back(by_->currentIndex() == 0 ? kindColor(groups.back() * apart + 1)
                                               : partColor[static_cast<std::size_t>(face.parts[0])]);
  }
  picture_->setColors(colors_, std::move(groups));
}

void ImportPreview::light(const std::set<std::string>& parts)
{
  if (mesh_ == nullptr)
    return;
  std::set<int> lit;
  for (std::size_t p = 0; p < mesh_->geometry.parts.size(); ++p)
    if (parts.contains(mesh_->geometry.parts[p].id))
      lit.insert(static_cast<int>(p));
  picture_->setLit(std::move(lit));
}

} // namespace kiln
