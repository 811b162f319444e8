#include "bind.h"
#include "core/freed.hpp"
#include "core/long_line.hpp"

using namespace cpp11::literals;

// A line of y in x, straight or curved; many cases go by their moments.
[[cpp11::register]] cpp11::list core_line(cpp11::doubles x, cpp11::doubles y, bool curved, int threads) {
  check_lengths(x, y);
  const std::size_t n = length_of(x);
  unsere::ShapedLine found;
  cpp11::writable::doubles fitted(x.size()), residuals(x.size());
  double *fitted_at = cpp11::safe[REAL](fitted), *residuals_at = cpp11::safe[REAL](residuals);
  if (n < unsere::long_rows ||
      !unsere::long_line(values_of(x), values_of(y), n, curved, threads, fitted_at, residuals_at, &found)) {
    found = unsere::shaped_line(values_of(x), values_of(y), n, curved);
    std::copy(found.raw.fitted.begin(), found.raw.fitted.end(), fitted_at);
    std::copy(found.raw.residuals.begin(), found.raw.residuals.end(), residuals_at);
  }
  const unsere::LineResult& raw = found.raw;
  return cpp11::writable::list({"estimates"_nm = to_doubles(raw.estimates), "covariance"_nm = to_doubles(raw.covariance),
                                "fitted"_nm = fitted, "residuals"_nm = residuals,
                                "residual_squares"_nm = raw.residual_squares, "total_squares"_nm = raw.total_squares,
                                "full_rank"_nm = raw.full_rank, "centre"_nm = found.centre,
                                "centred"_nm = to_doubles(found.centred),
                                "centred_covariance"_nm = to_doubles(found.centred_covariance), "exact"_nm = found.exact});
}

// Columns of `rows` cases one after another, what is left of them once those of `taken` are taken out.
[[cpp11::register]] cpp11::doubles core_freed(cpp11::doubles columns, cpp11::doubles taken, double rows) {
  const std::size_t n = static_cast<std::size_t>(rows);
  if (n == 0) cpp11::stop("there are no rows");
  cpp11::writable::doubles left(columns.size());
  double* to = cpp11::safe[REAL](left);
  std::copy(values_of(columns), values_of(columns) + length_of(columns), to);
  std::vector<const double*> out;
  for (std::size_t k = 0; k < length_of(taken) / n; ++k) out.push_back(values_of(taken) + k * n);
  unsere::free_columns(to, length_of(columns) / n, n, out);
  return left;
}
