#include "bind.h"
#include "core/drawn_ranks.hpp"
#include "core/exact.hpp"
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
