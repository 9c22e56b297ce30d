// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportPage.h"

#include "io/AtomicFile.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "model/Edit.h"
#include "pages/PageParts.h"
#include "report/ReportEditor.h"
#include "report/ReportPaper.h"
#include "report/ReportTemplate.h"

#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPrintDialog>
#include <QPrinter>
#include <QProgressDialog>
#include <QPushButton>
#include <QScrollArea>
#include <QStyle>
#include <QTextBrowser>
#include <QToolButton>
#include <QVBoxLayout>

namespace kiln
{

ReportPage::ReportPage(Document& document, Preferences& preferences, ScenePanel& scene, SolverQueue& solver,
                       QWidget* parent)
    : QWidget(parent), document_(document), solver_(solver), maker_(document, preferences, &scene),
      editor_(new ReportEditor(document)), list_(new QComboBox), status_(new QLabel), said_(new QLabel),
      save_(new QPushButton(tr("Make it…"))), update_(new QPushButton(tr("Bring up to date"))),
      preview_(new QToolButton), print_(new QToolButton), page_(new QTextBrowser)
{
  setObjectName("reportPage");
  auto* right = new QVBoxLayout;
  auto* head = new QHBoxLayout;
  status_->setObjectName("reportStatus");
  status_->setWordWrap(true);
  head->addStretch(1);
  const auto tool = [&](QToolButton* button, const char* icon, const QString& tip, const char* name, auto action) {
    setIcon(*button, icon);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setObjectName(name);
    connect(button, &QToolButton::clicked, this, action);
    head->addWidget(button);
  };
  tool(preview_, "view-visible", tr("Show here how it would look now"), "reportPreview", &ReportPage::showPreview);
  tool(print_, "document-print", tr("Print it (Ctrl+P)"), "reportPrint", &ReportPage::print);
  update_->setObjectName("reportUpdate");
  update_->setToolTip(tr("Solve what is needed, and make it again with the same words, where it was"));
  connect(update_, &QPushButton::clicked, this, &ReportPage::bringUpToDate);
  head->addWidget(update_);
  save_->setObjectName("reportSave");
  save_->setToolTip(tr("As a page for browsers (HTML), as PDF, or as OpenDocument text to go on writing"));
  connect(save_, &QPushButton::clicked, this, &ReportPage::askForFile);
  head->addWidget(save_);
  right->addLayout(head);
  right->addWidget(status_);
  page_->setObjectName("reportView");
  page_->setAccessibleName(tr("How the report would look"));
  page_->setOpenLinks(false);
  page_->setPlaceholderText(tr("The eye above shows here how the report would look now."));
  right->addWidget(page_, 1);
  said_->setObjectName("reportSaid");
  said_->setWordWrap(true);
  constexpr int leftWide = 300, rightWide = 420; // px
  splitPage(*this, makeLeft(), right, said_, {leftWide, rightWide});
  connect(editor_, &ReportEditor::said, this, [this](const QString& sentence) { say(sentence, true); });
  constexpr int pause = 150; // ms, many things change at once
  rest_.setSingleShot(true);
  rest_.setInterval(pause);
  connect(&rest_, &QTimer::timeout, this, &ReportPage::refresh);
  for (auto signal : {&Document::projectChanged, &Document::resultChanged, &Document::fileChanged})
    connect(&document, signal, &rest_, qOverload<>(&QTimer::start));
  connect(&document, &Document::caseStateChanged, &rest_, qOverload<>(&QTimer::start));
  connect(&solver, &SolverQueue::runningChanged, this, &ReportPage::goOnBringing);
  refresh();
}

QWidget* ReportPage::makeLeft()
{
  auto* side = new QWidget;
  auto* layout = new QVBoxLayout(side);
  layout->setContentsMargins(0, 0, 0, 0);
  auto* head = new QHBoxLayout;
  list_->setObjectName("reportList");
  list_->setAccessibleName(tr("Reports of the project"));
  head->addWidget(list_, 1);
  const auto tool = [&](const char* icon, const QString& tip, const char* name) {
    auto* button = new QToolButton;
    setIcon(*button, icon);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setObjectName(name);
    head->addWidget(button);
    return button;
  };
  connect(tool("list-add", tr("A new report"), "reportAdd"), &QToolButton::clicked, this, &ReportPage::addReport);
  connect(tool("list-remove", tr("Remove this report"), "reportRemove"), &QToolButton::clicked, this, [this] {
    if (const Report* own = chosen())
      document_.edit(tr("Remove the report"), [id = own->id](Project& project) { removeObject(project, id); });
  });
  QToolButton* more = tool("overflow-menu", tr("Name, templates"), "reportMore");
  more->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(more);
  menu->addAction(tr("Rename it…"), this, &ReportPage::rename);
  menu->addAction(tr("Keep it as a template…"), this, &ReportPage::keepTemplate);
  menu->addAction(tr("New report from a template…"), this, &ReportPage::takeTemplateFile);
  more->setMenu(menu);
  layout->addLayout(head);
  auto* scroll = new QScrollArea; // it is taller than a small window
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setWidget(editor_);
  layout->addWidget(scroll, 1);
  connect(list_, &QComboBox::activated, this, [this] { refresh(); });
  return side;
}

const Report* ReportPage::chosen() const
{
  return findById(document_.project().reports, list_->currentData().toString().toStdString());
}

void ReportPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

void ReportPage::refresh()
{
  if (!isVisible())
    return; // brought up to date when it is shown
  const QVariant before = list_->currentData();
  const QSignalBlocker quiet(list_);
  list_->clear();
  for (const Report& report : document_.project().reports)
    list_->addItem(QString::fromStdString(report.name), QString::fromStdString(report.id));
  list_->setCurrentIndex(std::max(list_->count() > 0 ? 0 : -1, list_->findData(before)));
  const Report* own = chosen();
  editor_->setReport(own != nullptr ? own->id : std::string());
  for (QWidget* widget : std::initializer_list<QWidget*>{save_, preview_, print_})
    widget->setEnabled(own != nullptr);
  refreshStatus();
}

/// Was it made, and is that still true?
void ReportPage::refreshStatus()
{
  const Report* own = chosen();
  update_->setVisible(false);
  status_->setProperty("role", "quiet");
  if (own == nullptr) {
    status_->setText(tr("A report tells of cases and questions, as a page, PDF or text. Add one with +."));
    return;
  }
  const auto made = maker_.lastMade(own->id);
  if (!made) {
    status_->setText(document_.file().empty() ? tr("Save the project, then make the report.") : tr("Not made yet."));
    return;
  }
  const std::vector<std::string> why = maker_.outOfDate(own->id);
  const QString files = QString::fromStdString(made->files).replace('\n', ", ");
  update_->setVisible(!why.empty());
  QStringList reasons;
  for (const std::string& reason : why)
    reasons << inWords(reason);
  status_->setProperty("role", why.empty() ? "quiet" : "bad");
  status_->style()->unpolish(status_);
  status_->style()->polish(status_);
  status_->setText(why.empty() ? tr("✓ Up to date: %1, made %2.").arg(files, QString::fromStdString(made->made))
                               : tr("✗ Out of date: %1 (%2)").arg(reasons.join(' '), files));
}

void ReportPage::addReport()
{
  std::string id;
  document_.edit(tr("Add a report"), [&](Project& project) {
    Report report;
    report.sections = usualSections();
    id = addObject(project, project.reports, std::move(report), freeName(project, tr("Report").toStdString()));
  });
  refresh();
  list_->setCurrentIndex(list_->findData(QString::fromStdString(id)));
  refresh();
}

std::string ReportPage::chosenOrNew()
{
  refresh();
  if (document_.project().reports.empty())
    addReport();
  const Report* own = chosen();
  return own != nullptr ? own->id : document_.project().reports.front().id;
}

/// Works with a window that says how far it is; the main window stands still meanwhile. \return whether it was not
/// given up
bool ReportPage::watched(const std::function<void()>& work)
{
  editor_->takeText();
  QProgressDialog progress(tr("The report is made…"), tr("Cancel"), 0, 100, window());
  progress.setWindowModality(Qt::WindowModal);
  constexpr int patience = 500; // ms
  progress.setMinimumDuration(patience);
  maker_.setProgress([&](double share, const QString& what) {
    progress.setLabelText(tr("The report is made: %1").arg(what));
    progress.setValue(static_cast<int>(100 * share));
    return !progress.wasCanceled();
  });
  window()->setUpdatesEnabled(false); // cases are shown one after the other
  work();
  window()->setUpdatesEnabled(true);
  maker_.setProgress({});
  return !progress.wasCanceled();
}

std::optional<BuiltReport> ReportPage::built()
{
  const std::string id = chosen() != nullptr ? chosen()->id : std::string(); // what is typed is an edit: no pointers
  std::optional<BuiltReport> made;
  if (!id.empty())
    static_cast<void>(watched([&] { made = maker_.build(id); }));
  return made;
}

void ReportPage::tellUnknown(const BuiltReport& built)
{
  if (built.unknown.empty())
    return say({});
  QStringList names;
  for (const std::string& name : built.unknown)
    names << "{" + QString::fromStdString(name) + "}";
  say(tr("Nothing is known of %1: correct the name of the watch, parameter or case in the words.")
          .arg(names.join(", ")),
      true);
}

void ReportPage::showPreview()
{
  const auto made = built();
  if (!made)
    return;
  auto document = textDocument(made->content, 1, false);
  page_->setDocument(document.get());
  shown_ = std::move(document); // the one before goes now
  tellUnknown(*made);
}

void ReportPage::askForFile()
{
  const Report* own = chosen();
  if (own == nullptr)
    return;
  if (document_.file().empty())
    return say(tr("Save the project first: what a report was made of is kept beside it."), true);
  const QString usual = QString::fromStdString((document_.file().parent_path() / own->name).string()) + ".html";
  const QString file = QFileDialog::getSaveFileName(
      this, tr("Make the report"), usual, tr("Page for browsers (*.html);;PDF (*.pdf);;OpenDocument text (*.odt)"));
  if (!file.isEmpty())
    static_cast<void>(makeInto({file}));
}

bool ReportPage::makeInto(const QStringList& files)
{
  if (chosen() == nullptr)
    return false;
  std::optional<Expected<BuiltReport>> made;
  const std::string id = chosen()->id; // what is typed is an edit: no pointers
  if (!watched([&] { made = maker_.make(id, files); }))
    return false;
  if (!*made) {
    say(inWords(made->error()), true);
    return false;
  }
  auto document = textDocument((*made)->content, 1, false);
  page_->setDocument(document.get());
  shown_ = std::move(document);
  tellUnknown(**made);
  refreshStatus();
  return true;
}

void ReportPage::print()
{
  chosenOrNew();
  const auto made = built();
  if (!made)
    return;
  QPrinter printer(QPrinter::HighResolution);
  QPrintDialog dialog(&printer, this);
  dialog.setWindowTitle(tr("Print the report"));
  if (dialog.exec() == QDialog::Accepted)
    paintPages(made->content, printer);
}

/// Solves what is missing or old, then makes it again.
void ReportPage::bringUpToDate()
{
  const Report* own = chosen();
  if (own == nullptr)
    return;
  bringing_ = own->id;
  const std::vector<std::string> cases = maker_.casesToSolve(*own);
  const std::vector<std::string> questions = maker_.questionsToAsk(*own);
  if (!cases.empty())
    solver_.solve(cases);
  for (const std::string& id : questions)
    solver_.ask(id);
  say(cases.empty() && questions.empty() ? QString() : tr("What is needed is solved; then the report is made again."));
  goOnBringing();
}

void ReportPage::goOnBringing()
{
  if (bringing_.empty() || solver_.isRunning())
    return;
  const std::string id = std::exchange(bringing_, {});
  const Report* own = findById(document_.project().reports, id);
  const auto made = maker_.lastMade(id);
  if (own == nullptr || !made)
    return;
  if (!maker_.casesToSolve(*own).empty())
    return say(tr("Not all cases could be solved: see the queue. The report stays as it was."), true);
  list_->setCurrentIndex(list_->findData(QString::fromStdString(id)));
  static_cast<void>(makeInto(QString::fromStdString(made->files).split('\n')));
}

void ReportPage::rename()
{
  const Report* own = chosen();
  if (own == nullptr)
    return;
  bool taken = false;
  const QString name = QInputDialog::getText(this, tr("Rename the report"), tr("Name"), QLineEdit::Normal,
                                             QString::fromStdString(own->name), &taken);
  if (taken && !name.trimmed().isEmpty())
    document_.edit(tr("Rename the report"), [&, id = own->id](Project& project) {
      if (Report* named = findById(project.reports, id))
        named->name = name.trimmed().toStdString();
    });
}

void ReportPage::keepTemplate()
{
  editor_->takeText();
  const Report* own = chosen();
  if (own == nullptr)
    return;
  const QString file = QFileDialog::getSaveFileName(this, tr("Keep the report as a template"), "report.kiln-report",
                                                    tr("Report templates (*.kiln-report)"));
  if (file.isEmpty())
    return;
  if (auto kept = writeAtomically(file.toStdString(), reportTemplate(document_.project(), *own)); !kept)
    say(inWords(kept.error()), true);
}

void ReportPage::takeTemplateFile()
{
  const QString file =
      QFileDialog::getOpenFileName(this, tr("New report from a template"), {}, tr("Report templates (*.kiln-report)"));
  if (file.isEmpty())
    return;
  const Expected<TakenReport> taken = reportFromTemplate(document_, file);
  if (!taken)
    return say(inWords(taken.error()), true);
  refresh();
  list_->setCurrentIndex(list_->findData(QString::fromStdString(taken->id)));
  refresh();
  QStringList lines;
  for (const std::string& line : taken->unmatched)
    lines << QString::fromStdString(line);
  say(lines.join(' '));
}

void ReportPage::say(const QString& sentence, bool bad)
{
  said_->setText(sentence);
  said_->setVisible(!sentence.isEmpty());
  said_->setProperty("role", bad ? "bad" : "quiet");
  said_->style()->unpolish(said_);
  said_->style()->polish(said_);
}

} // namespace kiln
