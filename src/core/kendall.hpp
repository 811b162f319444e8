// Kendall's tau-b (Kendall 1945): pairs of cases in the same order less those in opposite order, counted by merging.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <iterator>
#include <vector>

#include "random.hpp"
#include "ranks.hpp"
#include "resample.hpp"
#include "stop.hpp"
#include "narrow.hpp"

namespace unsere {

// The place of each value among the distinct ones, rising; `missing` where there is none.
struct Codes {
  static constexpr std::uint32_t missing = ~std::uint32_t{0};
  std::vector<std::uint32_t> of;
  std::size_t distinct = 0;
};

inline Codes codes_of(const double* values, std::size_t n) {
  std::vector<double> present;
  std::copy_if(values, values + n, std::back_inserter(present), [](double value) { return value == value; });
  const Ranking ranking = rank_values(present.data(), present.size());
  Codes out{std::vector<std::uint32_t>(n, Codes::missing), ranking.distinct};
  for (std::size_t i = 0, k = 0; i < n; ++i)
    if (values[i] == values[i]) out.of[i] = ranking.code[k++];
  return out;
}

// How many share each value t: sums of t(t - 1), t(t - 1)(t - 2) and t(t - 1)(2t + 5).
struct TieSums {
  double twos = 0, threes = 0, spread = 0;
};

inline TieSums tie_sums(const std::vector<std::uint32_t>& counts) {
  TieSums out;
  for (double t : counts) {
    out.twos += t * (t - 1);
    out.threes += t * (t - 1) * (t - 2);
    out.spread += t * (t - 1) * (2 * t + 5);
  }
  return out;
}

struct Concordance {
  std::int64_t score = 0, untied_x = 0, untied_y = 0;  // Kendall's S; pairs not tied on x, and on y
  TieSums x, y;

  double tau() const {
    if (untied_x <= 0 || untied_y <= 0) return NAN;
    const double a = static_cast<double>(untied_x), b = static_cast<double>(untied_y), s = static_cast<double>(score);
    return std::max(-1.0, std::min(1.0, a == b ? s / a : s / (std::sqrt(a) * std::sqrt(b))));
  }
};

// Counts the pairs of some cases; keeps its memory from one time to the next.
class PairCounter {
 public:
  PairCounter(std::size_t distinct_x, std::size_t distinct_y) : counts_x_(distinct_x), counts_y_(distinct_y) {}

  Concordance count(const std::vector<std::uint32_t>& x, const std::vector<std::uint32_t>& y) {
    const std::size_t n = x.size();
    std::fill(counts_x_.begin(), counts_x_.end(), 0u);
    std::fill(counts_y_.begin(), counts_y_.end(), 0u);
    for (std::size_t i = 0; i < n; ++i) {
      ++counts_x_[x[i]];
      ++counts_y_[y[i]];
    }
    sort_by_both(x, y);
    const std::int64_t all = static_cast<std::int64_t>(n) * (static_cast<std::int64_t>(n) - 1) / 2;
    const std::int64_t tied_x = pairs_within(counts_x_), tied_y = pairs_within(counts_y_), tied_both = twins(x);
    Concordance out;
    out.untied_x = all - tied_x;
    out.untied_y = all - tied_y;
    out.score = all - tied_x - tied_y + tied_both - 2 * inversions();
    out.x = tie_sums(counts_x_);
    out.y = tie_sums(counts_y_);
    return out;
  }

  const std::vector<std::uint32_t>& counts_x() const { return counts_x_; }
  const std::vector<std::uint32_t>& counts_y() const { return counts_y_; }

 private:
  // Into `order_` and `line_`: the cases, and their y, by x and among equal x by y.
  void sort_by_both(const std::vector<std::uint32_t>& x, const std::vector<std::uint32_t>& y) {
    const std::size_t n = x.size();
    spare_.resize(n);
    order_.resize(n);
    line_.resize(n);
    start_.assign(counts_y_.size() + 1, 0);
    for (std::size_t v = 0; v < counts_y_.size(); ++v) start_[v + 1] = start_[v] + counts_y_[v];
    for (std::size_t i = 0; i < n; ++i) spare_[start_[y[i]]++] = static_cast<std::uint32_t>(i);
    start_.assign(counts_x_.size() + 1, 0);
    for (std::size_t v = 0; v < counts_x_.size(); ++v) start_[v + 1] = start_[v] + counts_x_[v];
    for (std::uint32_t i : spare_) order_[start_[x[i]]++] = i;
    for (std::size_t k = 0; k < n; ++k) line_[k] = y[order_[k]];
  }

  static std::int64_t pairs_within(const std::vector<std::uint32_t>& counts) {
    std::int64_t out = 0;
    for (std::int64_t t : counts) out += t * (t - 1) / 2;
    return out;
  }

  // Pairs equal on both.
  std::int64_t twins(const std::vector<std::uint32_t>& x) const {
    std::int64_t out = 0;
    for (std::size_t start = 0; start < line_.size();) {
      std::size_t end = start + 1;
      while (end < line_.size() && line_[end] == line_[start] && x[order_[end]] == x[order_[start]]) ++end;
      const std::int64_t t = static_cast<std::int64_t>(end - start);
      out += t * (t - 1) / 2;
      start = end;
    }
    return out;
  }

  // Pairs of `line_` in falling order, counted while it is sorted by merging.
  std::int64_t inversions() {
    std::int64_t falling = 0;
    const std::size_t n = line_.size();
    for (std::size_t width = 1; width < n; width *= 2) {
      stop_point();
      for (std::size_t from = 0; from < n; from += 2 * width) {
        const std::size_t middle = std::min(from + width, n), to = std::min(from + 2 * width, n);
        std::size_t left = from, right = middle, at = from;
        while (left < middle && right < to) {
          if (line_[right] < line_[left]) {
            falling += static_cast<std::int64_t>(middle - left);
            spare_[at++] = line_[right++];
          } else {
            spare_[at++] = line_[left++];
          }
        }
        while (left < middle) spare_[at++] = line_[left++];
        while (right < to) spare_[at++] = line_[right++];
      }
      std::swap(line_, spare_);
    }
    return falling;
  }

  std::vector<std::uint32_t> counts_x_, counts_y_, order_, line_, spare_;
  std::vector<std::size_t> start_;
};

inline Concordance kendall(const double* x, const double* y, std::size_t n) {
  check_rows(n);
  const Codes a = codes_of(x, n), b = codes_of(y, n);
  return PairCounter(a.distinct, b.distinct).count(a.of, b.of);
}

// The chance of each number of falling pairs among n in random order without ties: the recurrence of counts (Kendall 1938).
inline std::vector<double> falling_pair_chances(std::size_t n) {
  std::vector<double> chance{1.0};
  for (std::size_t m = 2; m <= n; ++m) {
    std::vector<double> next(chance.size() + m - 1, 0.0);
    for (std::size_t k = 0; k < chance.size(); ++k)
      for (std::size_t more = 0; more < m; ++more) next[k + more] += chance[k] / static_cast<double>(m);
    chance.swap(next);
  }
  return chance;
}

// Of all pairings, the shares with S at least as high, at most as high and as far from zero: from the recurrence without
// ties up to 60 cases, by walking through all orders with ties up to 9; NaN beyond.
inline Tally exact_kendall(const double* x, const double* y, std::size_t n) {
  const Codes a = codes_of(x, n), b = codes_of(y, n);
  PairCounter counter(a.distinct, b.distinct);
  const std::int64_t seen = counter.count(a.of, b.of).score;
  Tally out;
  auto add = [&](std::int64_t score, double share) {
    out.above += score >= seen ? share : 0.0;
    out.below += score <= seen ? share : 0.0;
    out.outside += std::abs(score) >= std::abs(seen) ? share : 0.0;
  };
  if (a.distinct == n && b.distinct == n && n <= 60) {
    const std::vector<double> chance = falling_pair_chances(n);
    const std::int64_t all = static_cast<std::int64_t>(chance.size()) - 1;
    for (std::int64_t k = 0; k <= all; ++k) add(all - 2 * k, chance[static_cast<std::size_t>(k)]);
  } else if (n <= 9) {
    std::vector<std::uint32_t> order = b.of;
    std::sort(order.begin(), order.end());
    double ways = 0;
    do {
      add(counter.count(a.of, order).score, 1.0);
      ways += 1;
    } while (std::next_permutation(order.begin(), order.end()));
    out = {out.above / ways, out.below / ways, out.outside / ways};
  } else {
    return {NAN, NAN, NAN};
  }
  return {std::min(out.above, 1.0), std::min(out.below, 1.0), std::min(out.outside, 1.0)};
}

inline Tally shuffle_kendall(const double* x, const double* y, std::size_t n, std::size_t shuffles, std::uint64_t seed,
                             int threads) {
  check_rows(n);
  const Codes a = codes_of(x, n), b = codes_of(y, n);
  const std::int64_t seen = PairCounter(a.distinct, b.distinct).count(a.of, b.of).score;
  std::vector<std::int64_t> scores(shuffles);
  in_parallel(shuffles, threads, [&](std::size_t from, std::size_t to) {
    PairCounter counter(a.distinct, b.distinct);
    for (std::size_t s = from; s < to; ++s) {
      Random random(seed, s);
      std::vector<std::uint32_t> order = b.of;
      for (std::size_t i = n; i-- > 0;) std::swap(order[i], order[random.below(static_cast<std::uint32_t>(i) + 1)]);
      scores[s] = counter.count(a.of, order).score;
    }
  });
  Tally tally;
  for (std::int64_t score : scores) {
    tally.above += score >= seen;
    tally.below += score <= seen;
    tally.outside += std::abs(score) >= std::abs(seen);
  }
  return tally;
}

inline std::vector<double> bootstrap_kendall(const double* x, const double* y, std::size_t n, std::size_t resamples,
                                             std::uint64_t seed, int threads) {
  check_rows(n);
  const Codes a = codes_of(x, n), b = codes_of(y, n);
  std::vector<double> out(resamples);
  in_parallel(resamples, threads, [&](std::size_t from, std::size_t to) {
    PairCounter counter(a.distinct, b.distinct);
    std::vector<std::uint32_t> of_x(n), of_y(n);
    for (std::size_t s = from; s < to; ++s) {
      Random random(seed, s);
      double tau = NAN;
      for (int attempt = 0; std::isnan(tau) && attempt < most_redraws; ++attempt) {
        for (std::size_t i = 0; i < n; ++i) {
          const std::uint32_t drawn = random.below(static_cast<std::uint32_t>(n));
          of_x[i] = a.of[drawn];
          of_y[i] = b.of[drawn];
        }
        tau = counter.count(of_x, of_y).tau();
      }
      out[s] = tau;
    }
  });
  return out;
}

// How many of some codes lie below each (Fenwick 1994).
class Below {
 public:
  explicit Below(std::size_t distinct) : sums_(distinct + 1, 0) {}

  void add(std::size_t code) {
    for (std::size_t k = code + 1; k < sums_.size(); k += k & (~k + 1)) ++sums_[k];
    ++all_;
  }

  std::int64_t below(std::size_t code) const {
    std::int64_t out = 0;
    for (std::size_t k = code; k > 0; k -= k & (~k + 1)) out += sums_[k];
    return out;
  }

  // Those below less those above.
  std::int64_t balance(std::size_t code) const { return below(code) + below(code + 1) - all_; }

 private:
  std::vector<std::int64_t> sums_;
  std::int64_t all_ = 0;
};

// tau-b without each case in turn, from the share that each case has in S.
inline std::vector<double> leave_one_out_kendall(const double* x, const double* y, std::size_t n) {
  const Codes a = codes_of(x, n), b = codes_of(y, n);
  PairCounter counter(a.distinct, b.distinct);
  const Concordance all = counter.count(a.of, b.of);
  std::vector<std::vector<std::size_t>> cases(a.distinct);
  for (std::size_t i = 0; i < n; ++i) cases[a.of[i]].push_back(i);
  std::vector<std::int64_t> share(n, 0);
  auto pass = [&](bool rising) {
    Below before(b.distinct);
    for (std::size_t k = 0; k < cases.size(); ++k) {
      const auto& alike = cases[rising ? k : cases.size() - 1 - k];
      for (std::size_t i : alike) share[i] += rising ? before.balance(b.of[i]) : -before.balance(b.of[i]);
      for (std::size_t i : alike) before.add(b.of[i]);
    }
  };
  pass(true);
  pass(false);
  std::vector<double> out(n);
  for (std::size_t i = 0; i < n; ++i) {
    Concordance rest;
    rest.score = all.score - share[i];
    const std::int64_t others = static_cast<std::int64_t>(n) - 1;
    rest.untied_x = all.untied_x - others + (static_cast<std::int64_t>(counter.counts_x()[a.of[i]]) - 1);
    rest.untied_y = all.untied_y - others + (static_cast<std::int64_t>(counter.counts_y()[b.of[i]]) - 1);
    out[i] = rest.tau();
  }
  return out;
}

// Columns by columns; `twos`, `threes` and `spread` are those of the first column among the cases of the pair.
struct KendallTable {
  std::vector<double> tau, n, twos, threes, spread;
};

inline KendallTable kendall_table(const std::vector<const double*>& columns, std::size_t rows, int threads, const int* wanted) {
  const std::size_t p = columns.size();
  std::vector<Codes> codes(p);
  in_parallel(p, threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t j = from; j < to; ++j) codes[j] = codes_of(columns[j], rows);
  });
  std::vector<std::size_t> pairs;
  for (std::size_t j = 0; j < p; ++j)
    for (std::size_t i = 0; i < j; ++i)
      if (wanted[i + j * p]) pairs.push_back(i + j * p);
  const std::vector<double> empty(p * p, NAN);
  KendallTable out{empty, empty, empty, empty, empty};
  auto set = [&](std::size_t at, double tau, std::size_t n, const TieSums& ties) {
    out.tau[at] = tau;
    out.n[at] = static_cast<double>(n);
    out.twos[at] = ties.twos;
    out.threes[at] = ties.threes;
    out.spread[at] = ties.spread;
  };
  in_parallel(pairs.size(), threads, [&](std::size_t from, std::size_t to) {
    std::vector<std::uint32_t> x, y;
    for (std::size_t k = from; k < to; ++k) {
      const std::size_t i = pairs[k] % p, j = pairs[k] / p;
      x.clear();
      y.clear();
      for (std::size_t row = 0; row < rows; ++row)
        if (codes[i].of[row] != Codes::missing && codes[j].of[row] != Codes::missing) {
          x.push_back(codes[i].of[row]);
          y.push_back(codes[j].of[row]);
        }
      const Concordance found = PairCounter(codes[i].distinct, codes[j].distinct).count(x, y);
      set(i + j * p, found.tau(), x.size(), found.x);
      set(j + i * p, found.tau(), x.size(), found.y);
    }
  });
  return out;
}

}  // namespace unsere
