// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/ReadinessList.h"

#include "look/Language.h"
#include "look/Theme.h"

#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{

namespace
{

/// "[Confirm that it is perfect]": what mends the finding in one click.
QString mendLinks(const Finding& finding)
{
  QString links;
  for (std::size_t i = 0; i < finding.mends.size(); ++i)
    links += QString("&nbsp; <a style='color:%1' href='#mend%2'>%3</a>")
                 .arg(theme().accent.name())
                 .arg(i)
                 .arg(inWords(finding.mends[i].label).toHtmlEscaped());
  return links;
}

} // namespace

ReadinessList::ReadinessList(Document& document, QWidget* parent)
    : QFrame(parent), document_(document), lines_(new QVBoxLayout)
{
  setObjectName("readinessList");
  setAutoFillBackground(true);
  setFrameShape(QFrame::StyledPanel);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  auto* body = new QWidget;
  auto* bodyLayout = new QVBoxLayout(body);
  bodyLayout->setContentsMargins(12, 8, 12, 8);
  bodyLayout->addLayout(lines_);
  bodyLayout->addStretch();
  auto* scroll = new QScrollArea;
  scroll->setWidget(body);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  layout->addWidget(scroll);
  connect(&document, &Document::findingsChanged, this, &ReadinessList::refreshIfShown);
}

int ReadinessList::heightFor(int width) const
{
  constexpr int margins = 40; // around the lines, both ways
  int height = margins;
  for (int i = 0; i < lines_->count(); ++i)
    if (const QWidget* line = lines_->itemAt(i)->widget(); line != nullptr)
      height += std::max(line->heightForWidth(width - margins), fontMetrics().height()) + lines_->spacing();
  return height;
}

void ReadinessList::refreshIfShown()
{
  if (isVisible())
    refresh();
}

void ReadinessList::refresh()
{
  while (QLayoutItem* item = lines_->takeAt(0)) {
    if (item->widget() != nullptr) {
      item->widget()->hide();
      item->widget()->deleteLater();
    }
    delete item;
  }
  const auto& findings = document_.findings();
  if (findings.empty())
    lines_->addWidget(new QLabel(document_.geometryIsCurrent()
                                     ? tr("Ready: nothing is missing or doubtful.")
                                     : tr("Nothing is missing so far; faces are checked when the parts are meshed.")));
  constexpr std::size_t mostLines = 200; // errors come first
  for (std::size_t i = 0; i < std::min(findings.size(), mostLines); ++i) {
    const Finding& finding = findings[i];
    const bool error = finding.severity == Finding::Severity::Error;
    auto* line = new QLabel(
        QString("<span style='color:%1'>%2</span> <a style='color:%3;text-decoration:none' "
                "href='#%4'><b>%5</b></a>: %6 <span style='color:%7'>%8</span>")
            .arg((error ? theme().bad : theme().warning).name(), error ? "✕" : "▲", theme().text.name())
            .arg(i)
            .arg(QString::fromStdString(finding.object).toHtmlEscaped(), inWords(finding.problem).toHtmlEscaped(),
                 theme().quiet.name(), inWords(finding.remedy).toHtmlEscaped()) +
        mendLinks(finding));
    line->setWordWrap(true);
    line->setObjectName("finding:" + QString::number(i));
    line->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
    connect(line, &QLabel::linkActivated, this, [this, finding](const QString& link) {
      const QString mend = "#mend";
      if (link.startsWith(mend))
        emit mendWanted(finding.mends[link.mid(mend.size()).toUInt()]);
      else
        emit wanted(finding);
    });
    lines_->addWidget(line);
  }
  if (findings.size() > mostLines)
    lines_->addWidget(new QLabel(tr("and %n more", nullptr, static_cast<int>(findings.size() - mostLines))));
}

} // namespace kiln
