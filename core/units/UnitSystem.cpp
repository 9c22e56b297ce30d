// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "units/UnitSystem.h"

#include <array>
#include <map>
#include <memory>
#include <mutex>
#include <udunits2.h>
#include <utility>

namespace kiln::units
{
namespace
{

struct SystemDeleter {
  void operator()(ut_system* system) const { ut_free_system(system); }
};
struct UnitDeleter {
  void operator()(ut_unit* unit) const { ut_free(unit); }
};
struct ConverterDeleter {
  void operator()(cv_converter* converter) const { cv_free(converter); }
};
using UnitPtr = std::unique_ptr<ut_unit, UnitDeleter>;
using ConverterPtr = std::unique_ptr<cv_converter, ConverterDeleter>;

std::mutex& guard()
{
  static std::mutex mutex; // UDUNITS keeps global parser state
  return mutex;
}

const ut_system* unitSystem()
{
  static const std::unique_ptr<ut_system, SystemDeleter> system = [] {
    ut_set_error_message_handler(ut_ignore);
    return std::unique_ptr<ut_system, SystemDeleter>(ut_read_xml(nullptr));
  }();
  return system.get();
}

UnitPtr parse(const std::string& unit) { return UnitPtr(ut_parse(unitSystem(), unit.c_str(), UT_UTF8)); }

ConverterPtr newConverter(const std::string& from, const std::string& to)
{
  const UnitPtr source = parse(from);
  const UnitPtr target = parse(to);
  if (!source || !target || ut_are_convertible(source.get(), target.get()) == 0)
    return nullptr;
  return ConverterPtr(ut_get_converter(source.get(), target.get()));
}

/// Made once: few pairs of units are met, and these over and over. nullptr where there is none.
const cv_converter* converter(const std::string& from, const std::string& to)
{
  static std::map<std::pair<std::string, std::string>, ConverterPtr> known;
  constexpr std::size_t most = 2000; // slips of the keyboard count too
  if (known.size() > most)
    known.clear();
  const auto [found, isNew] = known.try_emplace({from, to});
  if (isNew)
    found->second = newConverter(from, to);
  return found->second.get();
}

} // namespace

std::string spelledForLibrary(std::string_view typed)
{
  static constexpr std::array<std::pair<std::string_view, std::string_view>, 8> spellings{{
      {"°C", "degC"},
      {"°F", "degF"},
      {"°", "arc_degree"},
      {"²", "2"},
      {"³", "3"},
      {"·", "."},
      {"µ", "u"},
      {"Ω", "ohm"},
  }};
  std::string text(typed == "deg" ? "arc_degree" : typed == "kWh" ? "kW.h" : typed);
  for (const auto& [shown, library] : spellings)
    for (auto at = text.find(shown); at != std::string::npos; at = text.find(shown, at + library.size()))
      text.replace(at, shown.size(), library);
  return text;
}

std::optional<double> convert(double value, const std::string& from, const std::string& to)
{
  const std::scoped_lock lock(guard());
  const cv_converter* convert = converter(from, to);
  return convert != nullptr ? std::optional(cv_convert_double(convert, value)) : std::nullopt;
}

bool convertible(const std::string& from, const std::string& to)
{
  const std::scoped_lock lock(guard());
  return converter(from, to) != nullptr;
}

} // namespace kiln::units
