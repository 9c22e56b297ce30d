// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/ImportDialog.h"

#include "geometry/MeshFileKinds.h"
#include "io/ProjectFile.h"
#include "look/Language.h"

#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QJsonArray>
#include <QJsonDocument>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QProgressBar>
#include <QPushButton>
#include <QSlider>
#include <QSplitter>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kiln
{
namespace
{

QString pathFrom(const Document& document, const QString& file)
{
  if (document.file().empty())
    return file;
  const std::filesystem::path near =
      std::filesystem::path(file.toStdString()).lexically_relative(document.file().parent_path());
  return near.empty() || *near.begin() == ".." ? file : QString::fromStdString(near.string());
}

} // namespace

ImportDialog::ImportDialog(Document& document, const QString& program, const QString& file, const std::string& fileId,
                           QWidget* parent)
    : QDialog(parent), document_(document), program_(program), file_(file), fileId_(fileId), unit_(new QComboBox),
      angle_(new QLineEdit("30 deg")), below_(new QLineEdit), link_(new QCheckBox(tr("Link to the file"))),
      angleSlider_(new QSlider(Qt::Horizontal)), bar_(new QProgressBar), said_(new QLabel),
      bodies_(new ImportBodies(fileId.empty())), preview_(new ImportPreview),
      buttons_(new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel))
{
  setObjectName("importDialog");
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(isAgain() ? tr("Read %1 again").arg(QFileInfo(file).fileName())
                           : tr("Take in %1").arg(QFileInfo(file).fileName()));
  auto* layout = new QVBoxLayout(this);
  buildHead(*layout);
  if (const GeometryFile* before = findById(document.project().files, fileId))
    readAsBefore(*before);
  auto* middle = new QSplitter;
  middle->addWidget(bodies_);
  middle->addWidget(preview_);
  middle->setChildrenCollapsible(false);
  middle->setStretchFactor(0, 3);
  middle->setStretchFactor(1, 2);
  connect(bodies_, &ImportBodies::selectionChanged, this, &ImportDialog::lightSelected);
  layout->addWidget(middle, 1);
  said_->setWordWrap(true);
  said_->setObjectName("importSaid");
  layout->addWidget(said_);
  layout->addWidget(bar_);
  buttons_->button(QDialogButtonBox::Ok)->setText(isAgain() ? tr("Take the changes") : tr("Take in"));
  buttons_->button(QDialogButtonBox::Ok)->setObjectName("takeIn");
  for (QAbstractButton* button : buttons_->buttons())
    button->setIcon({});
  connect(buttons_, &QDialogButtonBox::accepted, this, &ImportDialog::takeIn);
  connect(buttons_, &QDialogButtonBox::rejected, this, &QDialog::close);
  layout->addWidget(buttons_);
  process_.setStandardErrorFile(QProcess::nullDevice());
  const int unit = fontMetrics().averageCharWidth();
  resize(unit * 150, unit * 72);
  later_.setSingleShot(true);
  later_.setInterval(250); // ms
  connect(&later_, &QTimer::timeout, this, &ImportDialog::read);
  read();
}

ImportDialog::~ImportDialog()
{
  process_.disconnect(this);
  process_.kill();
  process_.waitForFinished();
  std::error_code ignored;
  std::filesystem::remove(outcome(), ignored);
  std::filesystem::remove(drawing(), ignored);
  std::filesystem::remove(document_.resultsFolder() / ".before.kiln", ignored);
}

bool ImportDialog::canRead(const QString& file)
{
  const QString ending = QFileInfo(file).suffix().toLower();
  return isMeshFile(ending.toStdString()) || QStringList{"step", "stp", "stl", "obj", "ply"}.contains(ending);
}

/// What the reader needs to know; changing it reads again.
void ImportDialog::buildHead(QVBoxLayout& layout)
{
  auto* head = new QHBoxLayout;
  const bool ownUnit = QFileInfo(file_).suffix().toLower().startsWith("st") && !file_.toLower().endsWith(".stl");
  unit_->setObjectName("importUnit");
  unit_->addItems({"mm", "cm", "m", "in"});
  angle_->setObjectName("importAngle");
  below_->setObjectName("importBelow");
  below_->setPlaceholderText(tr("none"));
  const auto add = [&](const QString& text, QWidget* field, const QString& tip) {
    auto* label = new QLabel(text);
    label->setBuddy(field);
    label->setProperty("role", "quiet");
    field->setToolTip(tip);
    head->addWidget(label);
    head->addWidget(field);
  };
  if (!ownUnit) {
    add(tr("A unit of the file is 1"), unit_, tr("The file does not say; look whether the sizes below are right."));
    const QString tip = tr("Triangles that meet at less than this angle make one face; the picture shows which.");
    add(tr("One face up to"), angle_, tip);
    addAngleSlider(*head, tip);
    connect(unit_, &QComboBox::activated, this, &ImportDialog::read);
    connect(angle_, &QLineEdit::editingFinished, this, [this] {
      if (angle_->isModified())
        read();
    });
  }
  add(tr("Remove round faces with a radius below"), below_,
      tr("Small holes and roundings that only make the mesh large, e.g. 1 mm"));
  connect(below_, &QLineEdit::editingFinished, this, [this] {
    if (below_->isModified())
      read();
  });
  head->addStretch();
  link_->setObjectName("importLink");
  link_->setToolTip(tr("The project keeps only where the file is, not its shapes; it says when the file changes."));
  link_->setVisible(!isMeshFile(QFileInfo(file_).suffix().toLower().toStdString()) && !isAgain());
  head->addWidget(link_);
  layout.addLayout(head);
}

/// A file is read again as it was read before.
void ImportDialog::readAsBefore(const GeometryFile& file)
{
  const std::vector<double> units{1e-3, 1e-2, 1, 0.0254}; // m, as they are listed
  for (std::size_t i = 0; i < units.size(); ++i)
    if (std::abs(file.unit.si / units[i] - 1) < 1e-9)
      unit_->setCurrentIndex(static_cast<int>(i));
  if (file.faceAngle) {
    angle_->setText(QString::fromStdString(formatQuantity(file.faceAngle->si, Quantity::Angle)));
    const QSignalBlocker quiet(angleSlider_);
    angleSlider_->setValue(static_cast<int>(std::lround(file.faceAngle->si * 180 / std::numbers::pi)));
  }
  if (file.removeBelow)
    below_->setText(QString::fromStdString(formatQuantity(file.removeBelow->si, Quantity::Length)));
}

void ImportDialog::addAngleSlider(QHBoxLayout& head, const QString& tip)
{
  angleSlider_->setObjectName("importAngleSlider");
  angleSlider_->setAccessibleName(tr("Angle up to which triangles make one face"));
  angleSlider_->setToolTip(tip);
  angleSlider_->setRange(1, 90); // degrees
  angleSlider_->setValue(30);
  angleSlider_->setMaximumWidth(20 * fontMetrics().averageCharWidth());
  head.addWidget(angleSlider_);
  connect(angleSlider_, &QSlider::valueChanged, this, [this](int degrees) {
    angle_->setText(QString("%1 deg").arg(degrees));
    later_.start();
  });
}

std::filesystem::path ImportDialog::drawing() const { return document_.resultsFolder() / ".import.draft"; }
std::filesystem::path ImportDialog::outcome() const { return document_.resultsFolder() / ".import.kiln"; }

void ImportDialog::read()
{
  process_.disconnect(this);
  process_.kill();
  process_.waitForFinished();
  connect(&process_, &QProcess::readyReadStandardOutput, this, &ImportDialog::readLines);
  connect(&process_, &QProcess::finished, this, &ImportDialog::finished);
  connect(&process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
    if (error == QProcess::FailedToStart)
      finished(-1, QProcess::CrashExit);
  });
  angle_->setModified(false);
  below_->setModified(false);
  bodies_->clear();
  said_->clear();
  failure_.clear();
  bar_->show();
  bar_->setValue(0);
  buttons_->button(QDialogButtonBox::Ok)->setEnabled(false);
  std::error_code error;
  std::filesystem::create_directories(document_.resultsFolder(), error);
  QStringList arguments{"import",     file_,
                        "--to",       QString::fromStdString(outcome().string()),
                        "--drawing",  QString::fromStdString(drawing().string()),
                        "--unit",     unit_->currentText(),
                        "--angle",    angle_->text(),
                        "--progress", "json"};
  if (!below_->text().trimmed().isEmpty())
    arguments << "--remove-below" << below_->text();
  if (isAgain()) {
    const std::filesystem::path before = document_.resultsFolder() / ".before.kiln";
    if (auto saved = saveProject(document_.project(), before); !saved)
      failure_ = inWords(saved.error());
    arguments << "--again" << QString::fromStdString(before.string()) << "--id" << QString::fromStdString(fileId_);
  }
  process_.start(program_, arguments);
}

void ImportDialog::readLines()
{
  while (process_.canReadLine()) {
    const QJsonObject line = QJsonDocument::fromJson(process_.readLine()).object();
    const QString stage = line["stage"].toString();
    if (stage == "body")
      bodies_->add(line);
    else if (stage == "again")
      showReport(line);
    else if (stage == "failed")
      failure_ = line["object"].toString() + ": " + line["problem"].toString() + " " + line["remedy"].toString();
    else if (stage != "say")
      bar_->setValue(static_cast<int>(100 * line["fraction"].toDouble()));
  }
}

void ImportDialog::showReport(const QJsonObject& report)
{
  QStringList lines;
  const auto list = [&](const char* key, const QString& text) {
    QStringList names;
    for (const auto& name : report[key].toArray())
      names << name.toString();
    if (!names.isEmpty())
      lines << text.arg(names.join(key == std::string("changed") ? "; " : ", "));
  };
  list("kept", tr("Unchanged: %1."));
  list("changed", tr("Changed: %1. What was set on the faces that are left stays."));
  list("added", tr("New, without a material: %1."));
  list("gone", tr("No longer in the file; its part keeps its shape until you remove it: %1."));
  said_->setText(lines.join("\n"));
}

void ImportDialog::finished(int exitCode, QProcess::ExitStatus status)
{
  readLines();
  bar_->hide();
  const bool crashed = status == QProcess::CrashExit;
  const bool good = !crashed && exitCode == 0;
  if (crashed && failure_.isEmpty())
    failure_ = tr("The reader stopped unexpectedly on this file. The project is unchanged; write the file again, or "
                  "part by part.");
  if (!good)
    return said_->setText(failure_);
  auto read = loadProject(outcome());
  read_ = read ? std::move(*read) : Project();
  if (!isAgain() && said_->text().isEmpty())
    said_->setText(read_.files.empty() ? tr("A flat mesh: its regions become flat parts of a section model.")
                                       : tr("Untick what you do not need; a name can be changed by a double click."));
  preview_->draw(drawing(), read_);
  lightSelected();
  buttons_->button(QDialogButtonBox::Ok)->setEnabled(true);
}

/// The parts that the reader made of the selected bodies, lit in the picture.
void ImportDialog::lightSelected()
{
  const std::set<std::string> selected = bodies_->selected();
  std::set<std::string> parts;
  for (const Part& part : read_.parts)
    if (const auto* body = std::get_if<FileBody>(&part.shape.form); body != nullptr && selected.contains(body->body))
      parts.insert(part.id);
  preview_->light(parts);
}

void ImportDialog::takeIn()
{
  const Expected<Project> read = loadProject(outcome());
  if (!read) {
    said_->setText(inWords(read.error()));
    return;
  }
  if (isAgain())
    takeAgain(*read);
  else
    takeNew(*read);
  close();
}

namespace
{

/// Joins bodies of a file to a part that starts from another one.
void joinBodies(Part& part, const std::string& file, const std::string& root,
                const std::vector<ImportBodies::Choice>& choices)
{
  for (const ImportBodies::Choice& choice : choices)
    if (choice.taken && choice.into == root)
      part.steps.push_back({"with-" + choice.id, Join{{FileBody{file, choice.id}, {}}}, {}});
}

} // namespace

void ImportDialog::takeNew(const Project& read)
{
  std::map<std::string, ImportBodies::Choice> chosen; // by body, those that are taken
  const std::vector<ImportBodies::Choice> choices = bodies_->choices();
  for (const ImportBodies::Choice& choice : choices)
    if (choice.taken)
      chosen[choice.id] = choice;
  if (read.files.empty())
    return takeAreas(read);
  document_.edit(tr("Take in %1").arg(QFileInfo(file_).fileName()), [&](Project& project) {
    GeometryFile file = read.files.front();
    file.id = freeId(project, "file");
    file.path = pathFrom(document_, QFileInfo(file_).absoluteFilePath()).toStdString();
    file.linked = link_->isChecked();
    std::erase_if(file.bodies, [&](const TakenBody& body) { return !chosen.contains(body.id); });
    project.files.push_back(file);
    for (const Part& part : read.parts) {
      const std::string body = std::get<FileBody>(part.shape.form).body;
      const auto choice = chosen.find(body);
      if (choice == chosen.end() || chosen.contains(choice->second.into))
        continue;
      Part own = part;
      own.shape.form = FileBody{file.id, body};
      joinBodies(own, file.id, body, choices);
      const bool taken = std::any_of(project.parts.begin(), project.parts.end(),
                                     [&](const Part& other) { return other.id == part.id; });
      own.id = taken || findById(project.materials, part.id) != nullptr ? freeId(project, part.id) : part.id;
      own.name = choice->second.name.empty() ? part.name : choice->second.name;
      project.parts.push_back(std::move(own));
    }
  });
}

/// A flat mesh: its regions are flat parts, and the model becomes a section if it is none yet.
void ImportDialog::takeAreas(const Project& read)
{
  document_.edit(tr("Take in %1").arg(QFileInfo(file_).fileName()), [&](Project& project) {
    if (!project.section)
      project.section = read.section;
    for (Part part : read.parts) {
      part.id = freeId(project, part.id);
      project.parts.push_back(std::move(part));
    }
  });
}

void ImportDialog::takeAgain(const Project& read)
{
  document_.edit(tr("Read %1 again").arg(QFileInfo(file_).fileName()), [&](Project& project) {
    GeometryFile* own = findById(project.files, fileId_);
    const GeometryFile* now = findById(read.files, fileId_);
    if (own == nullptr || now == nullptr)
      return;
    const std::string path = pathFrom(document_, QFileInfo(file_).absoluteFilePath()).toStdString();
    const bool linked = own->linked;
    *own = *now;
    own->path = path;
    own->linked = linked;
    for (const Part& part : read.parts)
      if (findById(project.parts, part.id) == nullptr)
        project.parts.push_back(part);
  });
}

void takeGeometryIn(Document& document, const QString& program, QWidget* window)
{
  QStringList endings{"*.step", "*.stp", "*.STEP", "*.STP", "*.stl", "*.STL", "*.obj", "*.ply"};
  for (const std::string_view ending : meshFileEndings)
    endings << "*." + QString::fromUtf8(ending.data(), static_cast<qsizetype>(ending.size()));
  const QString file =
      QFileDialog::getOpenFileName(window, ImportDialog::tr("Take in geometry"), {},
                                   ImportDialog::tr("Geometry and meshes (%1)").arg(endings.join(' ')));
  if (!file.isEmpty())
    (new ImportDialog(document, program, file, {}, window))->show();
}

} // namespace kiln
