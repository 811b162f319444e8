// Least squares of y on a few columns by orthogonalisation (modified Gram-Schmidt, Bjorck 1967) in twofold arithmetic.
#pragma once

#include <vector>

#include "pearson.hpp"

namespace unsere {

struct LineResult {
  std::vector<double> estimates;   // one a column
  std::vector<double> covariance;  // (X'X)^-1, by columns; times the residual variance: of the estimates
  std::vector<double> fitted, residuals;
  double residual_squares = 0, total_squares = 0;
  bool full_rank = true;
};

using Columns = std::vector<std::vector<Twofold>>;

inline Twofold inner(const std::vector<Twofold>& a, const std::vector<Twofold>& b) {
  Twofold sum;
  for (std::size_t i = 0; i < a.size(); ++i) sum = sum + a[i] * b[i];
  return sum;
}

inline void subtract_multiple(std::vector<Twofold>& a, Twofold factor, const std::vector<Twofold>& b) {
  for (std::size_t i = 0; i < a.size(); ++i) a[i] = a[i] - factor * b[i];
}

// The triangle that takes the orthogonal columns back to the given ones, and the squared lengths of the former.
struct Orthogonal {
  Columns q;
  std::vector<std::vector<Twofold>> triangle;
  std::vector<Twofold> squares;
  bool full_rank = true;
};

inline Orthogonal orthogonalise(const Columns& columns) {
  Orthogonal out;
  std::size_t k = columns.size();
  out.triangle.assign(k, std::vector<Twofold>(k));
  for (std::size_t j = 0; j < k; ++j) {
    std::vector<Twofold> column = columns[j];
    double before = inner(column, column).value();
    for (std::size_t l = 0; l < j; ++l) {
      Twofold factor = inner(out.q[l], column) / out.squares[l];
      out.triangle[l][j] = factor;
      subtract_multiple(column, factor, out.q[l]);
    }
    out.triangle[j][j] = Twofold(1.0);
    Twofold left = inner(column, column);
    if (!(left.value() > 1e-28 * before)) out.full_rank = false;
    out.squares.push_back(left);
    out.q.push_back(column);
  }
  return out;
}

// The inverse of a unit upper triangle.
inline std::vector<std::vector<Twofold>> inverse_triangle(const std::vector<std::vector<Twofold>>& u) {
  std::size_t k = u.size();
  std::vector<std::vector<Twofold>> inverse(k, std::vector<Twofold>(k));
  for (std::size_t j = 0; j < k; ++j) {
    inverse[j][j] = Twofold(1.0);
    for (std::size_t i = j; i-- > 0;) {
      Twofold sum;
      for (std::size_t l = i + 1; l <= j; ++l) sum = sum + u[i][l] * inverse[l][j];
      inverse[i][j] = -sum;
    }
  }
  return inverse;
}

// The columns stand divided by 2^exponents; the results are given for the columns as they were.
inline LineResult fit(const Columns& columns, const std::vector<int>& exponents, const double* y, std::size_t n) {
  LineResult result;
  std::size_t k = columns.size();
  Orthogonal base = orthogonalise(columns);
  result.full_rank = base.full_rank;
  if (!base.full_rank) return result;

  Column response = make_column(y, n);
  std::vector<Twofold> left(n);
  for (std::size_t i = 0; i < n; ++i) left[i] = Twofold(response.at(i));
  std::vector<Twofold> steps(k);
  for (std::size_t j = 0; j < k; ++j) {
    steps[j] = inner(base.q[j], left) / base.squares[j];
    subtract_multiple(left, steps[j], base.q[j]);
  }
  auto inverse = inverse_triangle(base.triangle);
  for (std::size_t i = 0; i < k; ++i) {
    Twofold sum;
    for (std::size_t j = i; j < k; ++j) sum = sum + inverse[i][j] * steps[j];
    result.estimates.push_back(scaled(sum, response.exponent - exponents[i]).value());
  }
  for (std::size_t j = 0; j < k; ++j)
    for (std::size_t i = 0; i < k; ++i) {
      Twofold sum;
      for (std::size_t l = std::max(i, j); l < k; ++l)
        sum = sum + inverse[i][l] * inverse[j][l] / base.squares[l];
      result.covariance.push_back(scaled(sum, -exponents[i] - exponents[j]).value());
    }
  for (std::size_t i = 0; i < n; ++i) {
    result.residuals.push_back(scaled(left[i], response.exponent).value());
    result.fitted.push_back(scaled(Twofold(response.at(i)) - left[i], response.exponent).value());
  }
  result.residual_squares = scaled(inner(left, left), 2 * response.exponent).value();
  result.total_squares = scaled(sum_of_squares(response), 2 * response.exponent).value();
  return result;
}

// A line in x, straight or with a curve term, in its own terms and about a centre, where what is far from zero loses nothing.
struct ShapedLine {
  LineResult raw;                         // intercept, slope and curve as they are written
  double centre = 0;                      // close to the mean of x
  std::vector<double> centred;            // the terms of x - centre
  std::vector<double> centred_covariance;
  bool exact = false;                     // the points lie on the line to within the rounding of y
};

inline Columns powers_of(const Column& x, Twofold centre, std::size_t terms) {
  Columns columns(terms, std::vector<Twofold>(x.n));
  for (std::size_t i = 0; i < x.n; ++i) {
    const Twofold value = Twofold(x.at(i)) - centre;
    columns[0][i] = Twofold(1.0);
    for (std::size_t k = 1; k < terms; ++k) columns[k][i] = columns[k - 1][i] * value;
  }
  return columns;
}

inline ShapedLine shaped_line(const double* x, const double* y, std::size_t n, bool curved) {
  const std::size_t terms = curved ? 3 : 2;
  const Column given = make_column(x, n);
  std::vector<int> exponents;
  for (std::size_t k = 0; k < terms; ++k) exponents.push_back(static_cast<int>(k) * given.exponent);
  ShapedLine out;
  out.raw = fit(powers_of(given, Twofold(0.0), terms), exponents, y, n);
  if (!out.raw.full_rank) return out;
  // A centre that a double holds, so that x - centre means the same outside.
  out.centre = scaled(given.mean, given.exponent).value();
  const LineResult about = fit(powers_of(given, Twofold(std::ldexp(out.centre, -given.exponent)), terms), exponents, y, n);
  out.centred = about.estimates;
  out.centred_covariance = about.covariance;
  const Column response = make_column(y, n);
  out.exact = within_rounding(std::ldexp(out.raw.residual_squares, -2 * response.exponent), response);
  return out;
}

}  // namespace unsere
