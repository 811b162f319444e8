// The moments of many columns: for every pair n, means, sums of squares and products about the means, over the cases that
// the pair has in common, summed chunk by chunk of cases; missing values are NaN.
//
// Columns are centred on their own mean and zero where they are missing; one product gives all sums of products. What a
// pair lacks is then taken off: for each column the sums of the others over the cases where it is missing.
#pragma once

#include <cmath>
#include <cstdint>
#include <vector>

#include "kernels.hpp"
#include "parallel.hpp"

namespace unsere {

constexpr std::size_t block_rows = 256;
constexpr std::size_t chunk_rows = 16 * block_rows;

struct CrossMoments {
  std::size_t columns = 0;
  double rows = 0;
  std::vector<double> centre;    // what each column was centred on
  std::vector<double> scale;     // the power of two that it was then multiplied by, so that no square can overflow
  std::vector<double> products;  // columns x columns: sums of products of centred values, missing ones as zero
  std::vector<double> sums;      // columns x columns: at [i + j * columns] the sum of column i where j is there
  std::vector<double> squares;   // columns x columns: the same of squares
  std::vector<double> counts;    // columns x columns: cases that both have
  bool complete = true;          // no value missing: sums, squares and counts are then those of the columns alone

  double r(std::size_t i, std::size_t j, double* unexplained, double* n) const {
    const std::size_t p = columns;
    *n = complete ? rows : counts[i + j * p];
    const double si = complete ? sums[i] : sums[i + j * p], sj = complete ? sums[j] : sums[j + i * p];
    const double qi = complete ? products[i + i * p] : squares[i + j * p];
    const double qj = complete ? products[j + j * p] : squares[j + i * p];
    const double sxx = qi - si * si / *n, syy = qj - sj * sj / *n, sxy = products[i + j * p] - si * sj / *n;
    if (!(*n >= 2) || !(sxx > 1e-15 * qi) || !(syy > 1e-15 * qj)) {
      *unexplained = NAN;
      return NAN;
    }
    const double r = std::max(-1.0, std::min(1.0, sxy / (std::sqrt(sxx) * std::sqrt(syy))));
    *unexplained = (1.0 - r) * (1.0 + r);
    return r;
  }
};

// Cases that either of two columns lacks, from a bit a case.
#ifdef UNSERE_X86
__attribute__((target("popcnt"))) inline std::size_t count_either_fast(const std::uint64_t* a, const std::uint64_t* b, std::size_t words) {
  std::size_t count = 0;
  for (std::size_t w = 0; w < words; ++w) count += static_cast<std::size_t>(__builtin_popcountll(a[w] | b[w]));
  return count;
}
#endif

inline std::size_t count_either(const std::uint64_t* a, const std::uint64_t* b, std::size_t words) {
#ifdef UNSERE_X86
  if (__builtin_cpu_supports("popcnt")) return count_either_fast(a, b, words);
#endif
  std::size_t count = 0;
  for (std::size_t w = 0; w < words; ++w)
    for (std::uint64_t rest = a[w] | b[w]; rest; rest &= rest - 1) ++count;
  return count;
}

// Sum of f(x) in four strands, which a processor adds side by side; the order is the same whatever the thread.
template <typename Each>
double sum_in_strands(const double* x, std::size_t n, Each each) {
  double a = 0, b = 0, c = 0, d = 0;
  std::size_t i = 0;
  for (; i + 4 <= n; i += 4) {
    a += each(x[i]);
    b += each(x[i + 1]);
    c += each(x[i + 2]);
    d += each(x[i + 3]);
  }
  for (; i < n; ++i) a += each(x[i]);
  return (a + b) + (c + d);
}

// A column's mean over the values it has, how many, and the power of two that brings it near 1; the mean in two passes, so
// that the second takes off what rounding left.
inline void column_mean(const double* x, std::size_t n, double* mean, double* scale, std::size_t* present) {
  double sum = sum_in_strands(x, n, [](double v) { return v; });
  std::size_t count = n;
  if (std::isnan(sum)) {
    sum = sum_in_strands(x, n, [](double v) { return v == v ? v : 0.0; });
    count = static_cast<std::size_t>(sum_in_strands(x, n, [](double v) { return v == v ? 1.0 : 0.0; }));
  }
  *present = count;
  double centre = count ? sum / static_cast<double>(count) : 0.0;
  double widest = 0;
  const double rest = sum_in_strands(x, n, [centre, &widest](double v) {
    const double d = v == v ? v - centre : 0.0;
    widest = std::fabs(d) > widest ? std::fabs(d) : widest;
    return d;
  });
  if (count) centre += rest / static_cast<double>(count);
  *mean = centre;
  int exponent = 0;
  if (widest > 0) std::frexp(widest, &exponent);
  *scale = std::ldexp(1.0, -exponent);
}

class MomentWork {
 public:
  MomentWork(const std::vector<const double*>& columns, std::size_t rows, int threads, int kernel)
      : columns_(columns), rows_(rows), threads_(threads), kernel_(pick_kernel(kernel)) {
    const std::size_t p = columns.size();
    left_panels_ = (p + kernel_.tile_rows - 1) / kernel_.tile_rows;
    right_panels_ = (p + kernel_.tile_columns - 1) / kernel_.tile_columns;
    tile_size_ = kernel_.tile_rows * kernel_.tile_columns;
  }

  CrossMoments run() {
    const std::size_t p = columns_.size();
    out_.columns = p;
    out_.rows = static_cast<double>(rows_);
    out_.centre.assign(p, 0.0);
    out_.scale.assign(p, 1.0);
    present_.assign(p, 0);
    in_parallel(p, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j) column_mean(columns_[j], rows_, &out_.centre[j], &out_.scale[j], &present_[j]);
    });
    for (std::size_t count : present_) out_.complete = out_.complete && count == rows_;
    tiles_.assign(left_panels_ * right_panels_ * tile_size_, 0.0);
    plain_sums_.assign(p, 0.0);
    if (!out_.complete) {
      lost_sums_.assign(left_panels_ * kernel_.tile_rows * p, 0.0);
      lost_squares_.assign(left_panels_ * kernel_.tile_rows * p, 0.0);
      bits_.assign(p * words(), 0);
    }
    for (std::size_t start = 0; start < rows_; start += chunk_rows) chunk(start, std::min(chunk_rows, rows_ - start));
    collect();
    return out_;
  }

 private:
  std::size_t words() const { return (rows_ + 63) / 64; }

  void chunk(std::size_t start, std::size_t rows) {
    left_.resize(left_panels_ * kernel_.tile_rows * rows);
    right_.resize(right_panels_ * kernel_.tile_columns * rows);
    missing_.assign(columns_.size(), {});
    in_parallel(left_panels_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t a = from; a < to; ++a) pack(kernel_.tile_rows, a, &left_[a * kernel_.tile_rows * rows], start, rows, true);
    });
    in_parallel(right_panels_, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t b = from; b < to; ++b)
        pack(kernel_.tile_columns, b, &right_[b * kernel_.tile_columns * rows], start, rows, false);
    });
    balanced(rows);
    if (!out_.complete)
      in_parallel(columns_.size(), threads_, [&](std::size_t from, std::size_t to) {
        for (std::size_t j = from; j < to; ++j) take_off(j, rows);
      });
  }

  // One panel of `width` neighbouring columns, centred, scaled, zero where a value is missing and beyond the last column.
  void pack(std::size_t width, std::size_t panel, double* to, std::size_t start, std::size_t rows, bool first) {
    const std::size_t p = columns_.size(), begin = panel * width, count = std::min(width, p - begin);
    std::vector<const double*> from(count);
    std::vector<double> sums(count, 0.0);
    for (std::size_t c = 0; c < count; ++c) from[c] = columns_[begin + c] + start;
    const double *centre = &out_.centre[begin], *scale = &out_.scale[begin];
    for (std::size_t i = 0; i < rows; ++i, to += width) {
      for (std::size_t c = 0; c < count; ++c) to[c] = (from[c][i] - centre[c]) * scale[c];
      for (std::size_t c = count; c < width; ++c) to[c] = 0.0;
      if (!out_.complete)
        for (std::size_t c = 0; c < count; ++c)
          if (to[c] != to[c]) {
            to[c] = 0.0;
            if (first) note_missing(begin + c, start, i);
          }
      if (first)
        for (std::size_t c = 0; c < count; ++c) sums[c] += to[c];
    }
    if (first)
      for (std::size_t c = 0; c < count; ++c) plain_sums_[begin + c] += sums[c];
  }

  void note_missing(std::size_t j, std::size_t start, std::size_t i) {
    missing_[j].push_back(static_cast<std::uint32_t>(i));
    bits_[j * words() + (start + i) / 64] |= std::uint64_t{1} << ((start + i) % 64);
  }

  // Tiles of the triangle, shared out in equal numbers; each is summed by one thread, block after block.
  void balanced(std::size_t rows) {
    const std::size_t R = kernel_.tile_rows, C = kernel_.tile_columns;
    if (wanted_.empty())
      for (std::size_t a = 0; a < left_panels_; ++a)
        for (std::size_t b = 0; b < right_panels_; ++b)
          if ((b + 1) * C > a * R) wanted_.push_back({a, b});  // holds a pair with the left column not after the right
    in_parallel(wanted_.size(), threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t start = 0; start < rows; start += block_rows) {
        const std::size_t count = std::min(block_rows, rows - start);
        for (std::size_t t = from; t < to; ++t) {
          const Tile tile = wanted_[t];
          kernel_.multiply(count, &left_[tile.a * R * rows + start * R], &right_[tile.b * C * rows + start * C],
                           &tiles_[(tile.a * right_panels_ + tile.b) * tile_size_]);
        }
      }
    });
  }

  // Sums of every column, and of its square, over the cases of this chunk where column j is missing.
  void take_off(std::size_t j, std::size_t rows) {
    const std::size_t R = kernel_.tile_rows;
    for (std::size_t a = 0; a < left_panels_; ++a) {
      double* sums = &lost_sums_[(j * left_panels_ + a) * R];
      double* squares = &lost_squares_[(j * left_panels_ + a) * R];
      const double* panel = &left_[a * R * rows];
      if (R == 16) {
        add_rows<16>(panel, missing_[j], sums, squares);
      } else if (R == 8) {
        add_rows<8>(panel, missing_[j], sums, squares);
      } else {
        add_rows<4>(panel, missing_[j], sums, squares);
      }
    }
  }

  template <std::size_t R>
  static void add_rows(const double* panel, const std::vector<std::uint32_t>& rows, double* sums, double* squares) {
    double s[R] = {}, q[R] = {};
    for (std::uint32_t i : rows) {
      const double* row = panel + i * R;
      for (std::size_t r = 0; r < R; ++r) {
        s[r] += row[r];
        q[r] += row[r] * row[r];
      }
    }
    for (std::size_t r = 0; r < R; ++r) {
      sums[r] += s[r];
      squares[r] += q[r];
    }
  }

  void collect() {
    const std::size_t p = columns_.size(), R = kernel_.tile_rows, C = kernel_.tile_columns;
    out_.products.assign(p * p, 0.0);
    for (std::size_t i = 0; i < p; ++i)
      for (std::size_t j = i; j < p; ++j) {
        const double value = tiles_[((i / R) * right_panels_ + j / C) * tile_size_ + (j % C) * R + i % R];
        out_.products[i + j * p] = out_.products[j + i * p] = value;
      }
    out_.sums = plain_sums_;
    if (out_.complete) return;
    out_.sums.assign(p * p, 0.0);
    out_.squares.assign(p * p, 0.0);
    out_.counts.assign(p * p, 0.0);
    in_parallel(p, threads_, [&](std::size_t from, std::size_t to) {
      for (std::size_t j = from; j < to; ++j)
        for (std::size_t i = 0; i < p; ++i) {
          const std::size_t at = (j * left_panels_ + i / R) * R + i % R;
          out_.sums[i + j * p] = plain_sums_[i] - lost_sums_[at];
          out_.squares[i + j * p] = out_.products[i + i * p] - lost_squares_[at];
          if (i <= j)
            out_.counts[i + j * p] = out_.counts[j + i * p] = out_.rows - static_cast<double>(count_either(&bits_[i * words()], &bits_[j * words()], words()));
        }
    });
  }

  struct Tile {
    std::size_t a, b;
  };

  const std::vector<const double*>& columns_;
  std::size_t rows_;
  int threads_;
  Kernel kernel_;
  std::size_t left_panels_ = 0, right_panels_ = 0, tile_size_ = 0;
  CrossMoments out_;
  std::vector<std::size_t> present_;
  std::vector<double> left_, right_, tiles_, plain_sums_, lost_sums_, lost_squares_;
  std::vector<std::vector<std::uint32_t>> missing_;
  std::vector<std::uint64_t> bits_;
  std::vector<Tile> wanted_;
};

inline CrossMoments cross_moments(const std::vector<const double*>& columns, std::size_t rows, int threads, int kernel = 0) {
  return MomentWork(columns, rows, threads, kernel).run();
}

}  // namespace unsere
