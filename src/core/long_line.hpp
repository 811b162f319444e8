// The line of many cases, from their moments: a straight line or one with a curve term, about a centre.
#pragma once

#include "cross_products.hpp"
#include "line.hpp"

namespace unsere {

constexpr std::size_t long_rows = 20000;

// Fitted values and residuals go where the caller has room for them. False where the moments cannot say enough: nearly on the
// line, or nearly without variation.
inline bool long_line(const double* x, const double* y, std::size_t n, bool curved, int threads, double* fitted, double* residuals,
                      ShapedLine* out) {
  double centre, scale;
  column_mean(x, n, n / 512, &centre, &scale);
  std::vector<double> square;
  std::vector<const double*> columns{x};
  if (curved) {
    square.resize(n);
    in_parallel(n, threads, [&](std::size_t from, std::size_t to) {
      for (std::size_t i = from; i < to; ++i) {
        const double z = (x[i] - centre) * scale;
        square[i] = z * z;
      }
    });
    columns.push_back(square.data());
  }
  columns.push_back(y);
  const CrossMoments m = cross_moments(columns, n, threads);
  const std::size_t k = columns.size(), last = k - 1;
  auto about = [&](std::size_t i, std::size_t j) { return m.products[i + j * k] - m.sum(i, i) * m.sum(j, j) / m.rows; };
  for (std::size_t i = 0; i < k; ++i)
    if (!(about(i, i) > 1e-4 * m.products[i + i * k])) return false;
  // Moments of z = (x - centre) * scale, z^2 and y, in their own scales.
  const double xx = about(0, 0), xy = about(0, last), yy = about(last, last);
  std::vector<double> slopes;
  std::vector<double> inverse;
  if (!curved) {
    slopes = {xy / xx};
    inverse = {1 / xx};
  } else {
    const double qq = about(1, 1), xq = about(0, 1), qy = about(1, last), det = xx * qq - xq * xq;
    if (!(det > 1e-6 * xx * qq)) return false;
    slopes = {(qq * xy - xq * qy) / det, (xx * qy - xq * xy) / det};
    inverse = {qq / det, -xq / det, -xq / det, xx / det};
  }
  // From the scales of the moments to those of x - centre and of y.
  std::vector<double> unit;
  for (std::size_t i = 0; i < last; ++i) unit.push_back(i == 0 ? m.scale[0] : m.scale[1] * scale * scale);
  const std::size_t terms = k;
  std::vector<double> b(terms, 0.0), middle(last);
  for (std::size_t i = 0; i < last; ++i) {
    b[i + 1] = slopes[i] * unit[i] / m.scale[last];
    middle[i] = i == 0 ? m.mean(0) - centre : m.mean(1) / (scale * scale);
  }
  b[0] = m.mean(last);
  for (std::size_t i = 0; i < last; ++i) b[0] -= b[i + 1] * middle[i];
  std::vector<double> covariance(terms * terms, 0.0);
  for (std::size_t i = 0; i < last; ++i)
    for (std::size_t j = 0; j < last; ++j) covariance[(i + 1) + (j + 1) * terms] = inverse[i + j * last] * unit[i] * unit[j];
  double corner = 1 / m.rows;
  for (std::size_t i = 0; i < last; ++i) {
    double side = 0;
    for (std::size_t j = 0; j < last; ++j) side -= covariance[(i + 1) + (j + 1) * terms] * middle[j];
    covariance[i + 1] = covariance[(i + 1) * terms] = side;
    corner -= side * middle[i];
  }
  covariance[0] = corner;
  out->centre = centre;
  out->centred = b;
  out->centred_covariance = covariance;
  LineResult& raw = out->raw;
  raw.total_squares = yy / (m.scale[last] * m.scale[last]);
  const double curve = curved ? b[2] : 0.0;
  std::vector<double> sums((n + block_rows - 1) / block_rows, 0.0);
  in_parallel(sums.size(), threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t block = from; block < to; ++block) {
      double sum = 0;
      for (std::size_t i = block * block_rows; i < std::min(n, (block + 1) * block_rows); ++i) {
        const double z = x[i] - centre, line = b[0] + z * (b[1] + z * curve), e = y[i] - line;
        fitted[i] = line;
        residuals[i] = e;
        sum += e * e;
      }
      sums[block] = sum;
    }
  });
  raw.residual_squares = 0;
  for (double sum : sums) raw.residual_squares += sum;
  if (!(raw.residual_squares > 1e-6 * raw.total_squares)) return false;
  // Back to x itself: powers of x - centre written out.
  const Twofold c(centre);
  raw.estimates = b;
  raw.estimates[0] = (Twofold(b[0]) - c * Twofold(b[1]) + c * c * Twofold(curve)).value();
  if (curved) raw.estimates[1] = (Twofold(b[1]) - Twofold(2.0) * c * Twofold(b[2])).value();
  std::vector<std::vector<double>> back(terms, std::vector<double>(terms, 0.0));
  for (std::size_t i = 0; i < terms; ++i) back[i][i] = 1;
  back[0][1] = -centre;
  if (curved) {
    back[0][2] = centre * centre;
    back[1][2] = -2 * centre;
  }
  raw.covariance.assign(terms * terms, 0.0);
  for (std::size_t i = 0; i < terms; ++i)
    for (std::size_t j = 0; j < terms; ++j)
      for (std::size_t a = 0; a < terms; ++a)
        for (std::size_t d = 0; d < terms; ++d)
          raw.covariance[i + j * terms] += back[i][a] * covariance[a + d * terms] * back[j][d];
  return true;
}

}  // namespace unsere
