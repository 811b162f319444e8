#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>

namespace unsere {

// The loadings of one factor that leave the least in the correlations off the diagonal (Harman & Jones 1966): each in turn the
// best while the others stand, until a round moves none by as much as `settled`.
inline void settle_loadings(const double* r, std::size_t k, double settled, int rounds, double* loading) {
  for (int round = 0; round < rounds; ++round) {
    double moved = 0;
    for (std::size_t i = 0; i < k; ++i) {
      double along = 0;
      double others = 0;
      const double* row = r + i * k; // the matrix is symmetric
      for (std::size_t j = 0; j < k; ++j) {
        if (j == i) continue;
        along += row[j] * loading[j];
        others += loading[j] * loading[j];
      }
      if (!(others > 0)) continue;
      const double next = std::max(-1.0, std::min(1.0, along / others));
      moved = std::max(moved, std::fabs(next - loading[i]));
      loading[i] = next;
    }
    if (moved < settled) break;
  }
}

} // namespace unsere
