#include "bind.h"
#include "core/phi.hpp"

// The phi between which no more than `most` of twice the log likelihood is lost; counts of both, one, the other, neither.
// [[Rcpp::export(rng = false)]]
Rcpp::NumericVector core_phi_limits(Rcpp::NumericVector counts, double most) {
  check(length_of(counts) == 4, "A table of two by two has four counts.");
  const double* count = values_of(counts);
  const unsere::PhiLikelihood likelihood({count[0], count[1], count[2], count[3]});
  return Rcpp::NumericVector::create(likelihood.limit(-1, most), likelihood.limit(1, most));
}
