// Products of centred, packed columns: one tile of sums at a time, by the widest instructions the processor has.
//
// A packed panel holds, row after row, `tile_rows` (or `tile_columns`) neighbouring columns, so that a tile reads memory
// in one direction. The kernel is chosen once, when the program runs; every kernel adds the rows of a block in the same
// order, so that a machine gives the same digits whatever the number of threads.
#pragma once

#include <cstddef>

#if defined(__x86_64__) && (defined(__GNUC__) || defined(__clang__))
#define UNSERE_X86 1
#include <immintrin.h>
#endif

namespace unsere {

struct Kernel {
  std::size_t tile_rows, tile_columns;
  // sums[c * tile_rows + r] += sum over k of left[k * tile_rows + r] * right[k * tile_columns + c]
  void (*multiply)(std::size_t rows, const double* left, const double* right, double* sums);
  const char* name;
};

inline void multiply_plain(std::size_t rows, const double* left, const double* right, double* sums) {
  constexpr std::size_t R = 4, C = 4;
  double tile[R * C] = {};
  for (std::size_t k = 0; k < rows; ++k, left += R, right += C)
    for (std::size_t c = 0; c < C; ++c)
      for (std::size_t r = 0; r < R; ++r) tile[c * R + r] += left[r] * right[c];
  for (std::size_t i = 0; i < R * C; ++i) sums[i] += tile[i];
}

#ifdef UNSERE_X86

__attribute__((target("avx2,fma"))) inline void multiply_avx2(std::size_t rows, const double* left, const double* right,
                                                              double* sums) {
  constexpr std::size_t C = 6;
  __m256d low[C], high[C];
  for (std::size_t c = 0; c < C; ++c) low[c] = high[c] = _mm256_setzero_pd();
  for (std::size_t k = 0; k < rows; ++k, left += 8, right += C) {
    const __m256d a = _mm256_loadu_pd(left), b = _mm256_loadu_pd(left + 4);
#pragma GCC unroll 6
    for (std::size_t c = 0; c < C; ++c) {
      const __m256d factor = _mm256_broadcast_sd(right + c);
      low[c] = _mm256_fmadd_pd(a, factor, low[c]);
      high[c] = _mm256_fmadd_pd(b, factor, high[c]);
    }
  }
  for (std::size_t c = 0; c < C; ++c) {
    _mm256_storeu_pd(sums + c * 8, _mm256_add_pd(_mm256_loadu_pd(sums + c * 8), low[c]));
    _mm256_storeu_pd(sums + c * 8 + 4, _mm256_add_pd(_mm256_loadu_pd(sums + c * 8 + 4), high[c]));
  }
}

__attribute__((target("avx512f"))) inline void multiply_avx512(std::size_t rows, const double* left, const double* right,
                                                               double* sums) {
  constexpr std::size_t C = 12;
  __m512d low[C], high[C];
  for (std::size_t c = 0; c < C; ++c) low[c] = high[c] = _mm512_setzero_pd();
  for (std::size_t k = 0; k < rows; ++k, left += 16, right += C) {
    const __m512d a = _mm512_loadu_pd(left), b = _mm512_loadu_pd(left + 8);
#pragma GCC unroll 12
    for (std::size_t c = 0; c < C; ++c) {
      const __m512d factor = _mm512_set1_pd(right[c]);
      low[c] = _mm512_fmadd_pd(a, factor, low[c]);
      high[c] = _mm512_fmadd_pd(b, factor, high[c]);
    }
  }
  for (std::size_t c = 0; c < C; ++c) {
    _mm512_storeu_pd(sums + c * 16, _mm512_add_pd(_mm512_loadu_pd(sums + c * 16), low[c]));
    _mm512_storeu_pd(sums + c * 16 + 8, _mm512_add_pd(_mm512_loadu_pd(sums + c * 16 + 8), high[c]));
  }
}

#endif

// The kernel by number: 0 the best that this processor has, 1 plain, 2 AVX2, 3 AVX-512 (the last two only where they are).
inline Kernel pick_kernel(int wanted = 0) {
#ifdef UNSERE_X86
  const bool wide = __builtin_cpu_supports("avx512f"), middle = __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma");
  if (wide && (wanted == 0 || wanted == 3)) return {16, 12, multiply_avx512, "avx512"};
  if (middle && (wanted == 0 || wanted == 2 || wanted == 3)) return {8, 6, multiply_avx2, "avx2"};
#else
  (void)wanted;
#endif
  return {4, 4, multiply_plain, "plain"};
}

}  // namespace unsere
