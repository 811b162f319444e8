#include <algorithm>
#include <cmath>
#include "bind.h"
#include "core/parallel.hpp"
#include "core/pearson.hpp"

using namespace cpp11::literals;

[[cpp11::register]] cpp11::list core_pearson(cpp11::doubles x, cpp11::doubles y) {
  check_lengths(x, y);
  const auto found = unsere::pearson(values_of(x), values_of(y), length_of(x));
  return cpp11::writable::list({"r"_nm = found.r, "unexplained"_nm = found.unexplained, "exact"_nm = found.exact,
                                "mean_x"_nm = found.x.mean, "sd_x"_nm = found.x.sd, "mean_y"_nm = found.y.mean,
                                "sd_y"_nm = found.y.sd});
}

[[cpp11::register]] cpp11::list core_spread(cpp11::doubles x) {
  const unsere::Column column = unsere::make_column(values_of(x), length_of(x));
  const unsere::Spread found = unsere::spread_of(column, unsere::sum_of_squares(column));
  return cpp11::writable::list({"mean"_nm = found.mean, "sd"_nm = found.sd});
}

// Mean and standard deviation of the values that each column has.
[[cpp11::register]] cpp11::list core_spreads(cpp11::list columns, int threads) {
  const Columns from = columns_of(columns);
  const std::size_t p = from.values.size();
  std::vector<double> mean(p), sd(p), count(p);
  unsere::in_parallel(p, threads, [&](std::size_t first, std::size_t last) {
    std::vector<double> present;
    for (std::size_t j = first; j < last; ++j) {
      const double* values = from.values[j];
      std::size_t missing = 0, kept = 0;
      const double size = unsere::largest_size(values, from.rows, &missing);
      if (missing > 0) {
        present.resize(from.rows);
        for (std::size_t i = 0; i < from.rows; ++i) {
          present[kept] = values[i];
          kept += values[i] == values[i];
        }
        values = present.data();
      }
      const unsere::Spread found = unsere::quick_spread(values, from.rows - missing, size);
      mean[j] = found.mean;
      sd[j] = found.sd;
      count[j] = static_cast<double>(from.rows - missing);
    }
  });
  return cpp11::writable::list({"mean"_nm = to_doubles(mean), "sd"_nm = to_doubles(sd), "n"_nm = to_doubles(count)});
}

[[cpp11::register]] bool core_holds_any(cpp11::doubles column, cpp11::doubles wanted) {
  const double* values = REAL(column.data());
  const double* codes = REAL(wanted.data());
  double low = 0, high = 0;
  for (R_xlen_t k = 0; k < wanted.size(); ++k) {
    low = std::min(low, codes[k]);
    high = std::max(high, codes[k]);
  }
  for (R_xlen_t i = 0; i < column.size(); ++i) {
    const double v = values[i];
    // Most values are settled by not being whole numbers.
    if (!(v >= low && v <= high) || v != static_cast<int>(v)) continue;
    if (std::find(codes, codes + wanted.size(), v) != codes + wanted.size()) return true;
  }
  return false;
}
