#include "bind.h"
#include "core/parallel.hpp"
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

// Mean and standard deviation of the values that each column has.
SEXP unsere_spreads(SEXP columns, SEXP threads) {
  BEGIN_CPP11
  const std::size_t p = static_cast<std::size_t>(Rf_xlength(columns));
  std::vector<const double*> values(p);
  std::vector<std::size_t> rows(p);
  for (std::size_t j = 0; j < p; ++j) {
    const SEXP column = VECTOR_ELT(columns, static_cast<R_xlen_t>(j));
    values[j] = REAL(column);
    rows[j] = static_cast<std::size_t>(Rf_xlength(column));
  }
  std::vector<double> mean(p), sd(p), count(p);
  unsere::in_parallel(p, Rf_asInteger(threads), [&](std::size_t from, std::size_t to) {
    std::vector<double> present;
    for (std::size_t j = from; j < to; ++j) {
      present.clear();
      for (std::size_t i = 0; i < rows[j]; ++i)
        if (values[j][i] == values[j][i]) present.push_back(values[j][i]);
      const unsere::Column column = unsere::make_column(present.data(), present.size());
      const unsere::Spread found = unsere::spread_of(column, unsere::sum_of_squares(column));
      mean[j] = found.mean;
      sd[j] = found.sd;
      count[j] = static_cast<double>(present.size());
    }
  });
  return cpp11::writable::list({"mean"_nm = to_doubles(mean), "sd"_nm = to_doubles(sd), "n"_nm = to_doubles(count)});
  END_CPP11
}
