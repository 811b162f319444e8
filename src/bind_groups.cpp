#include "bind.h"
#include "core/contingency.hpp"

// Groups that hold a case each, so that no share is taken of nothing.
static std::vector<std::size_t> filled_groups(const Rcpp::IntegerVector& places, int kinds) {
  check(kinds >= 1, "There is no group.");
  auto groups = from_zero(places, static_cast<std::size_t>(kinds));
  for (const auto size : unsere::count_groups(groups, static_cast<std::size_t>(kinds)))
    check(size > 0, "A group has no case.");
  return groups;
}

// How often shuffled groups lie as far apart; `v` about its mean.
// [[Rcpp::export(rng = false)]]
double core_shuffle_between(Rcpp::NumericVector v, Rcpp::IntegerVector groups, int kinds, double shuffles, double seed,
                            int threads) {
  check(v.size() == groups.size(), "The columns differ in length.");
  const auto places = filled_groups(groups, kinds);
  const double* values = values_of(v);
  return run_interruptibly([&] {
    return unsere::shuffle_between(values, places, static_cast<std::size_t>(kinds), to_count(shuffles), to_seed(seed),
                                   threads);
  });
}

// [[Rcpp::export(rng = false)]]
double core_shuffle_table(Rcpp::IntegerVector x, Rcpp::IntegerVector y, int rows, int columns, double shuffles,
                          double seed, int threads) {
  check(x.size() == y.size(), "The columns differ in length.");
  const auto down = filled_groups(x, rows), across = filled_groups(y, columns);
  return run_interruptibly([&] {
    return unsere::shuffle_table(down, across, static_cast<std::size_t>(rows), static_cast<std::size_t>(columns),
                                 to_count(shuffles), to_seed(seed), threads);
  });
}

// p of chi-squared among all tables of these groups' margins; NaN where they are too many.
// [[Rcpp::export(rng = false)]]
double core_exact_tables(Rcpp::IntegerVector x, Rcpp::IntegerVector y, int rows, int columns, double most) {
  check(x.size() == y.size(), "The columns differ in length.");
  check(columns >= 2, "A table has two columns or more.");
  const auto down = filled_groups(x, rows), across = filled_groups(y, columns);
  const auto m = static_cast<std::size_t>(rows);
  unsere::Counts cells(m * static_cast<std::size_t>(columns));
  // Of so large a table there are always too many, and the count goes as deep as it has cells.
  if (cells.size() > 2500) return R_NaN;
  for (std::size_t i = 0; i < down.size(); ++i) ++cells[across[i] * m + down[i]];
  const auto margin = unsere::count_groups(down, m);
  const auto other = unsere::count_groups(across, static_cast<std::size_t>(columns));
  const double observed = unsere::table_statistic(cells, margin, other);
  return run_interruptibly([&] { return unsere::TableCount(margin, other, observed, most).p(); });
}
