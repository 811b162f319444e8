// The numeric core on its own: plain C++, no R. Built and run by tests/testthat/test-core.R.
#include "../../src/core/contract.hpp"

#include <vector>

#include "../../src/core/line.hpp"
#include "../../src/core/exact.hpp"
#include "../../src/core/kendall.hpp"
#include "../../src/core/one_factor.hpp"
#include "../../src/core/phi.hpp"
#include "../../src/core/pearson.hpp"
#include "check.hpp"
#include "designs.hpp"
#include "many_columns.hpp"
#include "sheets.hpp"

using namespace unsere;

static void twofold_keeps_what_doubles_lose() {
  Twofold sum = Twofold(1e16) + Twofold(1.0) - Twofold(1e16);
  claim(sum.value() == 1.0, "1e16 + 1 - 1e16 is 1");
  Twofold third = Twofold(1.0) / Twofold(3.0);
  claim(std::fabs((third * Twofold(3.0) - Twofold(1.0)).value()) < 1e-31, "a third times three is one to 31 digits");
  Twofold root = square_root(Twofold(2.0));
  claim(std::fabs((root * root - Twofold(2.0)).value()) < 1e-30, "the root of two squared is two to 30 digits");
  claim(square_root(Twofold(0.0)).value() == 0.0, "the root of nothing is nothing");
}

static void one_factor_finds_what_made_the_correlations() {
  // Off the diagonal each correlation is the product of two loadings, so that nothing is left.
  const std::vector<double> made{0.9, 0.7, 0.5, -0.3};
  std::vector<double> r(16, 1), loading{0.5, 0.5, 0.5, 0.5};
  for (int i = 0; i < 4; ++i)
    for (int j = 0; j < 4; ++j)
      if (i != j) r[i * 4 + j] = made[i] * made[j];
  settle_loadings(r.data(), 4, 1e-14, 5000, loading.data());
  for (int i = 0; i < 4; ++i) claim(near(loading[i], made[i], 1e-10), "the loadings that made them");
  std::vector<double> none(9, 0), still{0, 0, 0};
  settle_loadings(none.data(), 3, 1e-12, 10, still.data());
  claim(still[0] == 0 && still[2] == 0, "nothing is made of nothing");
}

static void pearson_of_small_whole_numbers() {
  // Sxx = 10, Syy = 13.2, Sxy = 10 by hand.
  std::vector<double> x{1, 2, 3, 4, 5}, y{2, 4, 5, 4, 7};
  auto m = pair_moments(x.data(), y.data(), 5);
  claim(near(scaled(m.sxx, 2 * m.x.exponent).value(), 10, 1e-15), "Sxx is 10");
  claim(near(scaled(m.sxy, m.x.exponent + m.y.exponent).value(), 10, 1e-15), "Sxy is 10");
  auto found = pearson(x.data(), y.data(), 5);
  claim(near(found.r, 10 / std::sqrt(10 * 13.2), 1e-15), "r is Sxy over the root of Sxx Syy");
  claim(near(found.unexplained, 1 - 100 / 132.0, 1e-15), "what is left is 1 - r^2");
}

static void lines_are_exact_and_never_leave_the_bounds() {
  std::vector<double> x, up, down, near_line;
  for (int i = 0; i < 50; ++i) {
    x.push_back(0.1 * i);
    up.push_back(0.3 + 0.7 * (0.1 * i));
    down.push_back(1e8 - 3.0 * (0.1 * i));
    near_line.push_back(0.1 * i + (i % 2 ? 1e-9 : -1e-9));
  }
  claim(pearson(x.data(), up.data(), 50).r == 1.0, "a rising line has r of 1");
  claim(pearson(x.data(), up.data(), 50).exact, "and is known to be a line");
  claim(pearson(x.data(), down.data(), 50).r == -1.0, "a falling line has r of -1");
  auto close = pearson(x.data(), near_line.data(), 50);
  claim(!close.exact && close.unexplained > 0 && close.unexplained < 1e-15, "a nearly perfect line is not a line");
}

static void size_of_the_values_does_not_matter() {
  std::vector<double> x{1, 2, 3, 4, 5}, y{2, 4, 5, 4, 7};
  double r = pearson(x.data(), y.data(), 5).r;
  for (double size : {1e-150, 1e-20, 1e20, 1e150}) {
    std::vector<double> large = x, small = y;
    for (auto& v : large) v *= size;
    for (auto& v : small) v /= size;
    claim(near(pearson(large.data(), small.data(), 5).r, r, 1e-14), "r is the same from 1e-150 to 1e150");
  }
}

static void the_line_through_points() {
  std::vector<double> x{1, 2, 3, 4, 5}, y{2, 4, 5, 4, 7};
  auto found = shaped_line(x.data(), y.data(), 5, false).raw;
  claim(near(found.estimates[1], 1.0, 1e-15) && near(found.estimates[0], 1.4, 1e-15), "slope 1, intercept 1.4");
  claim(near(found.residual_squares, 3.2, 1e-14) && near(found.total_squares, 13.2, 1e-14), "squares 3.2 of 13.2");
  claim(near(found.covariance[3], 0.1, 1e-14) && near(found.covariance[0], 1.1, 1e-14), "(X'X)^-1 by hand");
  claim(!shaped_line(std::vector<double>{2, 2, 2}.data(), y.data(), 3, false).raw.full_rank, "a constant x has no line");
}

static void ranks_and_counts() {
  std::vector<double> x{3, 1, 3, 2}, y{1, 2, 3, 4};
  claim(rank_values(x.data(), 4).doubled == std::vector<std::int64_t>{7, 2, 7, 4}, "mid-ranks, doubled");
  auto all = exact_spearman(y.data(), y.data(), 4);
  claim(near(all.above, 1 / 24.0, 1e-15) && near(all.outside, 2 / 24.0, 1e-15), "one order in 24 is perfect");
  claim(near(exact_pearson(y.data(), y.data(), 4).above, 1 / 24.0, 1e-15), "walked through as well");
  std::vector<double> group{0, 0, 1, 1};
  claim(near(exact_groups(group.data(), y.data(), 4).above, 1 / 6.0, 1e-15), "one choice of two in six is highest");
  claim(std::isnan(exact_spearman(y.data(), y.data(), 4, 10).above), "too much to count is said, not tried");
}

static void threads_never_change_a_digit() {
  std::vector<double> x, y;
  Random random(5, 0);
  for (int i = 0; i < 30; ++i) {
    x.push_back(random.uniform());
    y.push_back(random.uniform() + 0.5 * x.back());
  }
  claim(bootstrap_pearson(x.data(), y.data(), 30, 101, 9, 1) == bootstrap_pearson(x.data(), y.data(), 30, 101, 9, 4),
        "resamples are the same on one thread and on four");
  auto left = leave_one_out_spearman(x.data(), y.data(), 30, 3);
  std::vector<double> rest_x(x.begin() + 1, x.end()), rest_y(y.begin() + 1, y.end());
  Reranker reranker(rest_x.data(), rest_y.data(), 29);
  std::vector<std::uint32_t> everyone(29);
  std::iota(everyone.begin(), everyone.end(), 0u);
  claim(near(left[0], reranker.r(everyone), 1e-14), "leaving one out ranks the rest anew");
}

static void random_numbers_are_even_and_streams_differ() {
  Random random(2024, 7);
  std::vector<int> seen(7, 0);
  for (int i = 0; i < 70000; ++i) ++seen[random.below(7)];
  bool even = true;
  for (int count : seen) even = even && count > 9600 && count < 10400;
  claim(even, "each of seven numbers comes about equally often");
  Random one(1, 0), same(1, 0), other(1, 1), reseeded(2, 0);
  const std::uint64_t first = one.bits();
  claim(first == same.bits(), "the same seed and stream give the same numbers");
  claim(first != other.bits() && first != reseeded.bits(), "another stream or seed gives others");
  double sum = 0, squares = 0;
  for (int i = 0; i < 100000; ++i) {
    const double u = random.uniform();
    sum += u;
    squares += u * u;
  }
  claim(std::fabs(sum / 1e5 - 0.5) < 0.005, "the mean of uniform numbers is a half");
  claim(std::fabs(squares / 1e5 - 1 / 3.0) < 0.005, "and of their squares a third");
}

static void counting_agrees_with_walking() {
  Random random(11, 0);
  for (int round = 0; round < 40; ++round) {
    const std::size_t n = 3 + random.below(5);
    std::vector<double> x(n), y(n);
    for (auto& v : x) v = random.below(4);
    for (auto& v : y) v = random.below(6);
    Ranking a = rank_values(x.data(), n), b = rank_values(y.data(), n);
    if (a.distinct < 2 || b.distinct < 2) continue;
    std::vector<double> rank_x(a.doubled.begin(), a.doubled.end()), rank_y(b.doubled.begin(), b.doubled.end());
    Tally counted = exact_spearman(x.data(), y.data(), n), walked = exact_pearson(rank_x.data(), rank_y.data(), n);
    claim(near(counted.above, walked.above, 1e-12) && near(counted.outside, walked.outside, 1e-12),
          "counting over states gives what a walk through all orders gives");
    claim(near(counted.below, exact_spearman(y.data(), x.data(), n).below, 1e-12), "whichever variable comes first");
  }
}

static void work_is_split_without_gaps() {
  for (int threads : {1, 2, 3, 7, 50}) {
    std::vector<int> touched(23, 0);
    in_parallel(touched.size(), threads, [&](std::size_t from, std::size_t to) {
      for (std::size_t i = from; i < to; ++i) ++touched[i];
    });
    bool once = true;
    for (int times : touched) once = once && times == 1;
    claim(once, "each item is worked on once");
  }
}

static void leaving_one_out_by_sums() {
  std::vector<double> x{1, 4, 2, 8, 5, 7}, y{3, 1, 4, 1, 5, 9};
  auto left = leave_one_out_pearson(x.data(), y.data(), 6);
  for (std::size_t i = 0; i < 6; ++i) {
    std::vector<double> rest_x = x, rest_y = y;
    rest_x.erase(rest_x.begin() + static_cast<long>(i));
    rest_y.erase(rest_y.begin() + static_cast<long>(i));
    claim(near(left[i], pearson(rest_x.data(), rest_y.data(), 5).r, 1e-12), "sums less one case are the sums of the rest");
  }
}

static void a_resample_that_does_not_vary_is_drawn_again() {
  std::vector<double> x{0, 0, 0, 1}, y{1, 2, 3, 4};
  for (double r : bootstrap_pearson(x.data(), y.data(), 4, 300, 3, 2)) claim(!std::isnan(r), "every resample has an r");
}

static void pairs_in_order_are_counted_as_one_by_one() {
  Random random(8, 1);
  for (std::size_t n : {2, 9, 60, 200}) {
    std::vector<double> x, y;
    for (std::size_t i = 0; i < n; ++i) {
      x.push_back(random.below(n > 60 ? 400 : 5));
      y.push_back(random.below(7));
    }
    std::int64_t slow = 0;
    for (std::size_t i = 0; i < n; ++i)
      for (std::size_t j = 0; j < i; ++j) slow += ((x[i] > x[j]) - (x[i] < x[j])) * ((y[i] > y[j]) - (y[i] < y[j]));
    claim(kendall(x.data(), y.data(), n).score == slow, "merging counts the pairs in order and out of it");
    x[0] = NAN;
    const std::vector<const double*> columns{x.data(), y.data()};
    const int wanted[] = {1, 1, 1, 1};
    const auto table = kendall_table(columns, n, 2, wanted);
    claim(table.n[1] == static_cast<double>(n - 1), "a pair has its own cases");
  }
  double all = 0;
  for (double chance : falling_pair_chances(20)) all += chance;
  claim(near(all, 1, 1e-14), "the chances of all numbers of falling pairs add up to one");
  std::vector<double> x{1, 2, 3, 4, 4}, y{1, 2, 2, 4, 3};
  const Tally exact = exact_kendall(x.data(), y.data(), 5), drawn = shuffle_kendall(x.data(), y.data(), 5, 20000, 3, 2);
  claim(near(exact.outside, drawn.outside / 20000, 0.1), "shuffling comes near to counting");
  for (double tau : bootstrap_kendall(x.data(), y.data(), 5, 200, 3, 2)) claim(std::fabs(tau) <= 1, "every resample has a tau");
  for (double tau : leave_one_out_kendall(x.data(), y.data(), 5)) claim(std::fabs(tau) <= 1, "so has each set less one");
}

static void limits_of_phi_lose_what_they_may() {
  for (const FourCells& counts : {FourCells{10, 3, 5, 20}, FourCells{.25, 4.25, 9.25, 80.25}, FourCells{2e6, 1e6, 3e6, 4e6}}) {
    const PhiLikelihood likelihood(counts), swapped({counts[0], counts[2], counts[1], counts[3]});
    claim(likelihood.deviance(likelihood.phi()) < 1e-8, "nothing is lost at the phi observed");
    for (int side : {-1, 1}) {
      const double limit = likelihood.limit(side, 3.84);
      claim(std::fabs(limit) == 1 || near(likelihood.deviance(limit), 3.84, 1e-4), "a limit is where so much is lost");
      claim(side * (limit - likelihood.phi()) > 0, "on its side of the phi observed");
      claim(limit == swapped.limit(side, 3.84), "and the same whichever variable comes first");
    }
  }
  claim(PhiLikelihood({50.25, .25, .25, 50.25}).limit(1, 3.84) <= 1, "no limit is beyond one");
}

int main() {
  limits_of_phi_lose_what_they_may();
  pairs_in_order_are_counted_as_one_by_one();
  random_numbers_are_even_and_streams_differ();
  counting_agrees_with_walking();
  work_is_split_without_gaps();
  leaving_one_out_by_sums();
  a_resample_that_does_not_vary_is_drawn_again();
  ranks_and_counts();
  threads_never_change_a_digit();
  one_factor_finds_what_made_the_correlations();
  twofold_keeps_what_doubles_lose();
  pearson_of_small_whole_numbers();
  lines_are_exact_and_never_leave_the_bounds();
  size_of_the_values_does_not_matter();
  the_line_through_points();
  claims_about_many_columns();
  claims_about_designs();
  claims_about_sheets();
  return report();
}
