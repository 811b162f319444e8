// Items of a scale: how far z of each item's r with the sum of the others may be off, by leaving out one person at a time.
#pragma once

#include <vector>

#include "parallel.hpp"
#include "stop.hpp"
#include "unit_sums.hpp"

namespace unsere {

// `total`: each person's sum of all items. NaN where an item, or the rest, does not vary.
inline double rest_variance(const double* item, const double* total, std::size_t n) {
  const double size = static_cast<double>(n), shrink = size / (size - 1);
  double mean_x = 0, mean_t = 0, sxx = 0, syy = 0, sxy = 0;
  for (std::size_t k = 0; k < n; ++k) {
    mean_x += item[k];
    mean_t += total[k];
  }
  mean_x /= size;
  mean_t /= size;
  const double mean_y = mean_t - mean_x;
  for (std::size_t k = 0; k < n; ++k) {
    const double dx = item[k] - mean_x, dy = total[k] - item[k] - mean_y;
    sxx += dx * dx;
    syy += dy * dy;
    sxy += dx * dy;
  }
  if (!(sxx > 0 && syy > 0)) return NAN;
  const double r = within_bounds(sxy / std::sqrt(sxx * syy));
  double sum = 0, squares = 0, count = 0;
  for (std::size_t k = 0; k < n; ++k) {
    const double dx = item[k] - mean_x, dy = total[k] - item[k] - mean_y;
    const double xx = sxx - dx * dx * shrink, yy = syy - dy * dy * shrink;
    if (!(xx > 1e-14 * sxx && yy > 1e-14 * syy)) continue;
    const double off = z_apart(within_bounds((sxy - dx * dy * shrink) / std::sqrt(xx * yy)), r);
    sum += off;
    squares += off * off;
    ++count;
  }
  return (count - 1) / count * (squares - sum * sum / count);
}

inline std::vector<double> rest_variances(const std::vector<const double*>& items, const double* total, std::size_t n, int threads) {
  std::vector<double> out(items.size());
  in_parallel(items.size(), threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t j = from; j < to; ++j) {
      stop_point();
      out[j] = rest_variance(items[j], total, n);
    }
  });
  return out;
}

}  // namespace unsere
