// The moments of one pair: n, means, sums of squares and products about the means, in twofold arithmetic.
// Each variable is first divided by a power of two so that its values lie in [-1, 1]: no square can overflow or vanish.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdlib>

#include "twofold.hpp"

namespace unsere {

struct Column {
  const double* values = nullptr;
  std::size_t n = 0;
  int exponent = 0;     // values[i] * 2^-exponent lies in [-1, 1]
  double smallest = 0;  // as given
  double largest = 0;
  Twofold mean;  // of the scaled values

  double factor = 1.0;  // 2^-exponent where that is a normal number, else 0

  double at(std::size_t i) const { return factor != 0.0 ? values[i] * factor : std::ldexp(values[i], -exponent); }
  Twofold centred(std::size_t i) const { return exact_sum(at(i), -mean.hi) - Twofold(mean.lo); }
  bool constant() const { return smallest == largest; }
  double magnitude() const { return std::ldexp(std::max(std::fabs(smallest), std::fabs(largest)), -exponent); }
};

// A long sum in four strands, each of which waits for itself alone.
template <class Term>
Twofold sum_of_terms(std::size_t n, const Term& term) {
  Twofold strand[4];
  std::size_t i = 0;
  for (; i + 4 <= n; i += 4)
    for (std::size_t k = 0; k < 4; ++k) strand[k] = strand[k] + term(i + k);
  for (; i < n; ++i) strand[0] = strand[0] + term(i);
  return (strand[0] + strand[1]) + (strand[2] + strand[3]);
}

inline Column make_column(const double* values, std::size_t n) {
  Column column;
  column.values = values;
  column.n = n;
  if (n == 0) return column;
  column.smallest = *std::min_element(values, values + n);
  column.largest = *std::max_element(values, values + n);
  double size = std::max(std::fabs(column.smallest), std::fabs(column.largest));
  if (size > 0.0) std::frexp(size, &column.exponent);
  column.factor = std::abs(column.exponent) <= 1000 ? std::ldexp(1.0, -column.exponent) : 0.0;
  const Twofold sum = sum_of_terms(n, [&](std::size_t i) { return Twofold(column.at(i)); });
  column.mean = sum / Twofold(static_cast<double>(n));
  return column;
}

// Sum of squares about the mean, on the scaled values.
inline Twofold sum_of_squares(const Column& x) {
  return sum_of_terms(x.n, [&](std::size_t i) {
    const Twofold d = x.centred(i);
    return d * d;
  });
}

struct PairMoments {
  Column x, y;
  Twofold sxx, syy, sxy;  // about the means, on the scaled values
};

inline PairMoments pair_moments(const double* x, const double* y, std::size_t n) {
  PairMoments m;
  m.x = make_column(x, n);
  m.y = make_column(y, n);
  for (std::size_t i = 0; i < n; ++i) {
    Twofold dx = m.x.centred(i), dy = m.y.centred(i);
    m.sxx = m.sxx + dx * dx;
    m.syy = m.syy + dy * dy;
    m.sxy = m.sxy + dx * dy;
  }
  return m;
}

struct Spread {
  double mean, sd;
};

inline Spread spread_of(const Column& x, Twofold sxx) {
  Twofold variance = sxx / Twofold(static_cast<double>(x.n) - 1.0);
  return {scaled(x.mean, x.exponent).value(), scaled(square_root(variance), x.exponent).value()};
}

}  // namespace unsere
