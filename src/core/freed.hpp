// What is left of columns once others are taken out of them, by orthogonalisation twice over.
#pragma once

#include <cmath>
#include <vector>

#include "unit_sums.hpp"

namespace unsere {

inline void take_out(const std::vector<double>& other, double* column) {
  const std::size_t n = other.size();
  const double share = product_sum(other.data(), column, 0, n);
  for (std::size_t i = 0; i < n; ++i) column[i] -= other[i] * share;
}

// Directions of length one that span what is taken out; a column that lies among those before it gives none.
inline std::vector<std::vector<double>> directions_of(const std::vector<const double*>& taken, std::size_t n) {
  std::vector<std::vector<double>> base;
  for (const double* given : taken) {
    std::vector<double> column(given, given + n);
    const double before = product_sum(column.data(), column.data(), 0, n);
    for (int again = 0; again < 2; ++again)
      for (const auto& other : base) take_out(other, column.data());
    const double size = product_sum(column.data(), column.data(), 0, n);
    if (!(size > 1e-12 * before)) continue;
    const double root = std::sqrt(size);
    for (double& value : column) value /= root;
    base.push_back(std::move(column));
  }
  return base;
}

// `columns` are changed where they stand.
inline void free_columns(double* columns, std::size_t count, std::size_t n, const std::vector<const double*>& taken) {
  const auto base = directions_of(taken, n);
  for (std::size_t j = 0; j < count; ++j) {
    for (int again = 0; again < 2; ++again)
      for (const auto& other : base) take_out(other, columns + j * n);
  }
}

}  // namespace unsere
