// Claims about many columns at once: moments, kernels, merging, ranks, and the long line.
#pragma once

#include <random>
#include <vector>

#include "../../src/core/long_line.hpp"
#include "../../src/core/rank_matrix.hpp"
#include "check.hpp"

using namespace unsere;

struct Table {
  std::vector<std::vector<double>> columns;
  std::size_t rows;

  Table(std::size_t p, std::size_t n, double missing, unsigned seed) : columns(p, std::vector<double>(n)), rows(n) {
    std::mt19937_64 random(seed);
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> even;
    for (std::size_t i = 0; i < n; ++i) {
      const double common = normal(random);
      for (std::size_t j = 0; j < p; ++j)
        columns[j][i] = even(random) < missing ? NAN : normal(random) + static_cast<double>(j % 3) * common + (j == 1 ? 1e6 : 0);
    }
  }
  std::vector<const double*> pointers(std::size_t from = 0) const {
    std::vector<const double*> out;
    for (const auto& column : columns) out.push_back(column.data() + from);
    return out;
  }
  // r of a pair among its own cases, in twofold arithmetic.
  double r(std::size_t i, std::size_t j) const {
    std::vector<double> a, b;
    common_cases(columns[i].data(), columns[j].data(), rows, &a, &b);
    return pearson(a.data(), b.data(), a.size()).r;
  }
};

inline void every_kernel_gives_each_pair_its_own_r() {
  for (double missing : {0.0, 0.07}) {
    const Table table(29, 5000, missing, 5);
    for (int kernel : {1, 2, 3}) {
      const CrossMoments moments = cross_moments(table.pointers(), table.rows, 2, kernel);
      claim(moments.complete == (missing == 0.0), "moments know whether a value is missing");
      for (std::size_t j : {1u, 7u, 28u})
        for (std::size_t i : {0u, 5u}) {
          double unexplained;
          bool doubtful;
          claim(std::fabs(moments.r(i, j, &unexplained, &doubtful) - table.r(i, j)) < 1e-13, "r from moments is the pair's own r");
        }
    }
  }
}

inline void threads_and_places_do_not_matter() {
  const Table table(40, 9000, 0.05, 6);
  const CrossMoments one = cross_moments(table.pointers(), table.rows, 1), three = cross_moments(table.pointers(), table.rows, 3);
  claim(one.products == three.products && one.sums == three.sums && one.counts == three.counts, "threads change no digit");
  auto turned = table.pointers();
  std::swap(turned[2], turned[33]);
  const CrossMoments other = cross_moments(turned, table.rows, 2);
  claim(other.products[33 + 5 * 40] == one.products[2 + 5 * 40], "nor does a column's place");
}

inline void parts_merge_to_the_whole() {
  const Table table(11, 7000, 0.04, 7);
  const CrossMoments whole = cross_moments(table.pointers(), table.rows, 2);
  for (std::size_t cut : {1u, 300u, 6999u}) {
    CrossMoments parts = cross_moments(table.pointers(), cut, 1);
    parts.merge(cross_moments(table.pointers(cut), table.rows - cut, 1));
    claim(parts.rows == whole.rows, "all cases are there");
    for (std::size_t j = 1; j < 11; ++j) {
      double left, right;
      bool doubtful;
      claim(std::fabs(parts.r(0, j, &left, &doubtful) - whole.r(0, j, &right, &doubtful)) < 1e-13, "merged r is the whole's r");
      claim(parts.count(0, j) == whole.count(0, j), "merged n is the whole's n");
      claim(near(parts.sd(j), whole.sd(j), 1e-8) && near(parts.mean(j), whole.mean(j), 1e-12), "so are mean and spread");
    }
  }
}

inline void a_far_start_does_not_cost_digits() {
  // The sample's centre is far from the mean: most values are small, a few at the end are huge.
  std::vector<double> x(6000), y(6000);
  for (std::size_t i = 0; i < 6000; ++i) {
    x[i] = std::sin(static_cast<double>(i)) + (i >= 5990 ? 1e9 : 0);
    y[i] = std::cos(static_cast<double>(i)) + (i >= 5990 ? 1e9 : 0);
  }
  const CrossMoments m = cross_moments({x.data(), y.data()}, 6000, 2);
  const PairTable found = pearson_table(m, {x.data(), y.data()}, 6000, 1);
  const PearsonResult alone = pearson(x.data(), y.data(), 6000);
  claim(std::fabs(found.r[2] - alone.r) < 1e-14 && near(found.unexplained[2], alone.unexplained, 1e-10), "one heap far off");
}

inline void ranks_agree_however_they_are_sorted() {
  const Table table(4, 3000, 0.1, 8);
  std::vector<int> wanted(16, 1);
  const RankTable pairwise = spearman_table(table.pointers(), table.rows, 2, wanted.data(), false);
  for (std::size_t j = 1; j < 4; ++j) {
    std::vector<double> a, b;
    common_cases(table.columns[0].data(), table.columns[j].data(), table.rows, &a, &b);
    const Ranking x = rank_values(a.data(), a.size()), y = rank_values(b.data(), b.size());
    a.assign(x.doubled.begin(), x.doubled.end());
    b.assign(y.doubled.begin(), y.doubled.end());
    claim(std::fabs(pairwise.pairs.r[4 * j] - pearson(a.data(), b.data(), a.size()).r) < 1e-13, "ranks among the pair's own cases");
  }
  RankShape tied;
  tied.add(2, -1);
  tied.add(2, 1);
  claim(tied.squares == 4 && tied.cubes == 0 && tied.fourths == 4, "sums of powers of 1.5, 1.5, 3.5, 3.5");
  claim(near(untied_shape(5).squares, 10, 1e-15) && near(untied_shape(5).fourths, 34, 1e-15), "of 1 to 5");
}

inline void the_long_line_is_the_short_one() {
  const Table table(3, 30000, 0, 9);
  const double *x = table.columns[1].data(), *y = table.columns[2].data();
  for (bool curved : {false, true}) {
    std::vector<double> fitted(table.rows), residuals(table.rows);
    ShapedLine fast;
    claim(long_line(x, y, table.rows, curved, 2, fitted.data(), residuals.data(), &fast), "moments suffice");
    const ShapedLine slow = shaped_line(x, y, table.rows, curved);
    claim(near(fast.raw.residual_squares, slow.raw.residual_squares, 1e-11), "the same residuals");
    const double shift = fast.centre - slow.centre;
    const double value = slow.centred[0] + shift * (slow.centred[1] + (curved ? shift * slow.centred[2] : 0.0));
    claim(std::fabs(fast.centred[0] - value) < 1e-9, "the same line at its centre");
    claim(near(fast.centred.back(), slow.centred.back(), 1e-9), "the same last term");
  }
}

inline void claims_about_many_columns() {
  every_kernel_gives_each_pair_its_own_r();
  threads_and_places_do_not_matter();
  parts_merge_to_the_whole();
  a_far_start_does_not_cost_digits();
  ranks_agree_however_they_are_sorted();
  the_long_line_is_the_short_one();
}
