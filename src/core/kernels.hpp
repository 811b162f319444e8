// The inner loops of the moments of many columns, by the widest instructions the processor has.
//
// A panel holds `lanes` neighbouring columns of one block of cases, row after row: centred, scaled, zero where a value is
// missing. A tile is the products of three panels with one. Every kernel adds the rows of a block in the same order, so
// that a machine gives the same digits whatever the number of threads.
#pragma once

#include <cmath>
#include <cstddef>
#include <cstdint>

// GCC for Windows puts wide registers on a stack that is not aligned for them (its bug 54412): it gets the plain kernel.
#if defined(__x86_64__) && (defined(__clang__) || (defined(__GNUC__) && !defined(_WIN32)))
#define UNSERE_X86 1
#include <immintrin.h>
#endif

namespace unsere {

constexpr std::size_t block_rows = 256;
constexpr std::size_t tile_panels = 3;

// Where one panel comes from and goes to.
struct Packing {
  const double* const* columns;  // `lanes` of them, at the block's first case
  const double *centre, *scale;
  std::size_t rows;
  double* panel;
  std::uint64_t* missing;  // a bit a case, column after column
  std::size_t words;       // from one column's bits to the next one's
};

struct Kernel {
  std::size_t lanes;
  // Fills a panel and adds its columns up into `sums`; true when a value is missing.
  bool (*pack)(const Packing& from, double* sums);
  // sums[c * 3 * lanes + r] += sum over rows of left[r] * right[c], the left ones being three panels in a row
  void (*multiply)(std::size_t rows, const double* left, const double* right, double* sums);
  // Each row of a panel times its weight.
  void (*weigh)(std::size_t rows, const double* panel, const double* weight, double* to);
  // Adds some rows of three panels, and their squares, into sums and squares[3 * lanes].
  void (*add_rows)(const double* left, const std::uint16_t* rows, std::size_t count, double* sums, double* squares);
  // Bits set in either.
  std::size_t (*count_either)(const std::uint64_t* a, const std::uint64_t* b, std::size_t words);
  const char* name;
};

inline bool pack_rows(const Packing& from, std::size_t lanes, std::size_t first, double* sums) {
  bool any = false;
  for (std::size_t k = first; k < from.rows; ++k)
    for (std::size_t c = 0; c < lanes; ++c) {
      double value = (from.columns[c][k] - from.centre[c]) * from.scale[c];
      if (std::isnan(value)) {
        value = 0.0;
        any = true;
        from.missing[c * from.words + k / 64] |= std::uint64_t{1} << (k % 64);
      }
      from.panel[k * lanes + c] = value;
      sums[c] += value;
    }
  return any;
}

namespace plain {

constexpr std::size_t L = 4, T = tile_panels * L;

inline bool pack(const Packing& from, double* sums) { return pack_rows(from, L, 0, sums); }

inline void multiply(std::size_t rows, const double* left, const double* right, double* sums) {
  double tile[L * T] = {};
  for (std::size_t k = 0; k < rows; ++k)
    for (std::size_t c = 0; c < L; ++c)
      for (std::size_t panel = 0; panel < tile_panels; ++panel)
        for (std::size_t r = 0; r < L; ++r)
          tile[c * T + panel * L + r] += left[panel * L * block_rows + k * L + r] * right[k * L + c];
  for (std::size_t i = 0; i < L * T; ++i) sums[i] += tile[i];
}

inline void weigh(std::size_t rows, const double* panel, const double* weight, double* to) {
  for (std::size_t k = 0; k < rows; ++k)
    for (std::size_t c = 0; c < L; ++c) to[k * L + c] = panel[k * L + c] * weight[k];
}

inline void add_rows(const double* left, const std::uint16_t* rows, std::size_t count, double* sums, double* squares) {
  for (std::size_t panel = 0; panel < tile_panels; ++panel)
    for (std::size_t i = 0; i < count; ++i)
      for (std::size_t r = 0; r < L; ++r) {
        const double value = left[panel * L * block_rows + rows[i] * L + r];
        sums[panel * L + r] += value;
        squares[panel * L + r] += value * value;
      }
}

inline std::size_t count_either(const std::uint64_t* a, const std::uint64_t* b, std::size_t words) {
  std::size_t count = 0;
  for (std::size_t w = 0; w < words; ++w)
    for (std::uint64_t rest = a[w] | b[w]; rest; rest &= rest - 1) ++count;
  return count;
}

}  // namespace plain

}  // namespace unsere

#ifdef UNSERE_X86
#include "kernels_wide.hpp"
#endif

namespace unsere {

// The kernel by number: 0 the best that this processor has, 1 plain, 2 AVX2, 3 AVX-512 (the last two only where they are).
inline Kernel pick_kernel(int wanted = 0) {
#ifdef UNSERE_X86
  const bool middle = __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma") && __builtin_cpu_supports("popcnt");
  if (middle && __builtin_cpu_supports("avx512f") && (wanted == 0 || wanted == 3))
    return {avx512::L, avx512::pack, avx512::multiply, avx512::weigh, avx512::add_rows, avx2::count_either, "avx512"};
  if (middle && (wanted == 0 || wanted == 2 || wanted == 3))
    return {avx2::L, avx2::pack, avx2::multiply, avx2::weigh, avx2::add_rows, avx2::count_either, "avx2"};
#else
  (void)wanted;
#endif
  return {plain::L, plain::pack, plain::multiply, plain::weigh, plain::add_rows, plain::count_either, "plain"};
}

}  // namespace unsere
