#include <algorithm>
#include <cmath>
#include "bind.h"
#include "core/parallel.hpp"
#include "core/pearson.hpp"

// [[Rcpp::export(rng = false)]]
Rcpp::List core_pearson(Rcpp::NumericVector x, Rcpp::NumericVector y) {
  check_lengths(x, y);
  const auto found = unsere::pearson(values_of(x), values_of(y), length_of(x));
  return Rcpp::List::create(Rcpp::Named("r") = found.r, Rcpp::Named("unexplained") = found.unexplained, Rcpp::Named("exact") = found.exact,
                                Rcpp::Named("mean_x") = found.x.mean, Rcpp::Named("sd_x") = found.x.sd, Rcpp::Named("mean_y") = found.y.mean,
                                Rcpp::Named("sd_y") = found.y.sd);
}

// [[Rcpp::export(rng = false)]]
Rcpp::List core_spread(Rcpp::NumericVector x) {
  const unsere::Column column = unsere::make_column(values_of(x), length_of(x));
  const unsere::Spread found = unsere::spread_of(column, unsere::sum_of_squares(column));
  return Rcpp::List::create(Rcpp::Named("mean") = found.mean, Rcpp::Named("sd") = found.sd);
}

// Mean and standard deviation of the values that each column has.
// [[Rcpp::export(rng = false)]]
Rcpp::List core_spreads(Rcpp::List columns, int threads) {
  const Columns from = columns_of(columns);
  return spreads_list(unsere::spreads_of(from.values, from.rows, threads));
}

// Whether a column holds one of some whole numbers; those beyond 32,767 are few and sought one by one.
// [[Rcpp::export(rng = false)]]
bool core_holds_any(Rcpp::NumericVector column, Rcpp::NumericVector wanted) {
  constexpr double reach = 32768, to_whole = 6755399441055744.0;  // 1.5 * 2^52: adding it rounds to a whole number
  std::vector<char> sought(2 * static_cast<std::size_t>(reach), 0);
  std::vector<double> large;
  for (const double code : wanted) {
    check(std::isfinite(code), "A code that is looked for must be a number.");
    if (code >= -reach && code < reach) {
      sought[static_cast<std::size_t>(code + reach)] = 1;
    } else {
      large.push_back(code);
    }
  }
  const double* values = values_of(column);
  const std::size_t n = length_of(column), block = 32;
  for (std::size_t start = 0; start < n; start += block) {
    const std::size_t end = std::min(n, start + block);
    // Most blocks are settled by holding no whole number.
    int whole = 0;
    for (std::size_t i = start; i < end; ++i) whole += (values[i] + to_whole) - to_whole == values[i];
    if (whole == 0) continue;
    for (std::size_t i = start; i < end; ++i) {
      const double v = values[i];
      if (v >= -reach && v < reach) {
        if (v == std::trunc(v) && sought[static_cast<std::size_t>(v + reach)]) return true;
      } else if (std::find(large.begin(), large.end(), v) != large.end()) {
        return true;
      }
    }
  }
  return false;
}
