// What every binding shares: the entry points' declarations and the small conversions between R and the core.
#pragma once

#include <vector>

#include "cpp11.hpp"
#include "cpp11/declarations.hpp"

extern "C" {
SEXP unsere_pearson(SEXP x, SEXP y);
SEXP unsere_spread(SEXP x);
SEXP unsere_straight_line(SEXP x, SEXP y);
}

inline cpp11::writable::doubles to_doubles(const std::vector<double>& values) {
  return cpp11::writable::doubles(values.begin(), values.end());
}
