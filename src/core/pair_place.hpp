// Where a pair of columns stands among all pairs, column after column: (0, 1), (0, 2), (1, 2), (0, 3) ...
#pragma once

#include <cstddef>

namespace unsere {

inline std::size_t pairs_among(std::size_t columns) { return columns * (columns - 1) / 2; }

// i < j.
inline std::size_t pair_place(std::size_t i, std::size_t j) { return i + pairs_among(j); }

// With the squares among them: i <= j.
inline std::size_t product_place(std::size_t i, std::size_t j) { return pair_place(i, j + 1); }

}  // namespace unsere
