// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportEditor.h"

#include "base/PackedText.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "model/Edit.h"

#include <QBuffer>
#include <QFileDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QImageReader>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

constexpr int idRole = Qt::UserRole, kindRole = Qt::UserRole + 1;

QString labelOf(ReportTopic topic) { return inWords(describing::reportTopics[static_cast<std::size_t>(topic)].label); }

QListWidgetItem* checkable(QListWidget& list, const QString& text, const std::string& id, bool checked)
{
  auto* item = new QListWidgetItem(text, &list);
  item->setData(idRole, QString::fromStdString(id));
  item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
  item->setCheckState(checked ? Qt::Checked : Qt::Unchecked);
  return item;
}

bool holds(const std::vector<std::string>& list, const std::string& id)
{
  return std::find(list.begin(), list.end(), id) != list.end();
}

} // namespace

ReportEditor::ReportEditor(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), subjects_(new QListWidget), sections_(new QListWidget),
      sectionTitle_(new QLineEdit), sectionText_(new QPlainTextEdit), remove_(new QToolButton), views_(new QToolButton),
      clearLogo_(new QToolButton), rest_(new QTimer(this))
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 6, 0);
  auto* form = new QFormLayout;
  form->setContentsMargins(0, 0, 0, 0);
  buildTitleBlock(*form);
  subjects_->setObjectName("reportSubjects");
  subjects_->setAccessibleName(tr("Cases and questions that the report tells of"));
  subjects_->setToolTip(tr("None checked: the case that is shown"));
  constexpr int lines = 5;
  const int line = fontMetrics().height();
  subjects_->setFixedHeight(line * lines + lines);
  sections_->setMinimumHeight(line * (lines + 3));
  sectionText_->setMinimumHeight(line * lines);
  for (QWidget* narrow : std::initializer_list<QWidget*>{subjects_, sections_, sectionText_})
    narrow->setMinimumWidth(line * lines);
  form->addRow(tr("Tells of"), subjects_);
  layout->addLayout(form);
  layout->addWidget(makeSections(), 1);
  connect(subjects_, &QListWidget::itemChanged, this, [this] { takeSubjects(); });
}

const Report* ReportEditor::report() const { return findById(document_.project().reports, reportId_); }

void ReportEditor::edit(const QString& name, const std::function<void(Report&)>& change)
{
  if (!refreshing_)
    document_.edit(name, [&](Project& project) {
      if (Report* own = findById(project.reports, reportId_))
        change(*own);
    });
}

void ReportEditor::editSection(const QString& name, const std::function<void(ReportSection&)>& change)
{
  edit(name, [&, id = chosenSection()](Report& report) {
    if (ReportSection* own = findById(report.sections, id))
      change(*own);
  });
}

void ReportEditor::buildTitleBlock(QFormLayout& form)
{
  const auto line = [&](const QString& label, const char* name, std::string Report::*member) {
    auto* field = new QLineEdit;
    field->setObjectName(name);
    field->setAccessibleName(label);
    connect(field, &QLineEdit::editingFinished, this, [this, field, member, label] {
      edit(tr("%1 of the report").arg(label),
           [&](Report& report) { report.*member = field->text().trimmed().toStdString(); });
    });
    form.addRow(label, field);
    lines_.emplace_back(field, member);
  };
  line(tr("Title"), "reportTitle", &Report::title);
  line(tr("By"), "reportAuthor", &Report::author);
  line(tr("Of"), "reportOrganisation", &Report::organisation);
  line(tr("Number"), "reportNumber", &Report::number);
  lines_.front().first->setPlaceholderText(tr("name of the project"));
  auto* logo = new QHBoxLayout;
  auto* choose = new QPushButton(tr("Choose a logo…"));
  choose->setObjectName("reportLogo");
  connect(choose, &QPushButton::clicked, this, [this] {
    const QString file = QFileDialog::getOpenFileName(this, tr("Logo of the title block"), {},
                                                      tr("Pictures (*.png *.jpg *.jpeg *.svg)"));
    if (file.isEmpty())
      return;
    if (auto taken = takeLogo(file); !taken)
      emit said(inWords(taken.error()));
  });
  logo->addWidget(choose);
  setIcon(*clearLogo_, "edit-clear");
  clearLogo_->setToolTip(tr("No logo"));
  clearLogo_->setAccessibleName(clearLogo_->toolTip());
  connect(clearLogo_, &QToolButton::clicked, this,
          [this] { edit(tr("No logo"), [](Report& report) { report.logo = {}; }); });
  logo->addWidget(clearLogo_);
  logo->addStretch();
  form.addRow(tr("Logo"), logo);
}

Expected<void> ReportEditor::takeLogo(const QString& file)
{
  const auto refuse = [&](const QString& problem) {
    return failure(Failure::Kind::Unreadable, "file " + file.toStdString(), problem.toStdString(),
                   tr("Choose a PNG, JPEG or SVG picture of moderate size.").toStdString());
  };
  QImageReader reader(file);
  constexpr qint64 mostPixels = 50'000'000;
  constexpr QSize most(800, 300);
  const QSize size = reader.size();
  if (!reader.canRead() || !size.isValid())
    return refuse(tr("It is no picture that can be read."));
  if (qint64(size.width()) * size.height() > mostPixels)
    return refuse(tr("It has %1 megapixels.").arg(qint64(size.width()) * size.height() / 1'000'000));
  if (size.width() > most.width() || size.height() > most.height())
    reader.setScaledSize(size.scaled(most, Qt::KeepAspectRatio));
  const QImage image = reader.read();
  if (image.isNull())
    return refuse(tr("It is no picture that can be read."));
  QByteArray bytes;
  QBuffer buffer(&bytes);
  image.save(&buffer, "PNG");
  edit(tr("Logo of the report"), [&](Report& own) { own.logo = SharedText(packedText(bytes.toStdString())); });
  return {};
}

QWidget* ReportEditor::makeSections()
{
  auto* side = new QWidget;
  auto* layout = new QVBoxLayout(side);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(3);
  auto* head = new QHBoxLayout;
  auto* label = new QLabel(tr("Sections, in their order"));
  label->setProperty("role", "quiet");
  label->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // a narrow page cuts it first
  head->addWidget(label, 1);
  const auto button = [&](QToolButton* tool, const char* icon, const QString& tip, const char* name, auto action) {
    setIcon(*tool, icon);
    tool->setToolTip(tip);
    tool->setAccessibleName(tip);
    tool->setObjectName(name);
    connect(tool, &QToolButton::clicked, this, action);
    head->addWidget(tool);
  };
  setIcon(*views_, "view-visible");
  views_->setToolTip(tr("Which views of the project are shown; none chosen: all"));
  views_->setAccessibleName(views_->toolTip());
  views_->setObjectName("sectionViews");
  views_->setPopupMode(QToolButton::InstantPopup);
  views_->setMenu(new QMenu(views_));
  connect(views_->menu(), &QMenu::aboutToShow, this, &ReportEditor::fillViewsMenu);
  head->addWidget(views_);
  button(new QToolButton, "arrow-up", tr("Earlier"), "sectionUp", [this] { moveSection(-1); });
  button(new QToolButton, "arrow-down", tr("Later"), "sectionDown", [this] { moveSection(1); });
  button(new QToolButton, "list-add", tr("Another section of own words"), "sectionAdd", [this] { addWords(); });
  button(remove_, "list-remove", tr("Remove this section of own words"), "sectionRemove", [this] { removeSection(); });
  layout->addLayout(head);
  sections_->setObjectName("reportSections");
  sections_->setAccessibleName(tr("Sections of the report"));
  sections_->setDragDropMode(QAbstractItemView::InternalMove);
  layout->addWidget(sections_, 2);
  sectionTitle_->setObjectName("sectionTitle");
  sectionTitle_->setAccessibleName(tr("Title of the section"));
  layout->addWidget(sectionTitle_);
  sectionText_->setObjectName("sectionText");
  sectionText_->setAccessibleName(tr("Own words of the section"));
  sectionText_->setTabChangesFocus(true);
  sectionText_->setPlaceholderText(tr("Own words before what it tells. {Shell, hottest} stands for that figure, "
                                      "{Shell, hottest | margin} for its margin, {Shell, hottest | Hold} for that of "
                                      "a case; {date}, {author}, {project}, {case}, any parameter."));
  layout->addWidget(sectionText_, 1);
  connect(sections_, &QListWidget::currentItemChanged, this, &ReportEditor::showSection);
  connect(sections_, &QListWidget::itemChanged, this, [this](const QListWidgetItem* item) {
    edit(tr("Section on or off"), [&](Report& own) {
      if (ReportSection* section = findById(own.sections, item->data(idRole).toString().toStdString()))
        section->off = item->checkState() != Qt::Checked;
    });
  });
  connect(sections_->model(), &QAbstractItemModel::rowsMoved, this, [this] { takeOrder(); });
  connect(sectionTitle_, &QLineEdit::editingFinished, this, [this] {
    editSection(tr("Title of a section"),
                [&](ReportSection& section) { section.title = sectionTitle_->text().trimmed().toStdString(); });
  });
  rest_->setSingleShot(true); // one undo step for what is typed in one go
  constexpr int pause = 800;  // ms
  rest_->setInterval(pause);
  connect(sectionText_, &QPlainTextEdit::textChanged, this, [this] {
    if (refreshing_)
      return;
    typedIn_ = chosenSection();
    rest_->start();
  });
  connect(rest_, &QTimer::timeout, this, &ReportEditor::takeText);
  return side;
}

/// What is typed and was not taken yet, into the section that it was typed in.
void ReportEditor::takeText()
{
  rest_->stop();
  const std::string id = std::exchange(typedIn_, {});
  if (!id.empty())
    edit(tr("Words of a section"), [&](Report& own) {
      if (ReportSection* section = findById(own.sections, id))
        section->text = sectionText_->toPlainText().toStdString();
    });
}

void ReportEditor::setReport(const std::string& reportId)
{
  takeText();
  reportId_ = reportId;
  refresh();
}

void ReportEditor::refresh()
{
  takeText();
  const Report* own = report();
  setEnabled(own != nullptr);
  if (own == nullptr)
    return;
  std::vector<std::string> names;
  for (const Case& one : document_.project().cases)
    names.push_back(one.name);
  for (const Question& one : document_.project().questions)
    names.push_back(one.name);
  if (shown_ == *own && names_ == names)
    return; // whoever scrolls or types is left alone
  shown_ = *own;
  names_ = std::move(names);
  refreshing_ = true;
  for (const auto& [field, member] : lines_)
    if (const QString text = QString::fromStdString(own->*member);
        field->text() != text && !(field->hasFocus() && field->isModified()))
      field->setText(text);
  clearLogo_->setVisible(!own->logo.empty());
  refreshSubjects(*own);
  refreshSections(*own);
  refreshing_ = false;
  showSection();
}

void ReportEditor::refreshSubjects(const Report& report)
{
  subjects_->clear();
  const Project& project = document_.project();
  for (const Case& one : project.cases)
    checkable(*subjects_, QString::fromStdString(one.name), one.id, holds(report.cases, one.id))
        ->setData(kindRole, "case");
  for (const Question& one : project.questions)
    checkable(*subjects_, tr("Question: %1").arg(QString::fromStdString(one.name)), one.id,
              holds(report.questions, one.id))
        ->setData(kindRole, "question");
}

void ReportEditor::refreshSections(const Report& report)
{
  const std::string before = chosenSection();
  sections_->clear();
  for (const ReportSection& section : report.sections) {
    const QString title = section.title.empty() ? labelOf(section.topic) : QString::fromStdString(section.title);
    QListWidgetItem* item = checkable(*sections_, title, section.id, !section.off);
    if (section.id == before)
      sections_->setCurrentItem(item);
  }
  if (sections_->currentItem() == nullptr && sections_->count() > 0)
    sections_->setCurrentRow(0);
}

std::string ReportEditor::chosenSection() const
{
  return sections_->currentItem() != nullptr ? sections_->currentItem()->data(idRole).toString().toStdString()
                                             : std::string();
}

void ReportEditor::showSection()
{
  if (refreshing_)
    return;
  takeText();
  const Report* own = report();
  const ReportSection* section = own != nullptr ? findById(own->sections, chosenSection()) : nullptr;
  sectionTitle_->setEnabled(section != nullptr);
  sectionText_->setEnabled(section != nullptr);
  remove_->setEnabled(section != nullptr && section->topic == ReportTopic::Words);
  views_->setVisible(section != nullptr && section->topic == ReportTopic::Views && !document_.project().views.empty());
  if (section == nullptr)
    return;
  refreshing_ = true;
  sectionTitle_->setPlaceholderText(labelOf(section->topic));
  if (!(sectionTitle_->hasFocus() && sectionTitle_->isModified()))
    sectionTitle_->setText(QString::fromStdString(section->title));
  if (const QString text = QString::fromStdString(section->text); sectionText_->toPlainText() != text)
    sectionText_->setPlainText(text);
  refreshing_ = false;
}

void ReportEditor::takeSubjects()
{
  edit(tr("What the report tells of"), [&](Report& own) {
    own.cases.clear();
    own.questions.clear();
    for (int i = 0; i < subjects_->count(); ++i)
      if (const QListWidgetItem* item = subjects_->item(i); item->checkState() == Qt::Checked)
        (item->data(kindRole) == "case" ? own.cases : own.questions)
            .push_back(item->data(idRole).toString().toStdString());
  });
}

void ReportEditor::takeOrder()
{
  edit(tr("Order of the sections"), [&](Report& own) {
    std::vector<ReportSection> ordered;
    for (int i = 0; i < sections_->count(); ++i)
      if (const ReportSection* section =
              findById(own.sections, sections_->item(i)->data(idRole).toString().toStdString()))
        ordered.push_back(*section);
    if (ordered.size() == own.sections.size())
      own.sections = std::move(ordered);
  });
}

void ReportEditor::moveSection(int by)
{
  edit(tr("Order of the sections"), [&, id = chosenSection()](Report& own) {
    const auto at =
        std::find_if(own.sections.begin(), own.sections.end(), [&](const auto& one) { return one.id == id; });
    const auto to = (at - own.sections.begin()) + by;
    if (at != own.sections.end() && to >= 0 && to < static_cast<std::ptrdiff_t>(own.sections.size()))
      std::iter_swap(at, own.sections.begin() + to);
  });
}

void ReportEditor::addWords()
{
  edit(tr("Another section"), [&, after = chosenSection()](Report& own) {
    ReportSection added;
    for (std::size_t i = own.sections.size() + 1; added.id.empty() || findById(own.sections, added.id) != nullptr; ++i)
      added.id = "s" + std::to_string(i);
    added.title = tr("Words").toStdString();
    const auto at =
        std::find_if(own.sections.begin(), own.sections.end(), [&](const auto& one) { return one.id == after; });
    own.sections.insert(at == own.sections.end() ? at : at + 1, added);
  });
}

void ReportEditor::removeSection()
{
  edit(tr("Remove a section"), [id = chosenSection()](Report& own) {
    std::erase_if(own.sections,
                  [&](const ReportSection& one) { return one.id == id && one.topic == ReportTopic::Words; });
  });
}

void ReportEditor::fillViewsMenu()
{
  QMenu& menu = *views_->menu();
  menu.clear();
  const Report* own = report();
  const ReportSection* section = own != nullptr ? findById(own->sections, chosenSection()) : nullptr;
  if (section == nullptr)
    return;
  for (const View& view : document_.project().views) {
    QAction* action = menu.addAction(QString::fromStdString(view.name));
    action->setCheckable(true);
    action->setChecked(holds(section->views, view.id));
    connect(action, &QAction::toggled, this, [this, id = view.id](bool on) {
      editSection(tr("Views of a section"), [&](ReportSection& one) {
        std::erase(one.views, id);
        if (on)
          one.views.push_back(id);
      });
    });
  }
}

} // namespace kiln
