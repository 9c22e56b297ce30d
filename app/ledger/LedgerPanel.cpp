// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/LedgerPanel.h"

#include "fields/FormRows.h"
#include "ledger/LedgerRowView.h"
#include "ledger/NewObjects.h"
#include "look/Icons.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{
constexpr int layoutTime = 40; // ms until an opened row has its size

/// What belongs into a band and how the first of it comes there.
QString hintOf(Band band)
{
  switch (band) {
  case Band::HeatIn:
    return LedgerPanel::tr("Where heat enters: + adds a power in parts, a heat flux on a surface, the sun.");
  case Band::Parts:
    return LedgerPanel::tr("What it is made of: + adds a solid part; File → Take in geometry brings many.");
  case Band::Contacts:
    return LedgerPanel::tr("Parts that touch come here by themselves; + adds an enclosure that radiates inside.");
  case Band::Surroundings:
    return LedgerPanel::tr("Where heat leaves: + adds convection, radiation or a held temperature.");
  case Band::Stored:
    break;
  }
  return {};
}
} // namespace

LedgerPanel::LedgerPanel(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), filter_(new QLineEdit), scroll_(new QScrollArea)
{
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 6, 0, 0);
  layout->setSpacing(4);
  filter_->setObjectName("ledgerFilter");
  filter_->setPlaceholderText(tr("Filter the ledger"));
  filter_->setAccessibleName(tr("Filter the ledger"));
  filter_->setClearButtonEnabled(true);
  auto* filterRow = new QHBoxLayout;
  filterRow->setContentsMargins(8, 0, 8, 0);
  filterRow->addWidget(filter_);
  layout->addLayout(filterRow);
  layout->addLayout(makeScope());
  auto* body = new QWidget;
  body->setObjectName("panelBody");
  auto* bodyLayout = new QVBoxLayout(body);
  bodyLayout->setContentsMargins(0, 0, 0, 8);
  bodyLayout->setSpacing(0);
  for (const Band band : {Band::HeatIn, Band::Parts, Band::Contacts, Band::Surroundings, Band::Stored}) {
    auto* head = new QHBoxLayout;
    head->setContentsMargins(10, 8, 10, 2);
    BandView view{band, new QLabel, new QLabel, new QVBoxLayout, quietLabel(hintOf(band)), {}};
    view.title->setProperty("role", "title");
    view.total->setObjectName("bandTotal:" + QString::number(static_cast<int>(band)));
    head->addWidget(view.title);
    head->addStretch();
    head->addWidget(view.total);
    if (band != Band::Stored)
      head->addWidget(makeAddButton(band));
    view.rows->setSpacing(0);
    bodyLayout->addLayout(head);
    bodyLayout->addLayout(view.rows);
    view.hint->setObjectName("bandHint:" + QString::number(static_cast<int>(band)));
    view.hint->setContentsMargins(12, 0, 12, 2);
    bodyLayout->addWidget(view.hint);
    bands_.push_back(view);
  }
  bodyLayout->addStretch();
  body->setMinimumWidth(1); // a row that wants more room than there is must not push all others under the scroll bar
  scroll_->setWidget(body);
  scroll_->setWidgetResizable(true);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll_->setFocusPolicy(Qt::NoFocus);
  layout->addWidget(scroll_);

  connect(filter_, &QLineEdit::textChanged, this, &LedgerPanel::applyFilter);
  connect(&document, &Document::resultChanged, this, &LedgerPanel::refresh);
  connect(&document, &Document::estimateChanged, this, &LedgerPanel::refresh);
  connect(&document, &Document::foldingChanged, this, &LedgerPanel::refresh);
  connect(&document, &Document::selectionChanged, this, &LedgerPanel::showSelection);
  connect(&preferences, &Preferences::unitChanged, this, &LedgerPanel::refresh);
  refresh();
}

/// Which cases an edit counts in, always in view.
QLayout* LedgerPanel::makeScope()
{
  auto* line = new QHBoxLayout;
  line->setContentsMargins(10, 0, 8, 0);
  auto* word = quietLabel(tr("Editing"));
  word->setWordWrap(false);
  auto* scope = new QComboBox;
  scope->setObjectName("editScopeChoice");
  scope->setAccessibleName(tr("What edits count in"));
  scope->setToolTip(tr("Whether what you set counts in every case or in the shown one alone (Ctrl+Shift+E)"));
  word->setBuddy(scope);
  line->addWidget(word);
  line->addWidget(scope, 1);
  const auto refresh = [this, scope, word] {
    const Case* shown = document_.shownCaseObject();
    const QSignalBlocker quiet(scope);
    scope->clear();
    scope->addItem(tr("the project: all cases"));
    const auto many = document_.selectedCases().size();
    scope->addItem(
        many > 1 ? tr("these %1 cases").arg(many)
                 : tr("this case only: %1").arg(shown != nullptr ? QString::fromStdString(shown->name) : QString()));
    scope->setCurrentIndex(document_.editsCaseOnly() ? 1 : 0);
    const bool matters = document_.project().cases.size() > 1;
    scope->setVisible(matters);
    word->setVisible(matters);
  };
  connect(scope, &QComboBox::activated, this, [this](int index) { document_.editCaseOnly(index == 1); });
  connect(&document_, &Document::editScopeChanged, scope, refresh);
  connect(&document_, &Document::projectChanged, scope, refresh);
  connect(&document_, &Document::shownCaseChanged, scope, refresh);
  refresh();
  return line;
}

QToolButton* LedgerPanel::makeAddButton(Band band)
{
  auto* add = new QToolButton;
  setIcon(*add, "list-add");
  add->setObjectName("add:" + QString::number(static_cast<int>(band)));
  add->setToolTip(tr("Add to this band"));
  add->setAccessibleName(band == Band::HeatIn     ? tr("Add a heat source")
                         : band == Band::Parts    ? tr("Add a part")
                         : band == Band::Contacts ? tr("Add an enclosure")
                                                  : tr("Add a boundary"));
  add->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(add);
  menu->setObjectName("addMenu:" + QString::number(static_cast<int>(band)));
  menu->setToolTipsVisible(true);
  connect(menu, &QMenu::aboutToShow, this, [this, menu, band] {
    menu->clear();
    for (const NewKind& kind : newKinds(document_, band))
      menu->addAction(kind.label, this, [this, kind] { openNew(addNew(document_, kind)); })->setToolTip(kind.help);
  });
  add->setMenu(menu);
  return add;
}

void LedgerPanel::focusRows()
{
  const std::vector<LedgerRowView*> rows = visibleRows();
  const auto selected = std::find_if(
      rows.begin(), rows.end(), [this](const LedgerRowView* row) { return row->row().id == document_.selectedId(); });
  if (!rows.empty())
    (selected != rows.end() ? *selected : rows.front())->setFocus(Qt::OtherFocusReason);
}

void LedgerPanel::openNew(const std::string& id)
{
  reveal(id);
  if (auto* name = findChild<QLineEdit*>("name:" + QString::fromStdString(id))) {
    name->setFocus(Qt::OtherFocusReason);
    name->selectAll();
  }
}

void LedgerPanel::refresh()
{
  std::vector<LedgerBand> bands = ledgerBands(document_, preferences_.temperatureUnit());
  for (std::size_t i = 0; i < bands.size(); ++i)
    refreshBand(bands_[i], std::move(bands[i]));
  applyFilter();
  showSelection();
}

void LedgerPanel::refreshBand(BandView& view, LedgerBand band)
{
  view.hint->setVisible(band.rows.empty() && !view.hint->text().isEmpty());
  const Quantity heat = heatQuantity(document_.shownProject());
  view.title->setText(band.title);
  view.total->setText(band.total ? QString::fromStdString(formatQuantity(*band.total, heat)) : QString());
  for (LedgerRow& row : band.rows)
    row.heat = heat;
  const bool outOfDate = document_.shownState().stage == CaseState::Stage::OutOfDate;
  const auto sameRow = [](const LedgerRowView* shown, const LedgerRow& row) { return shown->row().id == row.id; };
  const bool same = std::equal(view.views.begin(), view.views.end(), band.rows.begin(), band.rows.end(), sameRow);
  if (same) {
    for (std::size_t i = 0; i < band.rows.size(); ++i)
      view.views[i]->setRow(std::move(band.rows[i]), outOfDate);
    return;
  }
  std::vector<std::string> open;
  for (LedgerRowView* old : view.views) {
    if (old->isOpen())
      open.push_back(old->row().id);
    old->hide();
    old->deleteLater(); // it may be the one whose edit brought us here
  }
  view.views.clear();
  for (LedgerRow& row : band.rows) {
    const std::string id = row.id;
    auto* added = new LedgerRowView(document_, preferences_, row);
    added->setRow(std::move(row), outOfDate);
    added->setOpen(std::find(open.begin(), open.end(), id) != open.end());
    connect(added, &LedgerRowView::movedTo, this, [this, added](int direction) { move(added, direction); });
    connect(added, &LedgerRowView::reorderWanted, this, [this, added](int direction) { reorder(added, direction); });
    view.rows->addWidget(added);
    view.views.push_back(added);
  }
}

void LedgerPanel::applyFilter()
{
  const QString wanted = filter_->text().trimmed();
  for (const BandView& band : bands_)
    for (LedgerRowView* row : band.views)
      row->setVisible(wanted.isEmpty() || row->row().name.contains(wanted, Qt::CaseInsensitive) ||
                      row->row().set.contains(wanted, Qt::CaseInsensitive));
}

void LedgerPanel::showSelection()
{
  for (const BandView& band : bands_)
    for (LedgerRowView* row : band.views) {
      const std::vector<std::string>& all = document_.selectedIds();
      const bool selected = row->row().id == document_.selectedId();
      row->setPointed(!document_.pointedId().empty() && row->row().id == document_.pointedId());
      row->setSelected(selected || std::find(all.begin(), all.end(), row->row().id) != all.end());
      if (selected && !row->visibleRegion().contains(row->rect()))
        scroll_->ensureWidgetVisible(row, 0, 10);
    }
}

void LedgerPanel::reveal(const std::string& objectId)
{
  filter_->clear();
  document_.select(objectId);
  for (const BandView& band : bands_)
    for (LedgerRowView* row : band.views)
      if (row->row().id == objectId) {
        row->setOpen(true);
        row->setFocus(Qt::OtherFocusReason);
        QTimer::singleShot(layoutTime, row,
                           [this, row] { scroll_->ensureWidgetVisible(row, 0, 10); }); // once it has its size
      }
}

/// Moves a row one place up or down within its band.
void LedgerPanel::reorder(const LedgerRowView* row, int direction)
{
  for (const BandView& band : bands_) {
    const auto at = std::find(band.views.begin(), band.views.end(), row);
    if (at == band.views.end())
      continue;
    const auto place = at - band.views.begin();
    const auto size = static_cast<std::ptrdiff_t>(band.views.size());
    const std::ptrdiff_t before = direction < 0 ? place - 1 : place + 2;
    if (before < 0 || (direction > 0 && place + 1 >= size))
      return;
    const std::string id = row->row().id;
    document_.moveBefore(id, before < size ? band.views[static_cast<std::size_t>(before)]->row().id : std::string());
    document_.select(id);
    for (LedgerRowView* now : visibleRows())
      if (now->row().id == id)
        now->setFocus(Qt::ShortcutFocusReason);
    return;
  }
}

std::vector<LedgerRowView*> LedgerPanel::visibleRows() const
{
  std::vector<LedgerRowView*> rows;
  for (const BandView& band : bands_)
    for (LedgerRowView* row : band.views)
      if (row->isVisible())
        rows.push_back(row);
  return rows;
}

void LedgerPanel::move(LedgerRowView* from, int direction)
{
  const std::vector<LedgerRowView*> rows = visibleRows();
  const auto at = std::find(rows.begin(), rows.end(), from);
  const auto next = (at - rows.begin()) + direction;
  if (at == rows.end() || next < 0 || next >= static_cast<std::ptrdiff_t>(rows.size()))
    return;
  rows[static_cast<std::size_t>(next)]->setFocus(Qt::OtherFocusReason);
}

} // namespace kiln
