// Sums over cases of how far each moves r, for large samples: of the squares and fourth powers of ab - r (a^2 + b^2) / 2,
// where a and b are standardised. Eight lanes, whose sums are added in one order.
#pragma once

#include "kernels.hpp"

namespace unsere {

constexpr std::size_t move_lanes = 8;

struct MoveSums {
  double squares[move_lanes] = {0, 0, 0, 0, 0, 0, 0, 0};
  double fourths[move_lanes] = {0, 0, 0, 0, 0, 0, 0, 0};
};

inline double sum_of_lanes(const double* lane) {
  return ((lane[0] + lane[1]) + (lane[2] + lane[3])) + ((lane[4] + lane[5]) + (lane[6] + lane[7]));
}

inline void add_moves_plain(const double* a, const double* b, std::size_t from, std::size_t n, double half, MoveSums& sums) {
  for (std::size_t i = from; i < n; ++i) {
    const double move = a[i] * b[i] - half * (a[i] * a[i] + b[i] * b[i]), square = move * move;
    sums.squares[i % move_lanes] += square;
    sums.fourths[i % move_lanes] += square * square;
  }
}

#ifdef UNSERE_X86

UNSERE_AVX512 void add_moves_avx512(const double* a, const double* b, std::size_t n, double half, MoveSums& sums) {
  __m512d squares = _mm512_loadu_pd(sums.squares), fourths = _mm512_loadu_pd(sums.fourths);
  const __m512d by = _mm512_set1_pd(half);
  std::size_t i = 0;
  for (; i + move_lanes <= n; i += move_lanes) {
    const __m512d x = _mm512_loadu_pd(a + i), y = _mm512_loadu_pd(b + i);
    const __m512d both = _mm512_fmadd_pd(x, x, _mm512_mul_pd(y, y));
    const __m512d move = _mm512_fnmadd_pd(by, both, _mm512_mul_pd(x, y)), square = _mm512_mul_pd(move, move);
    squares = _mm512_add_pd(squares, square);
    fourths = _mm512_fmadd_pd(square, square, fourths);
  }
  _mm512_storeu_pd(sums.squares, squares);
  _mm512_storeu_pd(sums.fourths, fourths);
  add_moves_plain(a, b, i, n, half, sums);
}

UNSERE_AVX2 void add_moves_avx2(const double* a, const double* b, std::size_t n, double half, MoveSums& sums) {
  __m256d squares[2], fourths[2];
  for (std::size_t k = 0; k < 2; ++k) {
    squares[k] = _mm256_loadu_pd(sums.squares + 4 * k);
    fourths[k] = _mm256_loadu_pd(sums.fourths + 4 * k);
  }
  const __m256d by = _mm256_set1_pd(half);
  std::size_t i = 0;
  for (; i + move_lanes <= n; i += move_lanes) {
    for (std::size_t k = 0; k < 2; ++k) {
      const __m256d x = _mm256_loadu_pd(a + i + 4 * k), y = _mm256_loadu_pd(b + i + 4 * k);
      const __m256d both = _mm256_fmadd_pd(x, x, _mm256_mul_pd(y, y));
      const __m256d move = _mm256_fnmadd_pd(by, both, _mm256_mul_pd(x, y)), square = _mm256_mul_pd(move, move);
      squares[k] = _mm256_add_pd(squares[k], square);
      fourths[k] = _mm256_fmadd_pd(square, square, fourths[k]);
    }
  }
  for (std::size_t k = 0; k < 2; ++k) {
    _mm256_storeu_pd(sums.squares + 4 * k, squares[k]);
    _mm256_storeu_pd(sums.fourths + 4 * k, fourths[k]);
  }
  add_moves_plain(a, b, i, n, half, sums);
}

#endif

// Of some cases, from a multiple of eight on, by the widest instructions that the processor has.
inline void add_moves(const double* a, const double* b, std::size_t n, double half, MoveSums& sums) {
#ifdef UNSERE_X86
  static const auto widest = pick_kernel().pack;
  if (widest == avx512::pack) return add_moves_avx512(a, b, n, half, sums);
  if (widest == avx2::pack) return add_moves_avx2(a, b, n, half, sums);
#endif
  add_moves_plain(a, b, 0, n, half, sums);
}

}  // namespace unsere
