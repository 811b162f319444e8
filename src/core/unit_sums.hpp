// Weighted sums of a pair, and r and its z from them.
#pragma once

#include <cmath>
#include <cstddef>

namespace unsere {

// Weighted sums of a pair's common cases.
struct UnitSums {
  double weight = 0, x = 0, y = 0, xx = 0, yy = 0, xy = 0;

  void add(const UnitSums& other, double times) {
    weight += times * other.weight;
    x += times * other.x;
    y += times * other.y;
    xx += times * other.xx;
    yy += times * other.yy;
    xy += times * other.xy;
  }

  double r() const {
    const double squares = (xx - x * x / weight) * (yy - y * y / weight);
    return squares > 0 ? (xy - x * y / weight) / std::sqrt(squares) : NAN;
  }
};

// What is left by rounding alone, beside the squares of each whole column, is no spread.
inline double r_of_spread(const UnitSums& s, double x, double y) {
  const bool varies = s.xx - s.x * s.x / s.weight > 1e-14 * x && s.yy - s.y * s.y / s.weight > 1e-14 * y;
  return varies ? s.r() : NAN;
}

inline double product_sum(const double* a, const double* b, std::size_t from, std::size_t to) {
  double strand[8] = {}, sum = 0;
  std::size_t i = from;
  for (; i + 8 <= to; i += 8)
    for (std::size_t k = 0; k < 8; ++k) strand[k] += a[i + k] * b[i + k];
  for (; i < to; ++i) sum += a[i] * b[i];
  for (const double part : strand) sum += part;
  return sum;
}

// How far two r lie apart on Fisher's scale; by a series where they are close, which most are.
inline double z_apart(double a, double b) {
  const double d = (a - b) / (1 - a * b), q = d * d;
  if (q < 1e-3) return d * (1 + q * (1.0 / 3 + q * (1.0 / 5 + q * (1.0 / 7 + q * (1.0 / 9 + q / 11)))));
  return std::atanh(d);
}

// What is not defined stays so.
inline double within_bounds(double r) {
  constexpr double end = 1 - 1e-12;
  return r > end ? end : r < -end ? -end : r;
}

}  // namespace unsere
