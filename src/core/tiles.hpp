// How columns lie in panels, and where the products of their pairs stand among the tiles.
#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "kernels.hpp"

namespace unsere {

class AlignedRoom {
 public:
  void resize(std::size_t size) { values_.resize(size + 8); }
  double& operator[](std::size_t i) {
    const auto address = reinterpret_cast<std::uintptr_t>(values_.data());
    return values_[(64 - address % 64) % 64 / sizeof(double) + i];
  }

 private:
  std::vector<double> values_;
};

struct Tiles {
  Kernel kernel;
  std::size_t panels, triples;

  explicit Tiles(std::size_t columns)
      : kernel(pick_kernel()), panels((columns + kernel.lanes - 1) / kernel.lanes),
        triples((panels + tile_panels - 1) / tile_panels) {}

  std::size_t lanes() const { return kernel.lanes; }
  std::size_t tall() const { return tile_panels * lanes(); }
  std::size_t panel_size() const { return lanes() * block_rows; }
  // Of a block of rows laid out.
  std::size_t width() const { return triples * tile_panels * panel_size(); }
  // Of one number a column.
  std::size_t across() const { return triples * tall(); }
  // Of all tiles.
  std::size_t size() const { return triples * panels * lanes() * tall(); }

  // Where column j begins in a block; its rows follow `lanes()` apart.
  std::size_t place(std::size_t j) const { return j / lanes() * panel_size() + j % lanes(); }

  // Where the product of columns i and j stands; i <= j where only half was multiplied.
  std::size_t at(std::size_t i, std::size_t j) const {
    return (i / tall() * panels + j / lanes()) * lanes() * tall() + j % lanes() * tall() + i % tall();
  }

  void multiply(std::size_t rows, const double* left, const double* right, bool half, double* out) const {
    for (std::size_t t = 0; t < triples; ++t)
      for (std::size_t c = half ? t * tile_panels : 0; c < panels; ++c)
        kernel.multiply(rows, left + t * tile_panels * panel_size(), right + c * panel_size(),
                        out + (t * panels + c) * lanes() * tall());
  }

  void weigh(const double* block, const double* weight, std::size_t rows, double* out) const {
    for (std::size_t panel = 0; panel < panels; ++panel)
      kernel.weigh(rows, block + panel * panel_size(), weight, out + panel * panel_size());
  }

  // Adds these rows of all columns into sums and squares[across()].
  void add_rows(const double* block, const std::vector<std::uint16_t>& rows, double* sums, double* squares) const {
    if (rows.empty()) return;
    for (std::size_t t = 0; t < triples; ++t)
      kernel.add_rows(block + t * tile_panels * panel_size(), rows.data(), rows.size(), sums + t * tall(), squares + t * tall());
  }
};

}  // namespace unsere
