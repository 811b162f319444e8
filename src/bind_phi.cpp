#include "bind.h"
#include "core/phi.hpp"

// The phi between which no more than `most` of twice the log likelihood is lost; counts of both, one, the other, neither.
[[cpp11::register]] cpp11::doubles core_phi_limits(cpp11::doubles counts, double most) {
  if (length_of(counts) != 4) cpp11::stop("a table of two by two has four counts");
  const double* count = values_of(counts);
  const unsere::PhiLikelihood likelihood({count[0], count[1], count[2], count[3]});
  return cpp11::writable::doubles({likelihood.limit(-1, most), likelihood.limit(1, most)});
}
