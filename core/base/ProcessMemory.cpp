// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/ProcessMemory.h"

#include <fstream>
#include <string>

namespace kiln
{
namespace
{

/// A line "Key:   1234 kB" of a file of the system, B; 0 where there is none.
double lineOf(const std::string& file, const std::string& key)
{
  constexpr double kilobyte = 1024;
  std::ifstream lines(file);
  for (std::string word; lines >> word;)
    if (double value = 0; word == key && lines >> value)
      return kilobyte * value;
  return 0;
}

} // namespace

double peakMemory(long process) { return lineOf("/proc/" + std::to_string(process) + "/status", "VmHWM:"); }

double availableMemory() { return lineOf("/proc/meminfo", "MemAvailable:"); }

} // namespace kiln
