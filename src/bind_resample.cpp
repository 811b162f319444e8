#include "bind.h"
#include "core/drawn_ranks.hpp"
#include "core/exact.hpp"
#include "core/resample.hpp"
#include "core/self_ties.hpp"

using namespace cpp11::literals;

[[cpp11::register]] cpp11::doubles core_ranks(cpp11::doubles x) {
  const auto ranking = unsere::rank_values(values_of(x), length_of(x));
  std::vector<double> out(ranking.doubled.size());
  for (std::size_t i = 0; i < out.size(); ++i) out[i] = static_cast<double>(ranking.doubled[i]) / 2.0;
  return to_doubles(out);
}

[[cpp11::register]] cpp11::doubles core_bootstrap(cpp11::doubles x, cpp11::doubles y, bool ranked, double resamples, double seed,
                                                  int threads) {
  check_lengths(x, y);
  auto draw = ranked ? unsere::bootstrap_spearman : unsere::bootstrap_pearson;
  const double *a = values_of(x), *b = values_of(y);
  return to_doubles(run_interruptibly(
      [&] { return draw(a, b, length_of(x), static_cast<std::size_t>(resamples), to_seed(seed), threads); }));
}

[[cpp11::register]] cpp11::doubles core_leave_one_out(cpp11::doubles x, cpp11::doubles y, bool ranked, int threads) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  if (!ranked) return to_doubles(unsere::leave_one_out_pearson(a, b, length_of(x)));
  return to_doubles(run_interruptibly([&] { return unsere::leave_one_out_spearman(a, b, length_of(x), threads); }));
}

[[cpp11::register]] cpp11::list core_shuffle_test(cpp11::doubles x, cpp11::doubles y, double shuffles, double seed, int threads) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly(
      [&] { return unsere::shuffle_test(a, b, length_of(x), static_cast<std::size_t>(shuffles), to_seed(seed), threads); }));
}

// Of products of the values: all orders of y.
[[cpp11::register]] cpp11::list core_exact_orders(cpp11::doubles x, cpp11::doubles y) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] { return unsere::exact_pearson(a, b, length_of(x)); }));
}

// Of the ranks of both, by counting; NaN where that takes more than so many numbers.
[[cpp11::register]] cpp11::list core_exact_ranks(cpp11::doubles x, cpp11::doubles y, double most_cells) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] { return unsere::exact_spearman(a, b, length_of(x), most_cells); }));
}

// Of the sum of y where x is 1: all ways to choose them.
[[cpp11::register]] cpp11::list core_exact_groups(cpp11::doubles x, cpp11::doubles y) {
  check_lengths(x, y);
  const double *a = values_of(x), *b = values_of(y);
  return to_list(run_interruptibly([&] { return unsere::exact_groups(a, b, length_of(x)); }));
}

[[cpp11::register]] cpp11::doubles core_uniforms(double n, double seed, double stream) {
  unsere::Random random(to_seed(seed), static_cast<std::uint64_t>(stream));
  std::vector<double> out(static_cast<std::size_t>(n));
  for (auto& value : out) value = random.uniform();
  return to_doubles(out);
}

// Of samples of a normal pair.
[[cpp11::register]] cpp11::doubles core_drawn_spearman(double rho, double n, double draws, double seed) {
  return to_doubles(run_interruptibly(
      [&] { return unsere::drawn_spearman(rho, static_cast<std::size_t>(n), static_cast<std::size_t>(draws), to_seed(seed)); }));
}

[[cpp11::register]] cpp11::doubles core_self_ties(cpp11::doubles values, cpp11::doubles there, int reach) {
  check_lengths(values, there);
  return to_doubles(unsere::self_ties(values_of(values), values_of(there), length_of(values),
                                      static_cast<std::size_t>(std::max(reach, 0))));
}
