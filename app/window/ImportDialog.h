// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "window/ImportBodies.h"
#include "window/ImportPreview.h"

#include <QDialog>
#include <QJsonObject>
#include <QProcess>
#include <QTimer>

class QVBoxLayout;
class QHBoxLayout;
class QSlider;
class QCheckBox;
class QComboBox;
class QDialogButtonBox;
class QLabel;
class QLineEdit;
class QProgressBar;

namespace kiln
{

/// Reads a file of geometry in a child process and shows its bodies before they are taken in: which of them, under
/// which names. A file that is read again is matched with what the project has.
class ImportDialog : public QDialog
{
  Q_OBJECT

public:
  /// \param program  the child that reads
  /// \param fileId   of a file of the project to read again; empty for a new one
  ImportDialog(Document& document, const QString& program, const QString& file, const std::string& fileId,
               QWidget* parent);
  ~ImportDialog() override;

  [[nodiscard]] static bool canRead(const QString& file);
  [[nodiscard]] bool isReading() const { return process_.state() != QProcess::NotRunning; }

private:
  void buildHead(QVBoxLayout& layout);
  void addAngleSlider(QHBoxLayout& head, const QString& tip);
  void readAsBefore(const GeometryFile& file);
  void read();
  void readLines();
  void finished(int exitCode, QProcess::ExitStatus status);
  void showReport(const QJsonObject& report);
  void takeIn();
  void takeNew(const Project& read);
  void takeAgain(const Project& read);
  void takeAreas(const Project& read);
  void lightSelected();
  [[nodiscard]] std::filesystem::path outcome() const;
  [[nodiscard]] std::filesystem::path drawing() const;
  [[nodiscard]] bool isAgain() const { return !fileId_.empty(); }

  Document& document_;
  QString program_, file_;
  std::string fileId_;
  QProcess process_;
  QComboBox* unit_;
  QLineEdit* angle_;
  QLineEdit* below_;
  QCheckBox* link_;
  QSlider* angleSlider_;
  QProgressBar* bar_;
  QLabel* said_;
  ImportBodies* bodies_;
  ImportPreview* preview_;
  QDialogButtonBox* buttons_;
  QString failure_;
  QTimer later_; ///< reads again once the slider rests
  Project read_; ///< as the reader made it
};

/// Asks for a file and opens the dialog for it.
void takeGeometryIn(Document& document, const QString& program, QWidget* window);

} // namespace kiln
