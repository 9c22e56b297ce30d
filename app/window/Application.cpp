// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/Application.h"

#include <QCoreApplication>
#include <QSurfaceFormat>

namespace kiln
{

void prepareApplication()
{
  QCoreApplication::setOrganizationName("usual-kiln");
  QCoreApplication::setApplicationName("usual-kiln");
  QCoreApplication::setApplicationVersion(KILN_VERSION);
  const auto setIfUnset = [](const char* name, const char* value) {
    if (!qEnvironmentVariableIsSet(name))
      qputenv(name, value);
  };
  setIfUnset("QT_QPA_PLATFORM", "xcb");
  setIfUnset("QT_XCB_GL_INTEGRATION", "xcb_glx");
  QSurfaceFormat format;
  format.setVersion(3, 2);
  format.setProfile(QSurfaceFormat::CoreProfile);
  format.setDepthBufferSize(24);
  format.setSamples(0);
  format.setSwapInterval(0);
  QSurfaceFormat::setDefaultFormat(format);
}

} // namespace kiln
