// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/Versions.h"

#include <CGAL/version.h>
#include <Eigen/Core>
#include <HYPRE_config.h>
#include <embree3/rtcore_config.h>
#include <hdf5.h>
#include <nlopt.h>
#include <oneapi/tbb/version.h>
#include <opencascade/Standard_Version.hxx>
#include <sqlite3.h>

namespace kiln
{

std::string ownVersion() { return KILN_VERSION; }

std::string libraryVersions()
{
  int major = 0;
  int minor = 0;
  int fix = 0;
  nlopt_version(&major, &minor, &fix);
  const auto dotted = [](int a, int b, int c) {
    return std::to_string(a) + "." + std::to_string(b) + "." + std::to_string(c);
  };
  return std::string("Open CASCADE ") + OCC_VERSION_COMPLETE + ", CGAL " + CGAL_VERSION_STR + ", TetGen 1.5" +
         ", hypre " + HYPRE_RELEASE_VERSION + ", Eigen " +
         dotted(EIGEN_WORLD_VERSION, EIGEN_MAJOR_VERSION, EIGEN_MINOR_VERSION) + ", Embree " + RTC_VERSION_STRING +
         ", TBB " + TBB_VERSION_STRING + ", HDF5 " + dotted(H5_VERS_MAJOR, H5_VERS_MINOR, H5_VERS_RELEASE) +
         ", SQLite " + SQLITE_VERSION + ", NLopt " + dotted(major, minor, fix);
}

} // namespace kiln
