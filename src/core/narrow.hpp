// Row numbers of 32 bits: where they are narrowed, the number of rows is looked at first.
#pragma once

#include <cstddef>
#include <cstdint>
#include <stdexcept>

namespace unsere {

inline void check_rows(std::size_t rows) {
  if (rows > UINT32_MAX) throw std::length_error("There are more rows than can be numbered here.");
}

}  // namespace unsere
