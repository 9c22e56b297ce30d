// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

namespace kiln
{

/// How long the next step of a run is: as long as its error allows, and never past an instant at which something jumps.
/// It knows nothing of what is stepped.
class StepControl
{
public:
  /// Limits may change while a run goes.
  /// \param tolerance  K a step
  /// \param last       s, no step goes beyond it
  /// \param breaks     s, increasing: a step ends at each
  void setLimits(double tolerance, double last, std::vector<double> breaks);
  void setTolerance(double tolerance) { tolerance_ = tolerance; }
  [[nodiscard]] double tolerance() const { return tolerance_; }
  [[nodiscard]] double last() const { return last_; }

  /// Steps this long and times this close are the same to rounding, s.
  [[nodiscard]] static double smallest(double time);

  /// Everything may change from here on at another pace.
  /// \param fastest  K/s
  void restart(double time, double fastest);

  struct Length {
    double seconds = 0;
    bool atBreak = false; ///< ends at one
  };
  /// \param largest  s, 0: no bound
  [[nodiscard]] Length next(double time, double largest);

  /// What to try instead of a step with this error (K); nothing: it is good.
  [[nodiscard]] std::optional<double> shorterThan(double length, double error) const;
  /// Takes the length of an accepted step in.
  void accept(const Length& length, double error);

  /// Does nothing happen by itself any more?
  [[nodiscard]] bool quiet(double time) const;
  /// The last instant at which something does, 0 where none is left.
  [[nodiscard]] double lastBreak() const { return breaks_.empty() ? 0 : breaks_.back(); }

private:
  [[nodiscard]] double factorOf(double error) const;
  double tolerance_ = 1, last_ = 0;
  std::vector<double> breaks_;
  double step_ = 0; ///< s, the next one as the error allows; 0 before the first
  struct Taken {
    double length = 0, error = 0; ///< s, K
  };
  std::optional<Taken> before_; ///< the last step since everything changed
};

} // namespace kiln
