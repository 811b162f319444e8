// Resampling of one pair: the bootstrap and the leave-one-out values of r, and the permutation test.
#pragma once

#include <cmath>
#include <vector>

#include "moments.hpp"
#include "parallel.hpp"
#include "random.hpp"
#include "ranks.hpp"
#include "stop.hpp"
#include "narrow.hpp"

namespace unsere {

// The pair centred and scaled to [-1, 1], side by side, so that a draw touches one place in memory.
struct Dot {
  double x, y;
};

inline std::vector<Dot> centred_dots(const double* x, const double* y, std::size_t n) {
  Column cx = make_column(x, n), cy = make_column(y, n);
  std::vector<Dot> dots(n);
  for (std::size_t i = 0; i < n; ++i) dots[i] = {cx.centred(i).value(), cy.centred(i).value()};
  double wide = 0, high = 0;
  for (auto& d : dots) {
    wide = std::max(wide, std::fabs(d.x));
    high = std::max(high, std::fabs(d.y));
  }
  for (auto& d : dots) d = {d.x / wide, d.y / high};
  return dots;
}

struct Sums {
  double x = 0, y = 0, xx = 0, yy = 0, xy = 0;

  void add(Dot d) {
    x += d.x;
    y += d.y;
    xx += d.x * d.x;
    yy += d.y * d.y;
    xy += d.x * d.y;
  }

  Sums without(Dot d) const {
    Sums s = *this;
    s.add_weighted(d, -1.0);
    return s;
  }

  void add_weighted(Dot d, double weight) {
    x += weight * d.x;
    y += weight * d.y;
    xx += weight * d.x * d.x;
    yy += weight * d.y * d.y;
    xy += weight * d.x * d.y;
  }

  // NaN where a variable does not vary.
  double r(double n) const {
    double sxx = xx - x * x / n, syy = yy - y * y / n;
    if (!(sxx > 1e-14 * xx) || !(syy > 1e-14 * yy)) return NAN;
    return std::max(-1.0, std::min(1.0, (xy - x * y / n) / std::sqrt(sxx * syy)));
  }
};

// r of the same cases with ranks taken anew among them, from how often each distinct value was drawn.
class Reranker {
 public:
  Reranker(const double* x, const double* y, std::size_t n)
      : x_(rank_values(x, n)), y_(rank_values(y, n)), at_x_(x_.distinct), at_y_(y_.distinct) {}

  double r(const std::vector<std::uint32_t>& cases) {
    place(x_, at_x_, cases);
    place(y_, at_y_, cases);
    double middle = (static_cast<double>(cases.size()) + 1.0) / 2.0;
    double sxx = 0, syy = 0, sxy = 0;
    for (std::uint32_t i : cases) {
      double a = at_x_[x_.code[i]] - middle, b = at_y_[y_.code[i]] - middle;
      sxx += a * a;
      syy += b * b;
      sxy += a * b;
    }
    if (!(sxx > 0.0) || !(syy > 0.0)) return NAN;
    return std::max(-1.0, std::min(1.0, sxy / std::sqrt(sxx * syy)));
  }

 private:
  static void place(const Ranking& ranking, std::vector<double>& at, const std::vector<std::uint32_t>& cases) {
    std::fill(at.begin(), at.end(), 0.0);
    for (std::uint32_t i : cases) at[ranking.code[i]] += 1.0;
    double below = 0;
    for (auto& count : at) {
      double here = count;
      count = below + (here + 1.0) / 2.0;
      below += here;
    }
  }

  Ranking x_, y_;
  std::vector<double> at_x_, at_y_;
};

// A resample in which a variable does not vary has no r and is drawn again.
constexpr int most_redraws = 1000;

inline std::vector<double> bootstrap_pearson(const double* x, const double* y, std::size_t n, std::size_t resamples,
                                             std::uint64_t seed, int threads) {
  check_rows(n);
  std::vector<Dot> dots = centred_dots(x, y, n);
  std::vector<double> out(resamples);
  in_parallel(resamples, threads, [&](std::size_t from, std::size_t to) {
    for (std::size_t b = from; b < to; ++b) {
      stop_point();
      Random random(seed, b);
      double r = NAN;
      for (int attempt = 0; std::isnan(r) && attempt < most_redraws; ++attempt) {
        Sums sums;
        for (std::size_t i = 0; i < n; ++i) sums.add(dots[random.below(static_cast<std::uint32_t>(n))]);
        r = sums.r(static_cast<double>(n));
      }
      out[b] = r;
    }
  });
  return out;
}

inline std::vector<double> bootstrap_spearman(const double* x, const double* y, std::size_t n, std::size_t resamples,
                                              std::uint64_t seed, int threads) {
  check_rows(n);
  std::vector<double> out(resamples);
  in_parallel(resamples, threads, [&](std::size_t from, std::size_t to) {
    Reranker reranker(x, y, n);
    std::vector<std::uint32_t> cases(n);
    for (std::size_t b = from; b < to; ++b) {
      stop_point();
      Random random(seed, b);
      double r = NAN;
      for (int attempt = 0; std::isnan(r) && attempt < most_redraws; ++attempt) {
        for (auto& one : cases) one = random.below(static_cast<std::uint32_t>(n));
        r = reranker.r(cases);
      }
      out[b] = r;
    }
  });
  return out;
}

inline std::vector<double> leave_one_out_pearson(const double* x, const double* y, std::size_t n) {
  std::vector<Dot> dots = centred_dots(x, y, n);
  Sums all;
  for (auto& d : dots) all.add(d);
  std::vector<double> out(n);
  for (std::size_t i = 0; i < n; ++i) out[i] = all.without(dots[i]).r(static_cast<double>(n) - 1.0);
  return out;
}

inline std::vector<double> leave_one_out_spearman(const double* x, const double* y, std::size_t n, int threads) {
  std::vector<double> out(n);
  in_parallel(n, threads, [&](std::size_t from, std::size_t to) {
    Reranker reranker(x, y, n);
    for (std::size_t i = from; i < to; ++i) {
      stop_point();
      std::vector<std::uint32_t> rest;
      for (std::uint32_t k = 0; k < n; ++k)
        if (k != i) rest.push_back(k);
      out[i] = reranker.r(rest);
    }
  });
  return out;
}

struct Tally {
  double above = 0, below = 0, outside = 0;  // of the shuffled sums: >= the observed, <= it, at least as far from zero
};

// How often the sum of products of shuffled, centred values is at least as extreme as the observed one.
inline Tally shuffle_test(const double* x, const double* y, std::size_t n, std::size_t shuffles, std::uint64_t seed,
                          int threads) {
  check_rows(n);
  std::vector<Dot> dots = centred_dots(x, y, n);
  double observed = 0, size = 0;
  for (auto& d : dots) {
    observed += d.x * d.y;
    size += std::fabs(d.x * d.y);
  }
  const double slack = 1e-12 * (size + std::fabs(observed));
  std::vector<double> sums(shuffles);
  in_parallel(shuffles, threads, [&](std::size_t from, std::size_t to) {
    std::vector<double> shuffled(n);
    for (std::size_t b = from; b < to; ++b) {
      stop_point();
      Random random(seed, b);
      for (std::size_t i = 0; i < n; ++i) shuffled[i] = dots[i].y;
      double sum = 0;
      for (std::size_t i = n; i-- > 0;) {
        std::swap(shuffled[i], shuffled[random.below(static_cast<std::uint32_t>(i) + 1)]);
        sum += dots[i].x * shuffled[i];
      }
      sums[b] = sum;
    }
  });
  Tally tally;
  for (double sum : sums) {
    tally.above += sum >= observed - slack;
    tally.below += sum <= observed + slack;
    tally.outside += std::fabs(sum) >= std::fabs(observed) - slack;
  }
  return tally;
}

}  // namespace unsere
