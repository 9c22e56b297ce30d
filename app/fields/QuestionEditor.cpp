// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/QuestionEditor.h"

#include "fields/FormRows.h"
#include "fields/SettingRows.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "model/OwnValues.h"
#include "questions/QuestionAnswer.h"

#include <QComboBox>
#include <QCompleter>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
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

bool belongsTo(const Field& field, const std::string& questionId, const Varied& varied)
{
  return field.path.starts_with(questionId + "." + varied.id + ".");
}

/// May a question vary it? Names, comments and the like change nothing.
bool mayVary(const Field& field, const Project& project)
{
  if (field.kind == Field::Kind::Text || field.kind == Field::Kind::References ||
      findById(project.questions, field.objectId))
    return false;
  const bool ofCase = field.kind == Field::Kind::Reference && field.reference->to & Refers::Set;
  return ofCase || (field.stage != Stage::Nothing && field.stage != Stage::Figures);
}

} // namespace

QuestionEditor::QuestionEditor(Document& document, Preferences& preferences, std::string questionId, QWidget* parent)
    : QDialog(parent), document_(document), preferences_(preferences), id_(std::move(questionId)),
      scroll_(new QScrollArea), said_(quietLabel({}))
{
  setObjectName("questionEditor");
  setAttribute(Qt::WA_DeleteOnClose);
  auto* layout = new QVBoxLayout(this);
  scroll_->setWidgetResizable(true);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->viewport()->setAutoFillBackground(false);
  layout->addWidget(scroll_, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  auto* ask = buttons->addButton(tr("Ask"), QDialogButtonBox::ActionRole);
  ask->setObjectName("questionEditorAsk");
  for (QAbstractButton* button : buttons->buttons())
    static_cast<QPushButton*>(button)->setAutoDefault(false); // Enter ends a field, not the dialog
  connect(ask, &QPushButton::clicked, this, [this] {
    emit askWanted();
    close();
  });
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::close);
  said_->setObjectName("questionProblem"); // always in sight
  layout->addWidget(said_);
  layout->addWidget(buttons);
  ask_ = ask;
  connect(&document, &Document::projectChanged, this, &QuestionEditor::rebuild);
  constexpr int characters = 74, lines = 30;
  resize(fontMetrics().averageCharWidth() * characters, fontMetrics().height() * lines);
  rebuild();
}

void QuestionEditor::rebuild()
{
  const Question* own = findById(document_.project().questions, id_);
  if (own == nullptr) {
    close();
    return;
  }
  setWindowTitle(tr("Question %1").arg(words(own->name)));
  auto* body = new QWidget;
  auto* layout = new QVBoxLayout(body);
  auto* form = new QFormLayout;
  const Readied readied = readiness(*own);
  said_->setText(readied.words);
  ask_->setEnabled(readied.good);
  SettingRows rows{document_, preferences_, *form};
  rows.say = [this](const QString& sentence, bool) { said_->setText(sentence); };
  const auto* sweep = std::get_if<AskSweep>(&own->asks);
  const bool samples = sweep == nullptr || sweep->way == SweepWay::Sobol || sweep->way == SweepWay::LatinHypercube;
  addSettingRows(rows, id_, [&](const Field& field) {
    if (!samples && (field.key == describing::samplesSpec.key || field.key == describing::seedSpec.key))
      return false; // of a sample
    return std::none_of(own->varies.begin(), own->varies.end(),
                        [&](const Varied& varied) { return belongsTo(field, id_, varied); });
  });
  layout->addLayout(form);
  layout->addWidget(quietLabel(tr("What varies")));
  for (const Varied& varied : own->varies) {
    const Field* field = document_.shownField(varied.field);
    addVaried(*layout, varied,
              field != nullptr ? inWords(shortLabel(document_.shownProject(), *field)) : words(varied.field));
  }
  addFieldChoice(*layout);
  layout->addStretch();
  if (QWidget* before = scroll_->takeWidget()) {
    before->hide();
    before->deleteLater(); // an editor of it may be at work
  }
  scroll_->setWidget(body);
}

QuestionEditor::Readied QuestionEditor::readiness(const Question& question) const
{
  const auto prepared = prepareQuestion(document_.project(), question);
  if (!prepared)
    return {inWords(prepared.error()), false};
  const auto points = sweptPoints(*prepared);
  if (!points)
    return {inWords(points.error()), false};
  return {points->empty() ? tr("It chooses its points as it goes.")
                          : tr("%n point(s).", nullptr, static_cast<int>(points->size())),
          true};
}

void QuestionEditor::change(const QString& name, const std::string& variedId, const std::function<void(Varied&)>& edit)
{
  document_.edit(name, [&](Project& project) {
    if (Question* own = findById(project.questions, id_))
      if (Varied* varied = findById(own->varies, variedId))
        edit(*varied);
  });
}

void QuestionEditor::addVaried(QVBoxLayout& layout, const Varied& varied, const QString& label)
{
  auto* frame = new QFrame;
  frame->setFrameShape(QFrame::StyledPanel);
  auto* inside = new QVBoxLayout(frame);
  auto* head = new QHBoxLayout;
  auto* name = new QLabel(label);
  name->setWordWrap(true);
  head->addWidget(name, 1);
  auto* remove = new QToolButton;
  remove->setObjectName("unvary:" + words(varied.field));
  remove->setToolTip(tr("It does not vary any more"));
  setIcon(*remove, "list-remove");
  connect(remove, &QToolButton::clicked, this, [this, id = varied.id] {
    document_.edit(tr("Vary one field less"), [&](Project& project) {
      if (Question* own = findById(project.questions, id_))
        std::erase_if(own->varies, [&](const Varied& one) { return one.id == id; });
    });
  });
  head->addWidget(remove);
  inside->addLayout(head);
  auto* form = new QFormLayout;
  SettingRows rows{document_, preferences_, *form};
  addSettingRows(rows, id_, [&](const Field& field) { return belongsTo(field, id_, varied) && field.key != "field"; });
  inside->addLayout(form);
  if (std::holds_alternative<VariedList>(varied.over))
    addValues(*inside, varied);
  layout.addWidget(frame);
}

/// Typed one after the other: "a; b; c".
void QuestionEditor::addValues(QVBoxLayout& layout, const Varied& varied)
{
  QStringList texts;
  for (const std::string& value : std::get<VariedList>(varied.over).values)
    texts << words(value);
  auto* edit = new QLineEdit(texts.join("; "));
  edit->setObjectName("values:" + words(varied.field));
  edit->setAccessibleName(tr("Values, with semicolons between them"));
  edit->setPlaceholderText(tr("values, with semicolons between them"));
  connect(edit, &QLineEdit::editingFinished, this, [this, edit, id = varied.id] {
    if (!edit->isModified())
      return;
    edit->setModified(false);
    std::vector<std::string> values;
    for (const QString& text : edit->text().split(';', Qt::SkipEmptyParts))
      if (!text.trimmed().isEmpty())
        values.push_back(text.trimmed().toStdString());
    change(tr("Values that vary"), id, [&](Varied& one) { one.over = VariedList{values}; });
  });
  layout.addWidget(edit);
}

void QuestionEditor::addFieldChoice(QVBoxLayout& layout)
{
  auto* choice = new QComboBox;
  choice->setObjectName("vary");
  choice->setAccessibleName(tr("Field that varies"));
  choice->setEditable(true);
  choice->setInsertPolicy(QComboBox::NoInsert);
  const Question* own = findById(document_.project().questions, id_);
  const Case* base = findById(document_.project().cases, own->base);
  const auto seen =
      base != nullptr ? projectForCase(document_.project(), *base) : Expected<Project>(document_.project());
  Project walked = seen ? *seen : document_.project();
  for (const Field& field : settings(walked))
    if (mayVary(field, walked))
      choice->addItem(inWords(field.objectName) + ", " + inWords(field.label), words(field.path));
  choice->completer()->setFilterMode(Qt::MatchContains);
  choice->completer()->setCompletionMode(QCompleter::PopupCompletion);
  choice->setCurrentIndex(-1);
  choice->lineEdit()->setPlaceholderText(tr("add a field: type a word of its name"));
  connect(choice, &QComboBox::activated, this, [this, choice](int index) {
    const std::string path = choice->itemData(index).toString().toStdString();
    Project all = document_.project();
    if (const Case* shown = findById(all.cases, findById(all.questions, id_)->base))
      if (auto own = projectForCase(all, *shown))
        all = std::move(*own);
    const std::vector<Field> fields = settings(all);
    if (const Field* field = fieldAt(fields, path))
      vary(*field);
  });
  layout.addWidget(choice);
}

/// About what is set, so that something can be asked at once.
void QuestionEditor::vary(const Field& field)
{
  const Question* own = findById(document_.project().questions, id_);
  Varied varied;
  varied.field = field.path;
  for (int i = 1; varied.id.empty() || findById(own->varies, varied.id) != nullptr; ++i)
    varied.id = "v" + std::to_string(i);
  const bool isNumber = field.kind == Field::Kind::Number && field.value() != nullptr;
  if (std::holds_alternative<AskSensitivity>(own->asks)) {
    varied.over = VariedTolerance{SpreadLaw::Even, field.quantity == Quantity::Temperature ? "5 K" : "10 %"};
  } else if (isNumber) {
    const double set = field.value()->si;
    const double low = field.quantity == Quantity::Temperature ? set - 20 : 0.5 * set;
    const double high = field.quantity == Quantity::Temperature ? set + 20 : 1.5 * set;
    VariedRange range;
    range.from = formatQuantity(low, field.quantity, TemperatureUnit::Celsius, 6);
    range.to = formatQuantity(high, field.quantity, TemperatureUnit::Celsius, 6);
    varied.over = range;
  } else if (field.kind == Field::Kind::Switch) {
    varied.over = VariedList{{"off", "on"}};
  } else {
    varied.over = VariedList{};
  }
  document_.edit(tr("Vary %1").arg(inWords(field.label)), [&](Project& project) {
    if (Question* question = findById(project.questions, id_))
      question->varies.push_back(varied);
  });
}

} // namespace kiln
