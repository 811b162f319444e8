#include "bind.h"
#include "core/pearson.hpp"

using namespace cpp11::literals;

SEXP unsere_pearson(SEXP x, SEXP y) {
  BEGIN_CPP11
  auto found = unsere::pearson(REAL(x), REAL(y), static_cast<std::size_t>(Rf_xlength(x)));
  return cpp11::writable::list({"r"_nm = found.r, "unexplained"_nm = found.unexplained, "exact"_nm = found.exact,
                                "mean_x"_nm = found.x.mean, "sd_x"_nm = found.x.sd, "mean_y"_nm = found.y.mean,
                                "sd_y"_nm = found.y.sd});
  END_CPP11
}

SEXP unsere_spread(SEXP x) {
  BEGIN_CPP11
  unsere::Column column = unsere::make_column(REAL(x), static_cast<std::size_t>(Rf_xlength(x)));
  unsere::Spread found = unsere::spread_of(column, unsere::sum_of_squares(column));
  return cpp11::writable::list({"mean"_nm = found.mean, "sd"_nm = found.sd});
  END_CPP11
}
