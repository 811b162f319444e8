#include "bind.h"
#include "core/freed.hpp"
#include "core/long_line.hpp"

// A line of y in x, straight or curved; many cases go by their moments.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_line(Rcpp::NumericVector x, Rcpp::NumericVector y, bool curved, int threads) {
  check_lengths(x, y);
  const std::size_t n = length_of(x);
  unsere::ShapedLine found;
  Rcpp::NumericVector fitted(x.size()), residuals(x.size());
  double *fitted_at = REAL(fitted), *residuals_at = REAL(residuals);
  if (n < unsere::long_rows ||
      !unsere::long_line(values_of(x), values_of(y), n, curved, threads, fitted_at, residuals_at, &found)) {
    found = unsere::shaped_line(values_of(x), values_of(y), n, curved);
    std::copy(found.raw.fitted.begin(), found.raw.fitted.end(), fitted_at);
    std::copy(found.raw.residuals.begin(), found.raw.residuals.end(), residuals_at);
  }
  const unsere::LineResult& raw = found.raw;
  return Rcpp::List::create(Rcpp::Named("estimates") = to_doubles(raw.estimates), Rcpp::Named("covariance") = to_doubles(raw.covariance),
                                Rcpp::Named("fitted") = fitted, Rcpp::Named("residuals") = residuals,
                                Rcpp::Named("residual_squares") = raw.residual_squares, Rcpp::Named("total_squares") = raw.total_squares,
                                Rcpp::Named("full_rank") = raw.full_rank, Rcpp::Named("centre") = found.centre,
                                Rcpp::Named("centred") = to_doubles(found.centred),
                                Rcpp::Named("centred_covariance") = to_doubles(found.centred_covariance), Rcpp::Named("exact") = found.exact);
}

// Columns of `rows` cases one after another, what is left of them once those of `taken` are taken out.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_freed(Rcpp::NumericVector columns, Rcpp::NumericVector taken, double rows) {
  const std::size_t n = to_count(rows);
  check(n > 0, "There are no rows.");
  check(length_of(columns) % n == 0 && length_of(taken) % n == 0, "The columns differ in length.");
  Rcpp::NumericVector left(columns.size());
  double* to = REAL(left);
  std::copy(values_of(columns), values_of(columns) + length_of(columns), to);
  std::vector<const double*> out;
  for (std::size_t k = 0; k < length_of(taken) / n; ++k) out.push_back(values_of(taken) + k * n);
  unsere::free_columns(to, length_of(columns) / n, n, out);
  return left;
}
