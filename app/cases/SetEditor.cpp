// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/SetEditor.h"

#include "fields/FormRows.h"
#include "io/AtomicFile.h"
#include "io/CasesFile.h"
#include "io/Library.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDir>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

QString words(const std::string& text) { return QString::fromStdString(text); }

const char* const setEnding = ".kiln-set";

/// Where the user's own sets are kept.
std::filesystem::path keptFolder() { return userLibraryFile().parent_path() / "sets"; }

} // namespace

SetEditor::SetEditor(Document& document, Preferences& preferences, QWidget* parent)
    : QDialog(parent), document_(document), preferences_(preferences), list_(new QListWidget), right_(new QVBoxLayout),
      message_(quietLabel({}))
{
  setObjectName("setEditor");
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("Property sets"));
  auto* layout = new QVBoxLayout(this);
  layout->addWidget(
      quietLabel(tr("Values that belong together, such as “Aged” or “Winter”. A case takes a set by naming "
                    "it in its editor; what it has of its own counts before it.")));
  auto* both = new QHBoxLayout;
  auto* left = new QVBoxLayout;
  list_->setObjectName("setList");
  list_->setAccessibleName(tr("Property sets"));
  left->addWidget(list_, 1);
  const auto button = [&](const QString& text, const QString& tip, const char* name, auto&& action) {
    auto* made = new QPushButton(text);
    made->setObjectName(name);
    made->setToolTip(tip);
    made->setAutoDefault(false);
    connect(made, &QPushButton::clicked, this, action);
    left->addWidget(made);
  };
  button(tr("From the shown case"), tr("What it has of its own becomes a set, which it then takes"), "setFromCase",
         &SetEditor::makeFromCase);
  button(tr("Rename…"), tr("Another name for the chosen set"), "setRename", &SetEditor::renameChosen);
  button(tr("Remove"), tr("Cases that take it do without"), "setRemove", &SetEditor::removeChosen);
  button(tr("Keep in my library"), tr("For other projects: there its values are matched by name"), "setKeep",
         &SetEditor::keep);
  button(tr("Take from my library…"), tr("Adds a set that was kept"), "setTake", &SetEditor::takeKept);
  both->addLayout(left, 1);
  both->addLayout(right_, 2);
  layout->addLayout(both, 1);
  message_->setObjectName("setMessage");
  layout->addWidget(message_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  buttons->button(QDialogButtonBox::Close)->setAutoDefault(false); // Enter ends a field, not the dialog
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::close);
  layout->addWidget(buttons);
  connect(list_, &QListWidget::currentRowChanged, this, &SetEditor::rebuildValues);
  connect(&document, &Document::projectChanged, this, &SetEditor::refresh);
  constexpr int characters = 110;
  resize(fontMetrics().averageCharWidth() * characters, fontMetrics().height() * 24);
  refresh();
}

std::string SetEditor::chosen() const
{
  const QListWidgetItem* item = list_->currentItem();
  return item != nullptr ? item->data(Qt::UserRole).toString().toStdString() : std::string();
}

void SetEditor::say(const QString& sentence) { message_->setText(sentence); }

void SetEditor::refresh()
{
  const std::string before = chosen();
  const QSignalBlocker quiet(list_);
  list_->clear();
  for (const PropertySet& set : document_.project().sets) {
    const auto& cases = document_.project().cases;
    const auto users = std::count_if(cases.begin(), cases.end(), [&](const Case& one) {
      const std::vector<std::string> taken = setsOf(one);
      return std::find(taken.begin(), taken.end(), set.id) != taken.end();
    });
    auto* item =
        new QListWidgetItem(tr("%1 (%2 values, %3 cases)").arg(words(set.name)).arg(set.changes.size()).arg(users));
    item->setData(Qt::UserRole, words(set.id));
    list_->addItem(item);
    if (set.id == before)
      list_->setCurrentItem(item);
  }
  if (list_->currentItem() == nullptr && list_->count() > 0)
    list_->setCurrentRow(0);
  rebuildValues();
}

void SetEditor::rebuildValues()
{
  if (values_ != nullptr) {
    values_->hide();
    values_->deleteLater(); // an editor of it may be at work
  }
  auto* scroll = new QScrollArea;
  values_ = scroll;
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  auto* body = new QWidget;
  auto* layout = new QVBoxLayout(body);
  const PropertySet* set = findById(document_.project().sets, chosen());
  if (set == nullptr) {
    layout->addWidget(quietLabel(tr("There is none yet. Change values in one case alone, then make a set of them.")));
  } else {
    auto* form = new QFormLayout;
    Project seen = withChoices(document_.project(), set->changes);
    const std::vector<Field> all = settings(seen);
    for (const Change& change : set->changes)
      addValueRow(*form, set->id, change, seen, all);
    layout->addLayout(form);
    addChoice(*layout, set->id);
  }
  layout->addStretch();
  scroll->setWidget(body);
  right_->addWidget(scroll);
}

void SetEditor::addValueRow(QFormLayout& form, const std::string& setId, const Change& change, Project& seen,
                            const std::vector<Field>& fields)
{
  const Field* field = fieldAt(fields, change.field);
  auto* row = new QHBoxLayout;
  if (field != nullptr) {
    auto* edit = new QLineEdit(words(settingText(seen, *field, change.value, preferences_.temperatureUnit())));
    edit->setObjectName("setValue:" + words(change.field));
    edit->setToolTip(words(change.field));
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, setId, path = change.field] {
      Project now = document_.project();
      const PropertySet* own = findById(now.sets, setId);
      if (own == nullptr || !edit->isModified())
        return;
      edit->setModified(false);
      Project with = withChoices(now, own->changes);
      const std::vector<Field> all = settings(with);
      const Field* target = fieldAt(all, path);
      const auto value = target != nullptr ? readSetting(with, *target, edit->text().toStdString())
                                           : tl::unexpected(Failure{Failure::Kind::NotReady, path, "It is gone.", ""});
      if (!value)
        return say(inWords(value.error()));
      say({});
      document_.edit(tr("Value of a set"), [&](Project& project) {
        for (Change& one : findById(project.sets, setId)->changes)
          if (one.field == path)
            one.value = *value;
      });
    });
    row->addWidget(edit, 1);
  } else {
    row->addWidget(quietLabel(tr("nothing of this project matches it")), 1);
  }
  auto* remove = new QToolButton;
  setIcon(*remove, "list-remove");
  remove->setToolTip(tr("Take it out of the set"));
  remove->setAccessibleName(remove->toolTip());
  remove->setObjectName("setDrop:" + words(change.field));
  connect(remove, &QToolButton::clicked, this, [this, setId, path = change.field] {
    document_.edit(tr("Value of a set"), [&](Project& project) {
      std::erase_if(findById(project.sets, setId)->changes, [&](const Change& one) { return one.field == path; });
    });
  });
  row->addWidget(remove);
  form.addRow(field != nullptr ? inWords(field->objectName) + ", " + inWords(field->label) : words(change.field), row);
}

void SetEditor::addChoice(QVBoxLayout& layout, const std::string& setId)
{
  auto* choice = new QComboBox;
  choice->setObjectName("setAdd");
  choice->setAccessibleName(tr("Add a value to the set"));
  choice->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  choice->addItem(tr("add a value…"), QString());
  Project walked = document_.project();
  constexpr Refers notHere = Refers::Case | Refers::Set;
  for (const Field& field : settings(walked))
    if (!field.objectId.empty() && !(kindOfObject(walked, field.objectId) & notHere))
      choice->addItem(inWords(field.objectName) + ", " + inWords(field.label), words(field.path));
  connect(choice, &QComboBox::activated, this, [this, choice, setId] {
    const std::string path = choice->currentData().toString().toStdString();
    Project now = document_.project();
    const std::vector<Field> all = settings(now);
    const Field* field = fieldAt(all, path);
    if (field == nullptr)
      return;
    const OwnValue held = field->held();
    document_.edit(tr("Value of a set"), [&](Project& project) {
      std::vector<Change>& changes = findById(project.sets, setId)->changes;
      if (std::none_of(changes.begin(), changes.end(), [&](const Change& one) { return one.field == path; }))
        changes.push_back({path, held});
    });
  });
  layout.addWidget(choice);
}

void SetEditor::makeFromCase()
{
  const Case* shown = document_.shownCaseObject();
  if (shown == nullptr || shown->changes.empty())
    return say(tr("The shown case changes nothing. Set some values with “this case only”, then come back."));
  bool sure = false;
  const QString name = QInputDialog::getText(this, tr("Name of the set"), tr("Name"), QLineEdit::Normal,
                                             words(freeName(document_.project(), shown->name)), &sure);
  if (!sure || name.trimmed().isEmpty())
    return;
  document_.edit(tr("Make a property set"), [&, caseId = shown->id](Project& project) {
    Case* own = findById(project.cases, caseId);
    PropertySet set;
    set.changes = std::move(own->changes);
    own->changes.clear();
    const std::string called = freeName(project, name.trimmed().toStdString());
    own->sets.push_back(addObject(project, project.sets, std::move(set), called));
  });
  list_->setCurrentRow(list_->count() - 1);
}

void SetEditor::removeChosen()
{
  const std::string id = chosen();
  if (!id.empty())
    document_.edit(tr("Remove a property set"), [&](Project& project) { removeObject(project, id); });
}

void SetEditor::renameChosen()
{
  const PropertySet* set = findById(document_.project().sets, chosen());
  if (set == nullptr)
    return;
  bool sure = false;
  const QString name =
      QInputDialog::getText(this, tr("Name of the set"), tr("Name"), QLineEdit::Normal, words(set->name), &sure);
  if (sure && !name.trimmed().isEmpty())
    document_.edit(tr("Name of a set"), [&, id = set->id](Project& project) {
      findById(project.sets, id)->name = name.trimmed().toStdString();
    });
}

void SetEditor::keep()
{
  const PropertySet* set = findById(document_.project().sets, chosen());
  if (set == nullptr)
    return;
  std::error_code failed;
  std::filesystem::create_directories(keptFolder(), failed);
  const std::filesystem::path file = keptFolder() / (safeFileName(set->name) + setEnding);
  const auto written = writeAtomically(file, exportCases(document_.project(), {set->id}));
  say(written ? tr("Kept as %1.").arg(words(file.string())) : inWords(written.error()));
}

void SetEditor::takeKept()
{
  QDir folder(words(keptFolder().string()));
  QStringList files = folder.entryList({QString("*") + setEnding}, QDir::Files, QDir::Name);
  if (files.isEmpty())
    return say(tr("Your library holds no property set yet."));
  bool sure = false;
  const QString file =
      QInputDialog::getItem(this, tr("Take from my library"), tr("Property set"), files, 0, false, &sure);
  if (!sure)
    return;
  const auto text = readWhole(keptFolder() / file.toStdString());
  if (!text)
    return say(inWords(text.error()));
  QStringList said;
  document_.edit(tr("Take a property set"), [&](Project& project) {
    const auto taken = importCases(project, *text, file.toStdString());
    if (!taken)
      said << inWords(taken.error());
    else
      for (const std::string& sentence : taken->unmatched)
        said << words(sentence);
  });
  say(said.isEmpty() ? tr("Taken: all of its values have a match here.") : said.join("\n"));
}

void editPropertySets(Document& document, Preferences& preferences, QWidget* parent)
{
  (new SetEditor(document, preferences, parent))->show();
}

} // namespace kiln
