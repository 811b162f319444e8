// How sharp the lower end of a column is.
#pragma once

#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

namespace unsere {

// Sorts, and spreads tied values evenly up to the next.
inline void sort_and_spread(std::vector<double>* values) {
  std::vector<double>& v = *values;
  std::sort(v.begin(), v.end());
  for (std::size_t from = 0, to = 0; from < v.size(); from = to) {
    while (to < v.size() && !(v[to] > v[from])) ++to;
    if (to == v.size() || to - from == 1) continue;
    const double step = (v[to] - v[from]) / static_cast<double>(to - from);
    for (std::size_t i = from + 1; i < to; ++i) v[i] = v[from] + step * static_cast<double>(i - from);
  }
}

// How much likelier the lowest values are where the density is there right up to the lowest one than where it thins out
// towards it, as a logarithm: the greatest among the lowest shares of the cases, of at least twenty cases or the largest share.
inline double edge_sharpness(std::vector<double> values, const std::vector<double>& shares) {
  double best = -std::numeric_limits<double>::infinity();
  if (values.empty() || shares.empty()) return best;
  sort_and_spread(&values);
  const double largest = *std::max_element(shares.begin(), shares.end());
  for (const double share : shares) {
    const auto k = static_cast<std::size_t>(share * static_cast<double>(values.size()));
    if ((k < 20 && share < largest) || k < 2 || k >= values.size()) continue;
    double sum = -static_cast<double>(k - 1) * std::log(2.0);
    for (std::size_t i = 1; i < k; ++i) {
      sum -= std::log(std::max((values[i] - values[0]) / (values[k] - values[0]), 1e-4));
    }
    best = std::max(best, sum);
  }
  return best;
}

}  // namespace unsere
