// Spearman's rs in samples drawn from a normal pair.
#pragma once

#include <cmath>
#include <vector>

#include "random.hpp"
#include "stop.hpp"

namespace unsere {

// The place of each value among few, from 0 on.
inline void place_among(const std::vector<double>& values, std::vector<int>* places) {
  for (std::size_t i = 0; i < values.size(); ++i) {
    int below = 0;
    for (const double other : values) below += other < values[i];
    (*places)[i] = below;
  }
}

// rs of so many samples of n, for small n; the same numbers under the same seed, whatever rho.
inline std::vector<double> drawn_spearman(double rho, std::size_t n, std::size_t draws, std::uint64_t seed) {
  Random random(seed, n);
  const double rest = std::sqrt(1 - rho * rho), size = static_cast<double>(n), all = size * (size * size - 1);
  std::vector<double> x(n), y(n), out(draws);
  std::vector<int> at(n), beside(n);
  for (double& found : out) {
    stop_point();
    for (std::size_t i = 0; i < n; ++i) {
      // Two normal numbers of two even ones (Box & Muller 1958).
      const double length = std::sqrt(-2 * std::log(random.uniform())), turn = 2 * 3.141592653589793 * random.uniform();
      x[i] = length * std::cos(turn);
      y[i] = rho * x[i] + rest * length * std::sin(turn);
    }
    place_among(x, &at);
    place_among(y, &beside);
    double squares = 0;
    for (std::size_t i = 0; i < n; ++i) squares += (at[i] - beside[i]) * (at[i] - beside[i]);
    found = 1 - 6 * squares / all;
  }
  return out;
}

}  // namespace unsere
