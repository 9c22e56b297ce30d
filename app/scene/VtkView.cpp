// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include <vtkActor.h>
#include <vtkActorCollection.h>
#include <vtkCallbackCommand.h>
#include <vtkCamera.h>
#include <vtkGenericOpenGLRenderWindow.h>
#include <vtkNew.h>
#include <vtkOpenGLFramebufferObject.h>
#include <vtkOpenGLRenderer.h>
#include <vtkOpenGLState.h>
#include <vtkPropCollection.h>
#include <vtkProperty.h>
#include <vtkRenderStepsPass.h>
#include <vtkRenderer.h>
#include <vtkSSAAPass.h>

#include "scene/VtkView.h"

#include <QElapsedTimer>
#include <QOpenGLContext>
#include <QOpenGLExtraFunctions>
#include <algorithm>
#include <cmath>

namespace kiln
{

struct VtkView::Handles {
  vtkNew<vtkGenericOpenGLRenderWindow> window;
  vtkNew<vtkRenderer> renderer;
  vtkNew<vtkRenderStepsPass> steps;
  vtkNew<vtkSSAAPass> finer; ///< several pixels for each that is shown
  vtkNew<vtkCallbackCommand> makeCurrent, isCurrent, supported, frame;
  std::array<unsigned long, 5> tags{};

  /// When anything that is drawn was changed last. The renderer's own time tells nothing: it moves whenever a pixel is
  /// asked for.
  [[nodiscard]] vtkMTimeType changed() const
  {
    vtkMTimeType latest = renderer->GetActiveCamera()->GetMTime();
    vtkPropCollection* props = renderer->GetViewProps();
    latest = std::max(latest, props->GetMTime());
    props->InitTraversal();
    while (vtkProp* prop = props->GetNextProp())
      latest = std::max(latest, prop->GetRedrawMTime());
    return latest;
  }
};

VtkView::VtkView(QWidget* parent) : QOpenGLWidget(parent), handles_(std::make_unique<Handles>())
{
  auto* window = handles_->window.GetPointer();
  window->SetReadyForRendering(false);
  window->SetOwnContext(0);
  window->SetMultiSamples(0);
  window->SetFrameBlitModeToNoBlit();
  window->AddRenderer(handles_->renderer);

  const auto observe = [this](vtkCallbackCommand* command, auto* function) {
    command->SetClientData(this);
    command->SetCallback(function);
  };
  observe(
      handles_->makeCurrent,
      +[](vtkObject*, unsigned long, void* self, void*) { static_cast<VtkView*>(self)->makeOwnContextCurrent(); });
  observe(
      handles_->isCurrent, +[](vtkObject*, unsigned long, void* self, void* answer) {
        auto* context = static_cast<VtkView*>(self)->context();
        *static_cast<bool*>(answer) = context != nullptr && QOpenGLContext::currentContext() == context;
      });
  observe(
      handles_->supported, +[](vtkObject*, unsigned long, void*, void* answer) { *static_cast<int*>(answer) = 1; });
  observe(
      handles_->frame, +[](vtkObject*, unsigned long, void* self, void*) {
        auto* view = static_cast<VtkView*>(self);
        if (!view->painting_)
          view->update();
      });
  handles_->tags = {window->AddObserver(vtkCommand::WindowMakeCurrentEvent, handles_->makeCurrent),
                    window->AddObserver(vtkCommand::WindowIsCurrentEvent, handles_->isCurrent),
                    window->AddObserver(vtkCommand::WindowSupportsOpenGLEvent, handles_->supported),
                    window->AddObserver(vtkCommand::WindowIsDirectEvent, handles_->supported),
                    window->AddObserver(vtkCommand::WindowFrameEvent, handles_->frame)};
  handles_->finer->SetDelegatePass(handles_->steps);
  constexpr int calm = 160; // ms without a movement
  rest_.setSingleShot(true);
  rest_.setInterval(calm);
  connect(&rest_, &QTimer::timeout, this, [this] {
    drawSmooth(true);
    update();
  });
  rest_.start();
  setUpdateBehavior(QOpenGLWidget::NoPartialUpdate);
  setMouseTracking(true);
}

VtkView::~VtkView()
{
  cleanup();
  disconnect(contextGone_); // the base class destroys the context when this is no longer a VtkView
  for (const unsigned long tag : handles_->tags)
    handles_->window->RemoveObserver(tag);
}

void VtkView::keepMoving()
{
  drawSmooth(false);
  rest_.start();
}

void VtkView::drawSmooth(bool smooth)
{
  constexpr float finer = 2; // lines are drawn on the finer pixels, and get a little thinner
  const float wide = smooth ? finer * static_cast<float>(devicePixelRatioF()) : 1; // wide ones take time
  vtkActorCollection* actors = handles_->renderer->GetActors();
  actors->InitTraversal();
  while (vtkActor* actor = wide == lineScale_ ? nullptr : actors->GetNextActor())
    actor->GetProperty()->SetLineWidth(actor->GetProperty()->GetLineWidth() * wide / lineScale_);
  lineScale_ = wide;
  if (smooth == smooth_)
    return;
  smooth_ = smooth;
  auto* renderer = vtkOpenGLRenderer::SafeDownCast(handles_->renderer);
  renderer->SetPass(smooth ? handles_->finer.Get() : nullptr);
}

vtkRenderer* VtkView::renderer() const { return handles_->renderer; }

void VtkView::makeOwnContextCurrent()
{
  // Making it current when it is already would rebind Qt's framebuffer behind VTK's cache.
  if (context() == nullptr || QOpenGLContext::currentContext() == context())
    return;
  makeCurrent();
  if (ready_)
    handles_->window->GetState()->ResetFramebufferBindings();
}

void VtkView::initializeGL()
{
  disconnect(contextGone_);
  contextGone_ = connect(context(), &QOpenGLContext::aboutToBeDestroyed, this, &VtkView::cleanup, Qt::DirectConnection);
  auto* window = handles_->window.GetPointer();
  window->SetReadyForRendering(true);
  window->SetMapped(1);
  window->SetIsDirect(1);
  window->SetSupportsOpenGL(1);
  window->SetForceMaximumHardwareLineWidth(1);
  ready_ = true;
  kept_ = {};
  syncSize();
  window->OpenGLInit();
}

void VtkView::syncSize()
{
  const double ratio = devicePixelRatioF();
  const int width = static_cast<int>(std::lround(this->width() * ratio));
  const int height = static_cast<int>(std::lround(this->height() * ratio));
  handles_->window->SetSize(width, height);
  handles_->window->SetScreenSize(width, height);
  constexpr double pointsPerInch = 72;
  handles_->window->SetDPI(static_cast<int>(std::lround(pointsPerInch * ratio)));
}

void VtkView::resizeGL(int /*width*/, int /*height*/) { syncSize(); }

void VtkView::paintGL()
{
  QElapsedTimer clock;
  clock.start();
  painting_ = true;
  auto* window = handles_->window.GetPointer();
  syncSize();
  vtkOpenGLState* state = window->GetState();
  state->Reset();
  state->Push();
  state->vtkglDepthFunc(GL_LEQUAL);
  const double* ground = renderer()->GetBackground();
  const Kept asked{QSize(window->GetSize()[0], window->GetSize()[1]),
                   handles_->changed(),
                   smooth_,
                   {ground[0], ground[1], ground[2]}};
  if (!(kept_ == asked)) { // else only what lies over it has changed
    window->Render();
    kept_ = asked;
    kept_.change = handles_->changed();
  }
  state->Pop();

  auto* gl = context()->extraFunctions();
  gl->glDisable(GL_SCISSOR_TEST);
  const int* size = window->GetSize();
  gl->glBindFramebuffer(GL_READ_FRAMEBUFFER, window->GetDisplayFramebuffer()->GetFBOIndex());
  gl->glBindFramebuffer(GL_DRAW_FRAMEBUFFER, defaultFramebufferObject());
  gl->glBlitFramebuffer(0, 0, size[0], size[1], 0, 0, size[0], size[1], GL_COLOR_BUFFER_BIT, GL_NEAREST);
  gl->glBindFramebuffer(GL_FRAMEBUFFER, defaultFramebufferObject());
  gl->glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_TRUE); // alpha below one would make grabbed pictures wrong
  gl->glClearColor(0, 0, 0, 1);
  gl->glClear(GL_COLOR_BUFFER_BIT);
  gl->glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
  painting_ = false;
  constexpr double nanosecondsInMillisecond = 1e6;
  frameMilliseconds_ = static_cast<double>(clock.nsecsElapsed()) / nanosecondsInMillisecond;
  emit frameDrawn();
}

void VtkView::cleanup()
{
  if (!ready_)
    return;
  makeCurrent();
  handles_->finer->ReleaseGraphicsResources(handles_->window);
  handles_->window->Finalize();
  ready_ = false;
  handles_->window->SetReadyForRendering(false);
  doneCurrent();
}

} // namespace kiln
