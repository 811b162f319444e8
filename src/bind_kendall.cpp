#include "bind.h"
#include "core/kendall.hpp"

using namespace cpp11::literals;

[[cpp11::register]] cpp11::list core_kendall(cpp11::doubles x, cpp11::doubles y) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  const auto found = run_interruptibly([&] { return unsere::kendall(a, b, length_of(x)); });
  auto ties = [](const unsere::TieSums& sums) {
    return cpp11::writable::list({"twos"_nm = sums.twos, "threes"_nm = sums.threes, "spread"_nm = sums.spread});
  };
  return cpp11::writable::list({"r"_nm = found.tau(), "x"_nm = ties(found.x), "y"_nm = ties(found.y)});
}

[[cpp11::register]] cpp11::list core_exact_kendall(cpp11::doubles x, cpp11::doubles y) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] { return unsere::exact_kendall(a, b, length_of(x)); }));
}

[[cpp11::register]] cpp11::list core_shuffle_kendall(cpp11::doubles x, cpp11::doubles y, double shuffles, double seed, int threads) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] {
    return unsere::shuffle_kendall(a, b, length_of(x), static_cast<std::size_t>(shuffles), to_seed(seed), threads);
  }));
}

[[cpp11::register]] cpp11::list core_bootstrap_kendall(cpp11::doubles x, cpp11::doubles y, double resamples, double seed,
                                                       int threads) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  const auto values = run_interruptibly([&] {
    return unsere::bootstrap_kendall(a, b, length_of(x), static_cast<std::size_t>(resamples), to_seed(seed), threads);
  });
  const auto left = run_interruptibly([&] { return unsere::leave_one_out_kendall(a, b, length_of(x)); });
  return cpp11::writable::list({"values"_nm = to_doubles(values), "left"_nm = to_doubles(left)});
}

[[cpp11::register]] cpp11::list core_kendall_matrix(cpp11::list columns, cpp11::logicals wanted, int threads) {
  const Columns from = columns_of(columns);
  if (static_cast<std::size_t>(wanted.size()) != from.values.size() * from.values.size())
    cpp11::stop("A pair more or less than there are.");
  const int* asked = cpp11::safe[LOGICAL](wanted);
  const auto found = run_interruptibly([&] { return unsere::kendall_table(from.values, from.rows, threads, asked); });
  return cpp11::writable::list({"r"_nm = to_doubles(found.tau), "n"_nm = to_doubles(found.n), "twos"_nm = to_doubles(found.twos),
                                "threes"_nm = to_doubles(found.threes), "spread"_nm = to_doubles(found.spread)});
}
