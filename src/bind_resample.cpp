#include "bind.h"
#include "core/drawn_ranks.hpp"
#include "core/exact.hpp"
#include "core/left_out.hpp"
#include "core/resample.hpp"
#include "core/self_ties.hpp"

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_ranks(Rcpp::NumericVector x) {
  const auto ranking = unsere::rank_values(values_of(x), length_of(x));
  std::vector<double> out(ranking.doubled.size());
  for (std::size_t i = 0; i < out.size(); ++i) out[i] = static_cast<double>(ranking.doubled[i]) / 2.0;
  return to_doubles(out);
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_bootstrap(Rcpp::NumericVector x, Rcpp::NumericVector y, bool ranked, double resamples,
                                   double seed, int threads) {
  check_lengths(x, y);
  auto draw = ranked ? unsere::bootstrap_spearman : unsere::bootstrap_pearson;
  const double *a = values_of(x), *b = values_of(y);
  return to_doubles(run_interruptibly(
      [&] { return draw(a, b, length_of(x), to_count(resamples), to_seed(seed), threads); }));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_leave_one_out(Rcpp::NumericVector x, Rcpp::NumericVector y, bool ranked, int threads) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  if (!ranked) return to_doubles(unsere::leave_one_out_pearson(a, b, length_of(x)));
  return to_doubles(run_interruptibly([&] { return unsere::leave_one_out_spearman(a, b, length_of(x), threads); }));
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_shuffle_test(Rcpp::NumericVector x, Rcpp::NumericVector y, double shuffles, double seed, int threads) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly(
      [&] { return unsere::shuffle_test(a, b, length_of(x), to_count(shuffles), to_seed(seed), threads); }));
}

// Of products of the values: all orders of y.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_exact_orders(Rcpp::NumericVector x, Rcpp::NumericVector y) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] { return unsere::exact_pearson(a, b, length_of(x)); }));
}

// Of the ranks of both, by counting; NaN where that takes more than so many numbers.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_exact_ranks(Rcpp::NumericVector x, Rcpp::NumericVector y, double most_cells) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] { return unsere::exact_spearman(a, b, length_of(x), most_cells); }));
}

// Of the sum of y where x is 1: all ways to choose them.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_exact_groups(Rcpp::NumericVector x, Rcpp::NumericVector y) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] { return unsere::exact_groups(a, b, length_of(x)); }));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_uniforms(double n, double seed, double stream) {
  unsere::Random random(to_seed(seed), static_cast<std::uint64_t>(to_count(stream)));
  std::vector<double> out(to_count(n));
  for (auto& value : out) value = random.uniform();
  return to_doubles(out);
}

// Of samples of a normal pair.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_drawn_spearman(double rho, double n, double draws, double seed) {
  return to_doubles(run_interruptibly(
      [&] { return unsere::drawn_spearman(rho, to_count(n), to_count(draws), to_seed(seed)); }));
}

// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_self_ties(Rcpp::NumericVector values, Rcpp::NumericVector there, int reach) {
  check_lengths(values, there);
  return to_doubles(unsere::self_ties(values_of(values), values_of(there), length_of(values),
                                      static_cast<std::size_t>(std::max(reach, 0))));
}

// `first` and `second`: the places of each pair's columns, from 1 on; `r` of each pair.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_left_out(Rcpp::List columns, Rcpp::IntegerVector first, Rcpp::IntegerVector second, Rcpp::NumericVector r,
                         int threads) {
  const Columns from = columns_of(columns);
  check(first.size() == second.size() && first.size() == r.size(), "A pair has two places and an r.");
  std::vector<std::size_t> places[2];
  for (int side = 0; side < 2; ++side) {
    for (int place : side == 0 ? first : second) {
      check(place >= 1 && static_cast<std::size_t>(place) <= from.values.size(), "There is no such column.");
      places[side].push_back(static_cast<std::size_t>(place) - 1);
    }
  }
  const double* of_pair = values_of(r);
  const auto found = run_interruptibly(
      [&] { return unsere::left_out_of_pairs(from.values, from.rows, places[0], places[1], of_pair, threads); });
  Rcpp::NumericVector variance(found.size()), kurtosis(found.size());
  for (std::size_t k = 0; k < found.size(); ++k) {
    variance[static_cast<R_xlen_t>(k)] = found[k].variance;
    kurtosis[static_cast<R_xlen_t>(k)] = found[k].kurtosis;
  }
  return Rcpp::List::create(Rcpp::Named("variance") = variance, Rcpp::Named("kurtosis") = kurtosis);
}
