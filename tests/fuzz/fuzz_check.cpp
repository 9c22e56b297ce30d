// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What `ukiln check` does, on any text: it must never crash. Entry point of a coverage-guided fuzzer
// (clang++ -fsanitize=fuzzer); driver.cpp runs it without one.
#include "io/ProjectFile.h"
#include "model/Formula.h"
#include "run/CaseRun.h"
#include "run/InputHash.h"

#include <cstddef>
#include <cstdint>
#include <cstdlib>
#include <string_view>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
  using namespace kiln;
  const auto project = readProject({reinterpret_cast<const char*>(data), size}, "fuzzed");
  if (!project)
    return project.error().sentence().empty() ? -1 : 0;
  const std::string written = writeProject(*project);
  const auto again = readProject(written, "again");
  if (!again || writeProject(*again) != written)
    std::abort(); // what was read once must be kept
  (void)inputHashes(*project);
  const auto findings = checkProject(*project);
  if (!findings && findings.error().problem.empty())
    std::abort(); // a refusal says why
  return 0;
}
