// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/CoefficientHelper.h"

#include "fields/BoundField.h"
#include "fields/QuantityField.h"
#include "geometry/SurfaceFaces.h"
#include "heat/boundaries/FlowFromShape.h"
#include "io/Library.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "model/RoundNumber.h"
#include "results/Figures.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

namespace kiln
{
namespace
{

constexpr int situations = 9;

QString words(std::string_view text) { return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size())); }

QString rangeText(double low, double high)
{
  return QString::number(low, 'g', 6) + "–" + QString::number(high, 'g', 6) + " W/(m²·K)";
}

QToolButton* menuButton(const QString& text, const char* name)
{
  auto* button = new QToolButton;
  button->setText(text);
  button->setObjectName(name);
  button->setPopupMode(QToolButton::InstantPopup);
  button->setMenu(new QMenu(button));
  return button;
}

} // namespace

double surfaceTemperatureOf(const Document& document, const Boundary& boundary, double ambient)
{
  constexpr double guess = 40; // K above the ambient
  const auto result = document.shownState().result;
  if (!result)
    return ambient + guess;
  Watch watch;
  watch.figure = SurfaceFigure{PartFigure::Kind::Mean, surfaceOf(boundary)};
  return readWatch(document.shownProject(), *result, watch).value.value_or(ambient + guess);
}

CoefficientHelper::CoefficientHelper(Document& document, Preferences& preferences, std::string boundaryId,
                                     QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), id_(std::move(boundaryId))
{
  setObjectName("coefficientHelper");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 2, 0, 2);
  layout->setSpacing(4);
  if (boundary() == nullptr)
    return;
  if (const auto* flow = std::get_if<CorrelatedConvection>(&boundary()->condition))
    buildForCorrelation(*flow);
  else
    buildForNumber();
  connect(&document, &Document::projectChanged, this, &CoefficientHelper::refresh);
  connect(&document, &Document::resultChanged, this, &CoefficientHelper::refresh);
  refresh();
}

const Boundary* CoefficientHelper::boundary() const { return findById(document_.project().boundaries, id_); }

void CoefficientHelper::buildForNumber()
{
  QToolButton* attach = menuButton(tr("From a correlation ▾"), "attachCorrelation");
  attach->menu()->addAction(tr("as the surface lies"), this, [this] { this->attach(std::nullopt); });
  for (int i = 0; i < situations; ++i)
    attach->menu()->addAction(inWords(situationName(static_cast<FlowSituation>(i))), this,
                              [this, i] { this->attach(static_cast<FlowSituation>(i)); });
  layout()->addWidget(attach);
  QToolButton* usual = menuButton(tr("Usual values ▾"), "usualCoefficients");
  for (const CoefficientRange& range : coefficientRanges())
    usual->menu()->addAction(words(range.situation) + "   " + rangeText(range.low, range.high), this, [this, range] {
      const Number middle = coefficientNumber(std::sqrt(range.low * range.high));
      document_.edit(tr("Usual coefficient"), [&](Project& project) {
        auto& own = std::get<Convection>(findById(project.boundaries, id_)->condition);
        own.coefficient = middle;
        own.situation = range.situation;
      });
    });
  layout()->addWidget(usual);
  addSituation();
}

/// What the number is meant for; one far from what is usual there becomes a hint.
void CoefficientHelper::addSituation()
{
  const auto* convection = std::get_if<Convection>(&boundary()->condition);
  if (convection == nullptr)
    return;
  auto* choice = new QComboBox;
  choice->setObjectName("meantFor");
  choice->setAccessibleName(tr("Meant for"));
  choice->addItem(tr("not said what flow it is for"), QString());
  for (const CoefficientRange& range : coefficientRanges())
    choice->addItem(tr("for %1").arg(words(range.situation)), words(range.situation));
  choice->setCurrentIndex(std::max(choice->findData(QString::fromStdString(convection->situation)), 0));
  choice->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  connect(choice, &QComboBox::activated, this, [this, choice] {
    document_.edit(tr("Situation of a coefficient"), [&](Project& project) {
      std::get<Convection>(findById(project.boundaries, id_)->condition).situation =
          choice->currentData().toString().toStdString();
    });
  });
  layout()->addWidget(choice);
}

void CoefficientHelper::buildForCorrelation(const CorrelatedConvection& flow)
{
  auto* situation = new QComboBox;
  situation->setObjectName("situationChoice");
  situation->setAccessibleName(tr("Situation"));
  for (int i = 0; i < situations; ++i)
    situation->addItem(inWords(situationName(static_cast<FlowSituation>(i))));
  situation->setCurrentIndex(static_cast<int>(flow.situation));
  situation->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  connect(situation, &QComboBox::activated, this, [this](int index) { attach(static_cast<FlowSituation>(index)); });
  layout()->addWidget(situation);
  auto* fluid = new QComboBox;
  fluid->setObjectName("fluidChoice");
  fluid->setAccessibleName(tr("Fluid"));
  fluid->addItems({tr("air"), tr("water")});
  fluid->setCurrentIndex(static_cast<int>(flow.fluid));
  connect(fluid, &QComboBox::activated, this, [this](int index) {
    document_.edit(tr("Fluid"), [&](Project& project) {
      std::get<CorrelatedConvection>(findById(project.boundaries, id_)->condition).fluid = static_cast<Fluid>(index);
    });
  });
  layout()->addWidget(fluid);
  reading_ = new QLabel;
  reading_->setObjectName("correlationReading");
  reading_->setWordWrap(true);
  layout()->addWidget(reading_);
  if (!document_.project().environment)
    askEnvironment();
  auto* form = new QFormLayout;
  Project shown = document_.shownProject();
  for (const Field& field : fields(shown))
    if (field.path.starts_with("environment.")) {
      auto* edit = new BoundField(document_, preferences_, field);
      form->addRow(inWords(field.label), edit);
    }
  qobject_cast<QVBoxLayout*>(layout())->addLayout(form);
  auto* put = new QToolButton;
  put->setText(tr("Put this number instead"));
  put->setObjectName("putCoefficient");
  connect(put, &QToolButton::clicked, this, &CoefficientHelper::putNumber);
  layout()->addWidget(put);
}

void CoefficientHelper::attach(std::optional<FlowSituation> situation)
{
  document_.edit(tr("Coefficient from a correlation"), [&](Project& project) {
    Boundary* own = findById(project.boundaries, id_);
    own->condition = correlationFor(document_.shownProject(), document_.shownMesh().get(), *own, situation);
  });
}

/// Once a project: which way is down, and how thick is the air? Until it is answered the usual values count.
void CoefficientHelper::askEnvironment()
{
  auto* box = new QFrame;
  box->setObjectName("environmentQuestion");
  box->setFrameShape(QFrame::StyledPanel);
  auto* form = new QFormLayout(box);
  auto* question = new QLabel(tr("Asked once a project: which way does gravity pull, and what is the air pressure?"));
  question->setWordWrap(true);
  form->addRow(question);
  auto* gravity = new QComboBox;
  gravity->setObjectName("gravityChoice");
  gravity->setAccessibleName(tr("Gravity pulls along"));
  gravity->addItems({"−z", "+z", "−y", "+y", "−x", "+x"});
  form->addRow(tr("Gravity along"), gravity);
  auto* pressure = new QuantityField(Quantity::Pressure, Range::Positive);
  pressure->setObjectName("pressureAnswer");
  pressure->setAccessibleName(tr("Air pressure"));
  pressure->setNumber(Environment{}.airPressure);
  form->addRow(tr("Air pressure"), pressure);
  auto* use = new QPushButton(tr("Use these"));
  use->setObjectName("useEnvironment");
  connect(use, &QPushButton::clicked, this, [this, gravity, pressure] {
    Environment answer;
    answer.gravity = {};
    const int choice = gravity->currentIndex();
    const std::array<Number*, 3> axes{&answer.gravity.z, &answer.gravity.y, &answer.gravity.x};
    *axes[static_cast<std::size_t>(choice / 2)] = {choice % 2 == 0 ? -1.0 : 1.0, {}, false};
    if (pressure->number())
      answer.airPressure = *pressure->number();
    document_.edit(tr("Gravity and air pressure"), [&](Project& project) { project.environment = answer; });
  });
  form->addRow(use);
  layout()->addWidget(box);
}

void CoefficientHelper::putNumber()
{
  const auto* flow = std::get_if<CorrelatedConvection>(&boundary()->condition);
  if (flow == nullptr)
    return;
  const double surface = surfaceTemperatureOf(document_, *boundary(), flow->ambient.si);
  const auto result = correlate(*flow, document_.project().environment.value_or(Environment{}), surface);
  if (!result)
    return;
  document_.edit(tr("Coefficient as a number"), [&](Project& project) {
    Boundary* own = findById(project.boundaries, id_);
    const CorrelatedConvection before = std::get<CorrelatedConvection>(own->condition);
    own->condition = Convection{before.surface, coefficientNumber(result->coefficient), before.ambient};
  });
}

void CoefficientHelper::refresh()
{
  if (reading_ == nullptr || boundary() == nullptr)
    return;
  const Project& project = document_.shownProject();
  const Boundary* own = findById(project.boundaries, id_);
  const auto* flow = own != nullptr ? std::get_if<CorrelatedConvection>(&own->condition) : nullptr;
  if (flow == nullptr)
    return;
  const double surface = surfaceTemperatureOf(document_, *own, flow->ambient.si);
  const auto r = correlate(*flow, project.environment.value_or(Environment{}), surface);
  if (!r) {
    reading_->setText(inWords(r.error()));
    return;
  }
  const auto temperature = [&](double kelvin) {
    return QString::fromStdString(formatQuantity(kelvin, Quantity::Temperature, preferences_.temperatureUnit()));
  };
  const bool forced = isForced(flow->situation);
  QString text = tr("<b>h = %1</b> with the surface at %2 (fluid at %3)")
                     .arg(QString::fromStdString(formatQuantity(r->coefficient, Quantity::AreaConductance, {}, 4)),
                          temperature(surface), temperature(r->filmTemperature));
  text += "<br>" + (forced ? tr("Re %1").arg(r->reynolds, 0, 'g', 3) : tr("Ra %1").arg(r->rayleigh, 0, 'g', 3)) +
          tr(" · Pr %1 · Nu %2 · %3")
              .arg(r->prandtl, 0, 'g', 3)
              .arg(r->nusselt, 0, 'g', 4)
              .arg(QString::fromStdString(r->regime));
  text += "<br>" + tr("size is the %1").arg(inWords(sizeMeaning(flow->situation))) + " · " +
          QString::fromStdString(r->source);
  const QString range = QString::fromStdString(r->validity);
  text += "<br>" + (r->inRange ? tr("within its range, %1").arg(range)
                               : "<span style='color:" + theme().warning.name() + "'>" +
                                     tr("outside its range, %1").arg(range) + "</span>");
  text += "<br>" + tr("h follows the surface temperature during the solve.");
  reading_->setText(text);
}

QWidget* makeContactHelper(Document& document, const std::string& partA, const std::string& partB)
{
  QToolButton* usual = menuButton(CoefficientHelper::tr("Usual values ▾"), "usualContacts");
  for (const CoefficientRange& range : contactRanges())
    usual->menu()->addAction(
        words(range.situation) + "   " + rangeText(range.low, range.high), usual, [&document, partA, partB, range] {
          document.edit(CoefficientHelper::tr("Usual contact"), [&](Project& project) {
            applyMend(project, {Mend::Action::ConfirmPerfect, {}, {partA, partB}});
            for (Contact& own : project.contacts)
              if (&own == findContact(project, partA, partB))
                own.exchange = AreaConductance{coefficientNumber(std::sqrt(range.low * range.high))};
          });
        });
  return usual;
}

namespace
{

/// Of the surface that a source heats, m²; 0: not known.
double heatedArea(const Document& document, const HeatSource& source)
{
  const auto mesh = document.shownMesh();
  return mesh ? facesOf(document.shownProject(), mesh->geometry, surfaceOf(source)).area : 0;
}

/// What the other way of saying it is.
void sayOtherWay(QToolButton& button, const Document& document, const std::string& sourceId)
{
  const HeatSource* source = findById(document.project().sources, sourceId);
  const auto* power = source != nullptr ? std::get_if<SurfacePower>(&source->heat) : nullptr;
  const auto* flux = source != nullptr ? std::get_if<SurfaceFlux>(&source->heat) : nullptr;
  const double area = power != nullptr || flux != nullptr ? heatedArea(document, *source) : 0;
  button.setEnabled(area > 0);
  if (area <= 0)
    return button.setText(power != nullptr ? CoefficientHelper::tr("As a heat flux")
                                           : CoefficientHelper::tr("As a total power"));
  const std::string value = power != nullptr ? formatQuantity(power->power.si / area, Quantity::HeatFlux)
                                             : formatQuantity(flux->flux.si * area, Quantity::Power);
  button.setText(
      CoefficientHelper::tr("As %1 over %2")
          .arg(QString::fromStdString(value), QString::fromStdString(formatQuantity(area, Quantity::Area, {}, 4))));
}

} // namespace

QWidget* makeFluxConverter(Document& document, const std::string& sourceId)
{
  auto* button = new QToolButton;
  button->setObjectName("convertFlux");
  sayOtherWay(*button, document, sourceId);
  for (const auto signal : {&Document::projectChanged, &Document::resultChanged})
    QObject::connect(&document, signal, button,
                     [button, &document, sourceId] { sayOtherWay(*button, document, sourceId); });
  QObject::connect(button, &QToolButton::clicked, button, [&document, sourceId] {
    document.edit(CoefficientHelper::tr("Total or per area"), [&](Project& project) {
      HeatSource* own = findById(project.sources, sourceId);
      const double area = heatedArea(document, *own);
      if (const auto* power = std::get_if<SurfacePower>(&own->heat))
        own->heat = SurfaceFlux{power->surface, Number{power->power.si / area, {}, false}};
      else if (const auto* flux = std::get_if<SurfaceFlux>(&own->heat))
        own->heat = SurfacePower{flux->surface, Number{flux->flux.si * area, {}, false}};
    });
  });
  return button;
}

QWidget* makeFinishChoice(Document& document, const std::string& surfaceId)
{
  QToolButton* button = menuButton(CoefficientHelper::tr("Finish from the library ▾"), "finishLibrary");
  for (const Finish& finish : builtInLibrary().finishes)
    button->menu()->addAction(QString::fromStdString(finish.name) + "   ε " + QString::number(finish.emissivity.si),
                              button, [&document, surfaceId, finish] {
                                document.edit(CoefficientHelper::tr("Finish of a surface"), [&](Project& project) {
                                  for (Finish& own : project.finishes)
                                    std::erase(own.surfaces, surfaceId);
                                  const std::string id = takeFinish(project, finish);
                                  findById(project.finishes, id)->surfaces.push_back(surfaceId);
                                });
                              });
  return button;
}

} // namespace kiln
