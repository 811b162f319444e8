// How a series goes with itself some periods later, where both periods have a value.
#pragma once

#include <cstddef>
#include <vector>

namespace unsere {

// Mean products of values and those 1 .. reach periods later; `values` hold 0 where `there` is 0.
inline std::vector<double> self_ties(const double* values, const double* there, std::size_t n, std::size_t reach) {
  std::vector<double> out;
  for (std::size_t lag = 1; lag <= reach; ++lag) {
    double sum = 0, count = 0;
    for (std::size_t i = 0; i + lag < n; ++i) {
      sum += values[i] * values[i + lag];
      count += there[i] * there[i + lag];
    }
    out.push_back(count > 0 ? sum / count : 0.0);
  }
  return out;
}

}  // namespace unsere
