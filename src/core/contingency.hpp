// Tests of groups without an order that need no approximation: all tables of the margins counted, or one side shuffled.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <numeric>
#include <utility>
#include <vector>

#include "parallel.hpp"
#include "random.hpp"
#include "stop.hpp"

namespace unsere {

using Counts = std::vector<std::uint32_t>;

// The sum of n_ij^2 / (row_i column_j), of which chi-squared is n times what exceeds 1.
inline double table_statistic(const Counts& cells, const Counts& rows, const Counts& columns) {
  double sum = 0;
  for (std::size_t j = 0, at = 0; j < columns.size(); ++j)
    for (std::size_t i = 0; i < rows.size(); ++i, ++at)
      sum += static_cast<double>(cells[at]) * cells[at] / (static_cast<double>(rows[i]) * columns[j]);
  return sum;
}

// The share, weighed by their chances, of the tables of these margins whose statistic is at least the one observed.
// The columns are filled one after the other; NaN where there are more than `most` steps to take.
class TableCount {
 public:
  TableCount(Counts rows, Counts columns, double observed, double most)
      : rows_(std::move(rows)), columns_(std::move(columns)), least_(observed * (1 - 1e-12)), most_(most), rest_(rows_) {
    std::sort(columns_.begin(), columns_.end(), std::greater<>());  // the widest is settled by what the others leave
    std::rotate(columns_.begin(), columns_.begin() + 1, columns_.end());
    const std::size_t n = std::accumulate(rows_.begin(), rows_.end(), std::size_t{0});
    for (std::size_t k = 0; k <= n; ++k) log_factorial_.push_back(std::lgamma(static_cast<double>(k) + 1));
    constant_ = -log_factorial_[n];
    for (const auto row : rows_) constant_ += log_factorial_[row];
    for (const auto column : columns_) constant_ += log_factorial_[column];
  }

  double p() {
    fill(0, 0, columns_[0], 0, constant_);
    return steps_ > most_ ? std::numeric_limits<double>::quiet_NaN() : std::min(1.0, sum_);
  }

 private:
  void fill(std::size_t j, std::size_t i, std::uint32_t left, double statistic, double log_chance) {
    if (steps_ > most_ || ++steps_ > most_) return;
    if (j + 1 == columns_.size()) return finish(statistic, log_chance);
    if (i + 1 == rows_.size()) {
      if (left <= rest_[i]) place(j, i, left, left, statistic, log_chance);
      return;
    }
    for (std::uint32_t count = 0; count <= std::min(left, rest_[i]); ++count) place(j, i, count, left, statistic, log_chance);
  }

  void place(std::size_t j, std::size_t i, std::uint32_t count, std::uint32_t left, double statistic, double log_chance) {
    rest_[i] -= count;
    const double more = statistic + share(j, i, count);
    const double chance = log_chance - log_factorial_[count];
    if (i + 1 == rows_.size())
      fill(j + 1, 0, columns_[j + 1], more, chance);
    else
      fill(j, i + 1, left - count, more, chance);
    rest_[i] += count;
  }

  void finish(double statistic, double log_chance) {
    if ((static_cast<std::uint64_t>(steps_) & 0xfff) == 0) stop_point();
    const std::size_t j = columns_.size() - 1;
    for (std::size_t i = 0; i < rows_.size(); ++i) {
      statistic += share(j, i, rest_[i]);
      log_chance -= log_factorial_[rest_[i]];
    }
    if (statistic >= least_) sum_ += std::exp(log_chance);
  }

  double share(std::size_t j, std::size_t i, std::uint32_t count) const {
    return static_cast<double>(count) * count / (static_cast<double>(rows_[i]) * columns_[j]);
  }

  Counts rows_, columns_;
  double least_, most_;
  Counts rest_;
  std::vector<double> log_factorial_;
  double constant_ = 0, sum_ = 0, steps_ = 0;
};

// How many shuffles of `groups` give a statistic of at least the one observed.
template <typename Statistic>
double shuffle_groups(const std::vector<std::size_t>& groups, std::size_t shuffles, std::uint64_t seed, int threads,
                      Statistic statistic) {
  const double least = statistic(groups) * (1 - 1e-12);
  std::vector<char> reached(shuffles);
  in_parallel(shuffles, threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t b = from; b < to; ++b) {
      stop_point();
      Random random(seed, b);
      auto shuffled = groups;
      for (std::size_t i = shuffled.size(); i-- > 1;)
        std::swap(shuffled[i], shuffled[random.below(static_cast<std::uint32_t>(i) + 1)]);
      reached[b] = statistic(shuffled) >= least;
    }
  });
  return static_cast<double>(std::count(reached.begin(), reached.end(), 1));
}

inline Counts count_groups(const std::vector<std::size_t>& groups, std::size_t kinds) {
  Counts sizes(kinds);
  for (const auto group : groups) ++sizes[group];
  return sizes;
}

// Of two sets of groups: the statistic of their table.
inline double shuffle_table(const std::vector<std::size_t>& x, const std::vector<std::size_t>& y, std::size_t rows,
                            std::size_t columns, std::size_t shuffles, std::uint64_t seed, int threads) {
  const Counts down = count_groups(x, rows), across = count_groups(y, columns);
  return shuffle_groups(y, shuffles, seed, threads, [&](const std::vector<std::size_t>& shuffled) {
    Counts cells(rows * columns);
    for (std::size_t i = 0; i < x.size(); ++i) ++cells[shuffled[i] * rows + x[i]];
    return table_statistic(cells, down, across);
  });
}

// Of numbers about their mean: the sum of squares between the groups.
inline double shuffle_between(const double* v, const std::vector<std::size_t>& groups, std::size_t kinds,
                              std::size_t shuffles, std::uint64_t seed, int threads) {
  const Counts sizes = count_groups(groups, kinds);
  return shuffle_groups(groups, shuffles, seed, threads, [&](const std::vector<std::size_t>& shuffled) {
    std::vector<double> sums(kinds);
    for (std::size_t i = 0; i < shuffled.size(); ++i) sums[shuffled[i]] += v[i];
    double between = 0;
    for (std::size_t g = 0; g < kinds; ++g) between += sums[g] * sums[g] / sizes[g];
    return between;
  });
}

}  // namespace unsere
