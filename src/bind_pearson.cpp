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
  return spreads_list(unsere::spreads_of(from.values, from.rows, threads));
}

// Whether a column holds one of some whole numbers from -32,768 to 32,767.
[[cpp11::register]] bool core_holds_any(cpp11::doubles column, cpp11::doubles wanted) {
  constexpr double reach = 32768, to_whole = 6755399441055744.0;  // 1.5 * 2^52: adding it rounds to a whole number
  std::vector<char> sought(2 * static_cast<std::size_t>(reach), 0);
  for (const double code : wanted) sought[static_cast<std::size_t>(code + reach)] = 1;
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
      if (v >= -reach && v < reach && v == std::trunc(v) && sought[static_cast<std::size_t>(v + reach)]) return true;
    }
  }
  return false;
}
