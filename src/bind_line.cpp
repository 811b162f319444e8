#include "bind.h"
#include "core/long_line.hpp"

using namespace cpp11::literals;

// A line of y in x, straight or curved; many cases go by their moments.
SEXP unsere_line(SEXP x, SEXP y, SEXP curved, SEXP threads) {
  BEGIN_CPP11
  const std::size_t n = static_cast<std::size_t>(Rf_xlength(x));
  const bool curve = Rf_asLogical(curved);
  unsere::ShapedLine found;
  cpp11::sexp fitted = Rf_allocVector(REALSXP, Rf_xlength(x)), residuals = Rf_allocVector(REALSXP, Rf_xlength(x));
  if (n < unsere::long_rows ||
      !unsere::long_line(REAL(x), REAL(y), n, curve, Rf_asInteger(threads), REAL(fitted), REAL(residuals), &found)) {
    found = unsere::shaped_line(REAL(x), REAL(y), n, curve);
    std::copy(found.raw.fitted.begin(), found.raw.fitted.end(), REAL(fitted));
    std::copy(found.raw.residuals.begin(), found.raw.residuals.end(), REAL(residuals));
  }
  const unsere::LineResult& raw = found.raw;
  return cpp11::writable::list({"estimates"_nm = to_doubles(raw.estimates), "covariance"_nm = to_doubles(raw.covariance),
                                "fitted"_nm = fitted, "residuals"_nm = residuals,
                                "residual_squares"_nm = raw.residual_squares, "total_squares"_nm = raw.total_squares,
                                "full_rank"_nm = raw.full_rank, "centre"_nm = found.centre,
                                "centred"_nm = to_doubles(found.centred),
                                "centred_covariance"_nm = to_doubles(found.centred_covariance), "exact"_nm = found.exact});
  END_CPP11
}
