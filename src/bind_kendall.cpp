#include "bind.h"
#include "core/kendall.hpp"

// [[Rcpp::export(rng = false)]]
Rcpp::List core_kendall(Rcpp::NumericVector x, Rcpp::NumericVector y) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  const auto found = run_interruptibly([&] { return unsere::kendall(a, b, length_of(x)); });
  auto ties = [](const unsere::TieSums& sums) {
    return Rcpp::List::create(Rcpp::Named("twos") = sums.twos, Rcpp::Named("threes") = sums.threes, Rcpp::Named("spread") = sums.spread);
  };
  return Rcpp::List::create(Rcpp::Named("r") = found.tau(), Rcpp::Named("x") = ties(found.x), Rcpp::Named("y") = ties(found.y));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_exact_kendall(Rcpp::NumericVector x, Rcpp::NumericVector y) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] { return unsere::exact_kendall(a, b, length_of(x)); }));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_shuffle_kendall(Rcpp::NumericVector x, Rcpp::NumericVector y, double shuffles, double seed, int threads) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] {
    return unsere::shuffle_kendall(a, b, length_of(x), to_count(shuffles), to_seed(seed), threads);
  }));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_bootstrap_kendall(Rcpp::NumericVector x, Rcpp::NumericVector y, double resamples, double seed,
                                  int threads) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  const auto values = run_interruptibly([&] {
    return unsere::bootstrap_kendall(a, b, length_of(x), to_count(resamples), to_seed(seed), threads);
  });
  const auto left = run_interruptibly([&] { return unsere::leave_one_out_kendall(a, b, length_of(x)); });
  return Rcpp::List::create(Rcpp::Named("values") = to_doubles(values), Rcpp::Named("left") = to_doubles(left));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_kendall_matrix(Rcpp::List columns, Rcpp::LogicalVector wanted, int threads) {
  const Columns from = columns_of(columns);
  const int* asked = wanted_pairs(wanted, from);
  const auto found = run_interruptibly([&] { return unsere::kendall_table(from.values, from.rows, threads, asked); });
  return Rcpp::List::create(Rcpp::Named("r") = to_doubles(found.tau), Rcpp::Named("n") = to_doubles(found.n), Rcpp::Named("twos") = to_doubles(found.twos),
                                Rcpp::Named("threes") = to_doubles(found.threes), Rcpp::Named("spread") = to_doubles(found.spread));
}
