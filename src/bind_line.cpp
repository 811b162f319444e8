#include "bind.h"
#include "core/line.hpp"

using namespace cpp11::literals;

SEXP unsere_straight_line(SEXP x, SEXP y) {
  BEGIN_CPP11
  auto found = unsere::straight_line(REAL(x), REAL(y), static_cast<std::size_t>(Rf_xlength(x)));
  return cpp11::writable::list({"estimates"_nm = to_doubles(found.estimates),
                                "covariance"_nm = to_doubles(found.covariance), "fitted"_nm = to_doubles(found.fitted),
                                "residuals"_nm = to_doubles(found.residuals),
                                "residual_squares"_nm = found.residual_squares,
                                "total_squares"_nm = found.total_squares, "full_rank"_nm = found.full_rank});
  END_CPP11
}
