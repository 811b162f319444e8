// How far Fisher's z of a pair moves when each case in turn is left out: its variance by the jackknife (Quenouille 1956;
// Tukey 1958), and the kurtosis of those moves, which tells how much that variance is itself to be trusted.
#pragma once

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

#include "moves.hpp"
#include "parallel.hpp"
#include "resample.hpp"
#include "stop.hpp"

namespace unsere {

struct LeftOut {
  double variance = NAN;
  double kurtosis = NAN;
};

// Up to so many cases each is taken out in turn; beyond, its influence on z says the same to a thousandth.
constexpr std::size_t most_taken_out = 1000;

// A column about its mean, in units of its standard deviation (over n); empty where it does not vary or is not complete.
inline std::vector<double> standardised(const double* v, std::size_t n) {
  double largest = 0;
  for (std::size_t i = 0; i < n; ++i) {
    if (!std::isfinite(v[i])) return {};
    largest = std::max(largest, std::fabs(v[i]));
  }
  if (largest == 0) return {};
  std::vector<double> out(n);
  double mean = 0, squares = 0;
  for (std::size_t i = 0; i < n; ++i) mean += (out[i] = v[i] / largest);
  mean /= static_cast<double>(n);
  for (std::size_t i = 0; i < n; ++i) {
    out[i] -= mean;
    squares += out[i] * out[i];
  }
  if (!(squares > 0)) return {};
  const double unit = std::sqrt(static_cast<double>(n) / squares);
  for (auto& one : out) one *= unit;
  return out;
}

inline LeftOut spread_of_moves(const std::vector<double>& z) {
  double count = 0, mean = 0, squares = 0, fourths = 0;
  for (double one : z)
    if (!std::isnan(one)) ++count, mean += one;
  if (count < 4) return {};
  mean /= count;
  for (double one : z) {
    if (std::isnan(one)) continue;
    const double square = (one - mean) * (one - mean);
    squares += square;
    fourths += square * square;
  }
  if (!(squares > 0)) return {};
  return {(count - 1) / count * squares, count * fourths / (squares * squares)};
}

inline LeftOut each_taken_out(const double* a, const double* b, std::size_t n) {
  Sums all;
  for (std::size_t i = 0; i < n; ++i) all.add({a[i], b[i]});
  std::vector<double> z(n);
  for (std::size_t i = 0; i < n; ++i) {
    const double r = all.without({a[i], b[i]}).r(static_cast<double>(n) - 1);
    z[i] = std::isnan(r) ? r : std::atanh(std::max(-1 + 1e-15, std::min(1 - 1e-15, r)));
  }
  return spread_of_moves(z);
}

inline LeftOut spread_of_sums(const MoveSums& sums, std::size_t n, double r) {
  const double squares = sum_of_lanes(sums.squares), left = (1 - r) * (1 + r), size = static_cast<double>(n);
  if (!(squares > 0) || !(left > 1e-12)) return {};
  return {squares / (left * left * size * (size - 1)), size * sum_of_lanes(sums.fourths) / (squares * squares)};
}

inline LeftOut by_influence(const double* a, const double* b, std::size_t n, double r) {
  MoveSums sums;
  add_moves(a, b, n, r / 2, sums);
  return spread_of_sums(sums, n, r);
}

inline LeftOut left_out(const std::vector<double>& a, const std::vector<double>& b, double r) {
  if (a.empty() || b.empty() || a.size() < 4 || std::isnan(r)) return {};
  return a.size() <= most_taken_out ? each_taken_out(a.data(), b.data(), a.size())
                                    : by_influence(a.data(), b.data(), a.size(), r);
}

// A pair of columns among the cases that have both.
inline LeftOut left_out_with_gaps(const double* a, const double* b, std::size_t n, double r) {
  std::vector<double> x, y;
  for (std::size_t at = 0; at < n; ++at) {
    if (std::isnan(a[at]) || std::isnan(b[at])) continue;
    x.push_back(a[at]);
    y.push_back(b[at]);
  }
  return left_out(standardised(x.data(), x.size()), standardised(y.data(), y.size()), r);
}

struct PlacedPair {
  std::size_t first, second, at;
};

// Complete pairs of many cases, some cases of a few columns at a time, which stay near the processor; each pair's sums are
// added in the order of the cases.
inline void left_out_in_blocks(const std::vector<std::vector<double>>& whole, std::vector<PlacedPair> pairs, std::size_t n,
                               const double* r, int threads, std::vector<LeftOut>& out) {
  constexpr std::size_t rows = 2048, columns = 16;
  auto tile = [](const PlacedPair& pair) { return std::make_pair(pair.first / columns, pair.second / columns); };
  std::stable_sort(pairs.begin(), pairs.end(),
                   [&](const PlacedPair& a, const PlacedPair& b) { return tile(a) < tile(b); });
  std::vector<std::size_t> ends;
  for (std::size_t k = 0; k < pairs.size(); ++k)
    if (k + 1 == pairs.size() || tile(pairs[k]) != tile(pairs[k + 1])) ends.push_back(k + 1);
  in_parallel(ends.size(), threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t part = from; part < to; ++part) {
      stop_point();
      const std::size_t begin = part == 0 ? 0 : ends[part - 1], end = ends[part];
      std::vector<MoveSums> sums(end - begin);
      for (std::size_t row = 0; row < n; row += rows)
        for (std::size_t k = begin; k < end; ++k)
          add_moves(whole[pairs[k].first].data() + row, whole[pairs[k].second].data() + row, std::min(rows, n - row),
                    r[pairs[k].at] / 2, sums[k - begin]);
      for (std::size_t k = begin; k < end; ++k) out[pairs[k].at] = spread_of_sums(sums[k - begin], n, r[pairs[k].at]);
    }
  });
}

// Of several pairs of columns, each among its own cases; `first` and `second` are places of columns, from 0 on.
inline std::vector<LeftOut> left_out_of_pairs(const std::vector<const double*>& columns, std::size_t n,
                                              const std::vector<std::size_t>& first, const std::vector<std::size_t>& second,
                                              const double* r, int threads) {
  std::vector<std::vector<double>> whole(columns.size());
  in_parallel(columns.size(), threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t k = from; k < to; ++k) whole[k] = standardised(columns[k], n);
  });
  std::vector<LeftOut> out(first.size());
  std::vector<PlacedPair> complete, others;
  for (std::size_t k = 0; k < first.size(); ++k) {
    const bool large = n > most_taken_out && !whole[first[k]].empty() && !whole[second[k]].empty();
    (large ? complete : others).push_back({first[k], second[k], k});
  }
  left_out_in_blocks(whole, std::move(complete), n, r, threads, out);
  in_parallel(others.size(), threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t k = from; k < to; ++k) {
      stop_point();
      const PlacedPair& pair = others[k];
      const auto &a = whole[pair.first], &b = whole[pair.second];
      out[pair.at] = a.empty() || b.empty() ? left_out_with_gaps(columns[pair.first], columns[pair.second], n, r[pair.at])
                                            : left_out(a, b, r[pair.at]);
    }
  });
  return out;
}

}  // namespace unsere
