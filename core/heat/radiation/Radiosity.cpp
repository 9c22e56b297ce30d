// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/radiation/Radiosity.h"

#include <chrono>

namespace kiln
{

Radiosity::Radiosity(const ViewFactors& factors, const Eigen::VectorXd& emissivity, bool changing) : factors_(factors)
{
  setEmissivity(emissivity);
  constexpr Eigen::Index mostDense = 4500; // patches; 160 MB
  constexpr double shiny = 0.4;
  const Eigen::Index count = emissivity.size();
  if (changing || count > mostDense || emissivity.minCoeff() >= shiny)
    return;
  Eigen::MatrixXd exchange = Eigen::MatrixXf(factors_.exchange).cast<double>().selfadjointView<Eigen::Upper>();
  exchange.diagonal() = factors_.self;
  dense_ = std::make_unique<Eigen::LLT<Eigen::MatrixXd>>(Eigen::MatrixXd::Identity(count, count) -
                                                         scale_.asDiagonal() * exchange * scale_.asDiagonal());
}

void Radiosity::setEmissivity(const Eigen::VectorXd& emissivity)
{
  scale_ = ((1 - emissivity.array()).max(0.0) / factors_.area.array()).sqrt();
  even_ = scale_.cwiseProduct(factors_.area);
  evenImage_ = times(even_);
  evenSquare_ = even_.dot(evenImage_);
}

Eigen::VectorXd Radiosity::seen(const Eigen::VectorXd& leaving) const
{
  return symmetricProduct(factors_.exchange, factors_.self, leaving);
}

/// (I − D G D) u
Eigen::VectorXd Radiosity::times(const Eigen::VectorXd& u) const
{
  return u - scale_.cwiseProduct(seen(scale_.cwiseProduct(u)));
}

/// A fixed linear answer of few products: exact where light is even, so that surfaces of one temperature exchange
/// nothing; what is uneven is reflected three times.
Eigen::VectorXd Radiosity::threeReflections(const Eigen::VectorXd& right) const
{
  Eigen::VectorXd u = Eigen::VectorXd::Zero(right.size());
  Eigen::VectorXd left = right; // what is not yet answered
  const auto answerEven = [&] {
    const double even = even_.dot(left) / evenSquare_;
    u += even * even_;
    left -= even * evenImage_;
  };
  constexpr int products = 1;
  for (int i = 0; i < products; ++i) {
    answerEven();
    u += left;
    left -= times(left);
  }
  answerEven();
  return u + left;
}

Eigen::VectorXd Radiosity::conjugateGradients(const Eigen::VectorXd& right, double enough, Eigen::VectorXd guess) const
{
  const bool guessed = guess.size() == right.size();
  Eigen::VectorXd u = guessed ? std::move(guess) : Eigen::VectorXd::Zero(right.size());
  Eigen::VectorXd left = guessed ? Eigen::VectorXd(right - times(u)) : right;
  Eigen::VectorXd along = left;
  double square = left.squaredNorm();
  const Eigen::Index mostSteps = 2 * right.size();
  for (Eigen::Index step = 0; step < mostSteps && square > enough * enough; ++step) {
    const Eigen::VectorXd product = times(along);
    const double length = square / along.dot(product);
    u += length * along;
    left -= length * product;
    const double next = left.squaredNorm();
    along = left + next / square * along;
    square = next;
  }
  converged_ = square <= enough * enough;
  return u;
}

PatchLight Radiosity::solve(const Eigen::VectorXd& emitted, double opening, double tolerance,
                            Eigen::VectorXd& guess) const
{
  const auto started = std::chrono::steady_clock::now();
  const Eigen::VectorXd fromOpening = factors_.opening * opening;
  PatchLight light{emitted, {}};
  constexpr double rough = 5e-4;
  if (scale_.maxCoeff() > 0) {
    const Eigen::VectorXd right = scale_.cwiseProduct(seen(emitted) + fromOpening);
    if (dense_) {
      guess = dense_->solve(right);
      converged_ = guess.allFinite();
    } else if (tolerance > rough) {
      guess = threeReflections(right);
    } else {
      const double enough = tolerance * (factors_.area.array().sqrt() * emitted.array()).matrix().norm();
      guess = conjugateGradients(right, enough, std::move(guess));
    }
    light.leaving += scale_.cwiseProduct(guess);
  }
  // What arrives follows from what is reflected; where an exact answer is asked for, or little is reflected, it is
  // what is seen, so that what leaves the patches arrives at patches.
  constexpr double reflecting = 0.01;
  if (tolerance > rough && scale_.cwiseProduct(even_).minCoeff() > reflecting)
    light.arriving = guess.cwiseQuotient(even_);
  else
    light.arriving = (seen(light.leaving) + fromOpening).cwiseQuotient(factors_.area);
  seconds_ += std::chrono::duration<double>(std::chrono::steady_clock::now() - started).count();
  return light;
}

} // namespace kiln
