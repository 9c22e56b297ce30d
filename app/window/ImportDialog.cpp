// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/ImportDialog.h"

#include "io/ProjectFile.h"

#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QJsonArray>
#include <QJsonDocument>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QProgressBar>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

enum Column { Name, Size, Volume, Faces, Note, ColumnCount };

QString sizeText(const QJsonObject& body)
{
  QStringList sides;
  for (int i = 0; i < 3; ++i)
    sides << QString::fromStdString(
        formatQuantity(body["high"].toArray()[i].toDouble() - body["low"].toArray()[i].toDouble(), Quantity::Length));
  return sides.join(" × ");
}

QString volumeText(double cubicMetres)
{
  constexpr double litre = 1e-3;
  constexpr double cubicCentimetre = 1e-6;
  const bool large = cubicMetres > 10 * litre;
  return QString::number(cubicMetres / (large ? litre : cubicCentimetre), 'g', 4) + (large ? " dm³" : " cm³");
}

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
      bar_(new QProgressBar), said_(new QLabel), table_(new QTableWidget(0, ColumnCount)),
      buttons_(new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel))
{
  setObjectName("importDialog");
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(isAgain() ? tr("Read %1 again").arg(QFileInfo(file).fileName())
                           : tr("Take in %1").arg(QFileInfo(file).fileName()));
  auto* layout = new QVBoxLayout(this);
  buildHead(*layout);
  table_->setObjectName("bodies");
  table_->setAccessibleName(tr("Bodies of the file"));
  table_->setHorizontalHeaderLabels({tr("Body"), tr("Size"), tr("Volume"), tr("Faces"), tr("Remarks")});
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->verticalHeader()->setVisible(false);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  const int unit = fontMetrics().averageCharWidth();
  for (const auto& [column, characters] : {std::pair{Name, 26}, {Size, 30}, {Volume, 12}, {Faces, 8}})
    table_->setColumnWidth(column, characters * unit);
  layout->addWidget(table_, 1);
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
  resize(unit * 110, unit * 60);
  read();
}

ImportDialog::~ImportDialog()
{
  process_.disconnect(this);
  process_.kill();
  process_.waitForFinished();
  std::error_code ignored;
  std::filesystem::remove(outcome(), ignored);
  std::filesystem::remove(document_.resultsFolder() / ".before.kiln", ignored);
}

bool ImportDialog::canRead(const QString& file)
{
  return QStringList{"step", "stp", "stl", "obj", "ply", "vtu"}.contains(QFileInfo(file).suffix().toLower());
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
    add(tr("One face up to"), angle_, tr("Triangles that meet at less than this angle make one face."));
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
  link_->setVisible(ownUnit && !isAgain());
  connect(below_, &QLineEdit::textChanged, link_, [this](const QString& text) {
    link_->setEnabled(text.trimmed().isEmpty()); // what was removed is not in the file
    link_->setChecked(link_->isChecked() && link_->isEnabled());
  });
  head->addWidget(link_);
  layout.addLayout(head);
}

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
  table_->setRowCount(0);
  said_->clear();
  failure_.clear();
  bar_->show();
  bar_->setValue(0);
  buttons_->button(QDialogButtonBox::Ok)->setEnabled(false);
  std::error_code error;
  std::filesystem::create_directories(document_.resultsFolder(), error);
  QStringList arguments{"import",     file_,
                        "--to",       QString::fromStdString(outcome().string()),
                        "--unit",     unit_->currentText(),
                        "--angle",    angle_->text(),
                        "--progress", "json"};
  if (!below_->text().trimmed().isEmpty())
    arguments << "--remove-below" << below_->text();
  if (isAgain()) {
    const std::filesystem::path before = document_.resultsFolder() / ".before.kiln";
    if (auto saved = saveProject(document_.project(), before); !saved)
      failure_ = QString::fromStdString(saved.error().sentence());
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
      addBody(line);
    else if (stage == "again")
      showReport(line);
    else if (stage == "failed")
      failure_ = line["object"].toString() + ": " + line["problem"].toString() + " " + line["remedy"].toString();
    else if (stage != "say")
      bar_->setValue(static_cast<int>(100 * line["fraction"].toDouble()));
  }
}

void ImportDialog::addBody(const QJsonObject& body)
{
  const int row = table_->rowCount();
  table_->insertRow(row);
  const QString problem = body["problem"].toString();
  auto* name = new QTableWidgetItem(body["name"].toString());
  name->setData(Qt::UserRole, body["id"].toString());
  name->setFlags(problem.isEmpty() ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable |
                                         (isAgain() ? Qt::NoItemFlags : Qt::ItemIsUserCheckable)
                                   : Qt::ItemIsEnabled);
  if (!isAgain())
    name->setCheckState(problem.isEmpty() ? Qt::Checked : Qt::Unchecked);
  table_->setItem(row, Name, name);
  QString note = problem.isEmpty() ? body["note"].toString() : tr("left out: ") + problem;
  if (const QString same = body["sameAs"].toString(); !same.isEmpty())
    for (int other = 0; other < row; ++other)
      if (table_->item(other, Name)->data(Qt::UserRole) == same)
        note += (note.isEmpty() ? "" : "; ") + tr("the same body as %1").arg(table_->item(other, Name)->text());
  const bool whole = problem.isEmpty();
  const std::array<QString, ColumnCount> texts{{{},
                                                sizeText(body),
                                                whole ? volumeText(body["volume"].toDouble()) : QString(),
                                                whole ? QString::number(body["faces"].toInt()) : QString(),
                                                note}};
  for (int column = Size; column < ColumnCount; ++column) {
    auto* item = new QTableWidgetItem(texts[static_cast<std::size_t>(column)]);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    item->setToolTip(item->text());
    table_->setItem(row, column, item);
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
    said_->setText(failure_);
  else if (!isAgain() && said_->text().isEmpty())
    said_->setText(tr("Untick what you do not need; a name can be changed by a double click."));
  buttons_->button(QDialogButtonBox::Ok)->setEnabled(good);
}

void ImportDialog::takeIn()
{
  const Expected<Project> read = loadProject(outcome());
  if (!read) {
    said_->setText(QString::fromStdString(read.error().sentence()));
    return;
  }
  if (isAgain())
    takeAgain(*read);
  else
    takeNew(*read);
  close();
}

void ImportDialog::takeNew(const Project& read)
{
  std::map<std::string, std::string> names; // of the bodies that are taken
  for (int row = 0; row < table_->rowCount(); ++row)
    if (const QTableWidgetItem* item = table_->item(row, Name); item->checkState() == Qt::Checked)
      names[item->data(Qt::UserRole).toString().toStdString()] = item->text().trimmed().toStdString();
  if (read.files.empty())
    return takeAreas(read);
  document_.edit(tr("Take in %1").arg(QFileInfo(file_).fileName()), [&](Project& project) {
    GeometryFile file = read.files.front();
    file.id = freeId(project, "file");
    file.path = pathFrom(document_, QFileInfo(file_).absoluteFilePath()).toStdString();
    file.linked = link_->isChecked();
    std::erase_if(file.bodies, [&](const TakenBody& body) { return !names.contains(body.id); });
    project.files.push_back(file);
    for (const Part& part : read.parts) {
      const std::string body = std::get<FileBody>(part.shape.form).body;
      if (!names.contains(body))
        continue;
      Part own = part;
      own.shape.form = FileBody{file.id, body};
      const bool taken = std::any_of(project.parts.begin(), project.parts.end(),
                                     [&](const Part& other) { return other.id == part.id; });
      own.id = taken || findById(project.materials, part.id) != nullptr ? freeId(project, part.id) : part.id;
      own.name = names[body].empty() ? part.name : names[body];
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
  const QString file = QFileDialog::getOpenFileName(
      window, ImportDialog::tr("Take in geometry"), {},
      ImportDialog::tr("Geometry (*.step *.stp *.STEP *.STP *.stl *.STL *.obj *.ply *.vtu)"));
  if (!file.isEmpty())
    (new ImportDialog(document, program, file, {}, window))->show();
}

void writeGeometryOut(Document& document, const QString& program, QWidget* window)
{
  const QString file =
      QFileDialog::getSaveFileName(window, ImportDialog::tr("Write the shapes"), {},
                                   ImportDialog::tr("STEP (*.step);;Triangles, in millimetres (*.stl)"));
  if (file.isEmpty())
    return;
  std::error_code ignored;
  std::filesystem::create_directories(document.resultsFolder(), ignored);
  const std::filesystem::path snapshot = document.resultsFolder() / ".shapes.kiln";
  if (auto saved = saveProject(document.shownProject(), snapshot); !saved) {
    QMessageBox::warning(window, ImportDialog::tr("Not written"), QString::fromStdString(saved.error().sentence()));
    return;
  }
  auto* process = new QProcess(window);
  QObject::connect(process, &QProcess::finished, window, [process, window](int code) {
    QString problem;
    while (process->canReadLine()) {
      const QJsonObject line = QJsonDocument::fromJson(process->readLine()).object();
      if (line["stage"].toString() == "failed")
        problem = line["object"].toString() + ": " + line["problem"].toString() + " " + line["remedy"].toString();
    }
    if (code != 0)
      QMessageBox::warning(window, ImportDialog::tr("Not written"), problem);
    process->deleteLater();
  });
  process->start(program, {"shapes", QString::fromStdString(snapshot.string()), "--to", file, "--progress", "json"});
}

} // namespace kiln
