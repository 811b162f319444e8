// Exact permutation distributions: of Spearman's r by counting over subsets, of Pearson's r by walking through all
// orders, of a point-biserial r by walking through all ways to choose the group.
#pragma once

#include <cmath>
#include <cstdlib>
#include <numeric>
#include <vector>

#include "ranks.hpp"
#include "resample.hpp"

namespace unsere {

// Rising whole scores that give the same r as the ranks: moved to start at 0 and divided by their common step.
inline std::vector<std::int64_t> smallest_scores(const Ranking& ranking) {
  std::vector<std::int64_t> scores = ranking.doubled;
  const std::int64_t least = *std::min_element(scores.begin(), scores.end());
  std::int64_t step = 0;
  for (auto& s : scores) {
    s -= least;
    step = std::gcd(step, s);
  }
  if (step > 0)
    for (auto& s : scores) s /= step;
  return scores;
}

// The values of one variable with how often each occurs; a state of the count says how many of each have been used.
struct Supply {
  std::vector<std::int64_t> value;
  std::vector<std::size_t> count, radix;  // radix[j]: how far the state's number moves when one more of value j is used
  std::size_t states = 1;
};

inline Supply supply_of(const std::vector<std::int64_t>& rising) {
  Supply s;
  for (std::int64_t v : rising) {
    if (s.value.empty() || s.value.back() != v) {
      s.value.push_back(v);
      s.count.push_back(0);
    }
    ++s.count.back();
  }
  for (std::size_t c : s.count) {
    s.radix.push_back(s.states);
    s.states *= c + 1;
    if (s.states > std::size_t{1} << 40) break;
  }
  return s;
}

// Counts the pairings of two sets of ranks by their sum of products: the cases of one variable are taken in turn, and for
// each state of what is left of the other one is known how many ways lead to each sum. NaN where that would take more than
// `most_cells` numbers: 2e7 allow 14 pairs without ties and more with them.
inline Tally exact_spearman(const double* x, const double* y, std::size_t n, double most_cells = 2e7) {
  std::vector<std::int64_t> a = smallest_scores(rank_values(x, n)), b = smallest_scores(rank_values(y, n));
  std::int64_t sum_a = 0, sum_b = 0, observed = 0, largest = 0;
  for (std::size_t i = 0; i < n; ++i) {
    sum_a += a[i];
    sum_b += b[i];
    observed += a[i] * b[i];
  }
  std::sort(a.begin(), a.end());
  std::sort(b.begin(), b.end());
  for (std::size_t i = 0; i < n; ++i) largest += a[i] * b[i];
  if (supply_of(a).states < supply_of(b).states) std::swap(a, b);
  const Supply supply = supply_of(b);
  const std::size_t sums = static_cast<std::size_t>(largest) + 1;
  if (static_cast<double>(supply.states) * static_cast<double>(sums) > most_cells) return {NAN, NAN, NAN};

  std::vector<std::vector<double>> ways(supply.states);
  ways[0].assign(sums, 0.0);
  ways[0][0] = 1.0;
  for (std::size_t state = 0; state + 1 < supply.states; ++state) {
    if (ways[state].empty()) continue;
    stop_point();
    std::size_t taken = 0;
    for (std::size_t j = 0; j < supply.value.size(); ++j) taken += state / supply.radix[j] % (supply.count[j] + 1);
    for (std::size_t j = 0; j < supply.value.size(); ++j) {
      if (state / supply.radix[j] % (supply.count[j] + 1) == supply.count[j]) continue;
      auto& next = ways[state + supply.radix[j]];
      if (next.empty()) next.assign(sums, 0.0);
      const std::size_t step = static_cast<std::size_t>(a[taken] * supply.value[j]);
      for (std::size_t sum = 0; sum + step < sums; ++sum) next[sum + step] += ways[state][sum];
    }
    ways[state] = std::vector<double>();
  }

  Tally tally;
  const std::int64_t size = static_cast<std::int64_t>(n);
  const std::int64_t centre = sum_a * sum_b;  // n times the mean of the sums
  double all = 0;
  for (std::size_t sum = 0; sum < sums; ++sum) {
    const double count = ways[supply.states - 1][sum];
    const std::int64_t value = static_cast<std::int64_t>(sum);
    all += count;
    if (value >= observed) tally.above += count;
    if (value <= observed) tally.below += count;
    if (std::llabs(size * value - centre) >= std::llabs(size * observed - centre)) tally.outside += count;
  }
  return {tally.above / all, tally.below / all, tally.outside / all};
}

class OrderWalk {
 public:
  OrderWalk(const std::vector<Dot>& dots) : dots_(dots), used_(dots.size(), false) {
    double size = 0;
    for (auto& d : dots) {
      observed_ += d.x * d.y;
      size += std::fabs(d.x * d.y);
    }
    slack_ = 1e-12 * (size + std::fabs(observed_));
  }

  Tally run() {
    walk(0, 0.0);
    return {tally_.above / all_, tally_.below / all_, tally_.outside / all_};
  }

 private:
  void walk(std::size_t at, double sum) {
    if (at + 5 == dots_.size()) stop_point();
    if (at == dots_.size()) {
      all_ += 1;
      tally_.above += sum >= observed_ - slack_;
      tally_.below += sum <= observed_ + slack_;
      tally_.outside += std::fabs(sum) >= std::fabs(observed_) - slack_;
      return;
    }
    for (std::size_t j = 0; j < dots_.size(); ++j) {
      if (used_[j]) continue;
      used_[j] = true;
      walk(at + 1, sum + dots_[at].x * dots_[j].y);
      used_[j] = false;
    }
  }

  const std::vector<Dot>& dots_;
  std::vector<char> used_;
  double observed_ = 0, slack_ = 0, all_ = 0;
  Tally tally_;
};

inline Tally exact_pearson(const double* x, const double* y, std::size_t n) {
  std::vector<Dot> dots = centred_dots(x, y, n);
  return OrderWalk(dots).run();
}

// All ways to choose the cases coded 1: the sum of y over them, against the observed sum.
class GroupWalk {
 public:
  GroupWalk(const std::vector<double>& values, std::size_t chosen, double observed, double slack)
      : values_(values), chosen_(chosen), observed_(observed), slack_(slack) {}

  Tally run() {
    walk(0, 0, 0.0);
    return {tally_.above / all_, tally_.below / all_, tally_.outside / all_};
  }

 private:
  void walk(std::size_t at, std::size_t taken, double sum) {
    if (taken == chosen_) {
      all_ += 1;
      tally_.above += sum >= observed_ - slack_;
      tally_.below += sum <= observed_ + slack_;
      tally_.outside += std::fabs(sum) >= std::fabs(observed_) - slack_;
      return;
    }
    if (values_.size() - at < chosen_ - taken) return;
    if (at + 12 == values_.size()) stop_point();
    walk(at + 1, taken + 1, sum + values_[at]);
    walk(at + 1, taken, sum);
  }

  const std::vector<double>& values_;
  std::size_t chosen_;
  double observed_, slack_, all_ = 0;
  Tally tally_;
};

// x holds 0 and 1.
inline Tally exact_groups(const double* x, const double* y, std::size_t n) {
  std::vector<Dot> dots = centred_dots(x, y, n);
  std::vector<double> values(n);
  double observed = 0, size = 0;
  std::size_t chosen = 0;
  for (std::size_t i = 0; i < n; ++i) {
    values[i] = dots[i].y;
    size += std::fabs(dots[i].y);
    if (x[i] == 1.0) {
      observed += dots[i].y;
      ++chosen;
    }
  }
  return GroupWalk(values, chosen, observed, 1e-12 * (size + std::fabs(observed))).run();
}

}  // namespace unsere
