// What every binding shares: the entry points' declarations and the small conversions between R and the core.
#pragma once

#include <vector>

#include "cpp11.hpp"
#include "cpp11/declarations.hpp"

extern "C" {
SEXP unsere_pearson(SEXP x, SEXP y);
SEXP unsere_spread(SEXP x);
SEXP unsere_spreads(SEXP columns, SEXP threads);
SEXP unsere_line(SEXP x, SEXP y, SEXP curved, SEXP threads);
SEXP unsere_ranks(SEXP x);
SEXP unsere_bootstrap(SEXP x, SEXP y, SEXP ranked, SEXP resamples, SEXP seed, SEXP threads);
SEXP unsere_leave_one_out(SEXP x, SEXP y, SEXP ranked, SEXP threads);
SEXP unsere_shuffle_test(SEXP x, SEXP y, SEXP shuffles, SEXP seed, SEXP threads);
SEXP unsere_exact_test(SEXP x, SEXP y, SEXP kind);
SEXP unsere_exact_spearman(SEXP x, SEXP y, SEXP most_cells);
SEXP unsere_matrix(SEXP columns, SEXP threads, SEXP kernel);
SEXP unsere_rank_matrix(SEXP columns, SEXP wanted, SEXP threads, SEXP kernel);
SEXP unsere_moments(SEXP columns, SEXP threads);
SEXP unsere_merge_moments(SEXP a, SEXP b);
SEXP unsere_moments_table(SEXP moments);
SEXP unsere_kernel_name(SEXP kernel);
SEXP unsere_uniforms(SEXP n, SEXP seed, SEXP stream);
}

inline cpp11::writable::doubles to_doubles(const std::vector<double>& values) {
  return cpp11::writable::doubles(values.begin(), values.end());
}
