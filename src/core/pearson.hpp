// Pearson's r of one pair of complete, finite columns (Pearson 1895), and the share of variance that it leaves.
#pragma once

#include "moments.hpp"

namespace unsere {

struct PearsonResult {
  double r;
  double unexplained;  // 1 - r^2, from the residuals and not by subtraction
  bool exact;          // the points lie on a line to within the rounding of their own values
  Spread x, y;
};

// Sum of squared residuals of y about its line in x, on the scaled values. A straight line has the same share of
// unexplained variance whichever variable is explained, so r and its test do not depend on the order of the pair.
inline Twofold residual_squares(const PairMoments& m) {
  Twofold slope = m.sxy / m.sxx;
  Twofold sum;
  for (std::size_t i = 0; i < m.x.n; ++i) {
    Twofold e = m.y.centred(i) - slope * m.x.centred(i);
    sum = sum + e * e;
  }
  return sum;
}

// Whether residuals of this size are no more than the rounding of the values themselves (four units in the last place).
inline bool within_rounding(double residual_square_sum, const Column& column) {
  double unit = std::ldexp(column.magnitude(), -51);
  return residual_square_sum <= static_cast<double>(column.n) * unit * unit;
}

inline PearsonResult pearson(const double* x, const double* y, std::size_t n) {
  PairMoments m = pair_moments(x, y, n);
  PearsonResult result{};
  result.x = spread_of(m.x, m.sxx);
  result.y = spread_of(m.y, m.syy);
  double r = (m.sxy / square_root(m.sxx * m.syy)).value();
  r = std::max(-1.0, std::min(1.0, r));
  // The direct form is exact to 1e-31; only close to a perfect line must the residuals say what is left.
  double left = ((m.sxx * m.syy - m.sxy * m.sxy) / (m.sxx * m.syy)).value();
  if (left < 1e-12) left = (residual_squares(m) / m.syy).value();
  left = std::max(0.0, std::min(1.0, left));
  bool close = left < 1e-14;
  result.exact = close && (left == 0.0 || within_rounding(left * m.syy.value(), m.y) ||
                           within_rounding(left * m.sxx.value(), m.x));
  result.r = result.exact ? std::copysign(1.0, r) : r;
  result.unexplained = result.exact ? 0.0 : left;
  return result;
}

}  // namespace unsere
