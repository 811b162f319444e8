#include "bind.h"
#include "core/edge.hpp"

// [[Rcpp::export(rng = false)]]
double core_edge_sharpness(Rcpp::NumericVector u, Rcpp::NumericVector shares) {
  return unsere::edge_sharpness({u.begin(), u.end()}, {shares.begin(), shares.end()});
}
