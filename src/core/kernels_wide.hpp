// The kernels for x86 processors with AVX2 or AVX-512; kernels.hpp says what each of their functions does.
#pragma once

#define UNSERE_AVX2 __attribute__((target("avx2,fma,popcnt"))) inline
#define UNSERE_AVX512 __attribute__((target("avx512f"))) inline

namespace unsere {

namespace avx2 {

constexpr std::size_t L = 4, T = tile_panels * L;

UNSERE_AVX2 bool pack(const Packing& from, double* sums) {
  __m256d total = _mm256_loadu_pd(sums);
  int lost = 0;
  std::size_t k = 0;
  for (; k + L <= from.rows; k += L) {
    __m256d v[L];
    for (std::size_t c = 0; c < L; ++c) {
      v[c] = _mm256_mul_pd(_mm256_sub_pd(_mm256_loadu_pd(from.columns[c] + k), _mm256_broadcast_sd(from.centre + c)),
                           _mm256_broadcast_sd(from.scale + c));
      const __m256d here = _mm256_cmp_pd(v[c], v[c], _CMP_ORD_Q);
      const int gaps = 15 & ~_mm256_movemask_pd(here);
      v[c] = _mm256_and_pd(v[c], here);
      if (gaps) from.missing[c * from.words + k / 64] |= static_cast<std::uint64_t>(gaps) << (k % 64);
      lost |= gaps;
    }
    const __m256d a = _mm256_unpacklo_pd(v[0], v[1]), b = _mm256_unpackhi_pd(v[0], v[1]);
    const __m256d c = _mm256_unpacklo_pd(v[2], v[3]), d = _mm256_unpackhi_pd(v[2], v[3]);
    const __m256d rows[L] = {_mm256_permute2f128_pd(a, c, 0x20), _mm256_permute2f128_pd(b, d, 0x20),
                             _mm256_permute2f128_pd(a, c, 0x31), _mm256_permute2f128_pd(b, d, 0x31)};
    for (std::size_t r = 0; r < L; ++r) {
      _mm256_storeu_pd(from.panel + (k + r) * L, rows[r]);
      total = _mm256_add_pd(total, rows[r]);
    }
  }
  _mm256_storeu_pd(sums, total);
  return pack_rows(from, L, k, sums) || lost;
}

UNSERE_AVX2 void multiply(std::size_t rows, const double* left, const double* right, double* sums) {
  __m256d tile[L][tile_panels];
  for (auto& column : tile)
    for (auto& part : column) part = _mm256_setzero_pd();
  for (std::size_t k = 0; k < rows; ++k, left += L, right += L) {
    const __m256d a = _mm256_loadu_pd(left), b = _mm256_loadu_pd(left + L * block_rows);
    const __m256d c = _mm256_loadu_pd(left + 2 * L * block_rows);
#pragma GCC unroll 4
    for (std::size_t j = 0; j < L; ++j) {
      const __m256d factor = _mm256_broadcast_sd(right + j);
      tile[j][0] = _mm256_fmadd_pd(a, factor, tile[j][0]);
      tile[j][1] = _mm256_fmadd_pd(b, factor, tile[j][1]);
      tile[j][2] = _mm256_fmadd_pd(c, factor, tile[j][2]);
    }
  }
#pragma GCC unroll 4
  for (std::size_t j = 0; j < L; ++j)
#pragma GCC unroll 3
    for (std::size_t part = 0; part < tile_panels; ++part) {
      double* to = sums + j * T + part * L;
      _mm256_storeu_pd(to, _mm256_add_pd(_mm256_loadu_pd(to), tile[j][part]));
    }
}

UNSERE_AVX2 void weigh(std::size_t rows, const double* panel, const double* weight, double* to) {
  for (std::size_t k = 0; k < rows; ++k)
    _mm256_storeu_pd(to + k * L, _mm256_mul_pd(_mm256_loadu_pd(panel + k * L), _mm256_broadcast_sd(weight + k)));
}

UNSERE_AVX2 void add_rows(const double* left, const std::uint16_t* rows, std::size_t count, double* sums, double* squares) {
  __m256d s[tile_panels], q[tile_panels];
  for (std::size_t part = 0; part < tile_panels; ++part) {
    s[part] = _mm256_loadu_pd(sums + part * L);
    q[part] = _mm256_loadu_pd(squares + part * L);
  }
  for (std::size_t i = 0; i < count; ++i)
#pragma GCC unroll 3
    for (std::size_t part = 0; part < tile_panels; ++part) {
      const __m256d v = _mm256_loadu_pd(left + part * L * block_rows + rows[i] * L);
      s[part] = _mm256_add_pd(s[part], v);
      q[part] = _mm256_fmadd_pd(v, v, q[part]);
    }
  for (std::size_t part = 0; part < tile_panels; ++part) {
    _mm256_storeu_pd(sums + part * L, s[part]);
    _mm256_storeu_pd(squares + part * L, q[part]);
  }
}

UNSERE_AVX2 std::size_t count_either(const std::uint64_t* a, const std::uint64_t* b, std::size_t words) {
  std::size_t count = 0;
  for (std::size_t w = 0; w < words; ++w) count += static_cast<std::size_t>(__builtin_popcountll(a[w] | b[w]));
  return count;
}

}  // namespace avx2

namespace avx512 {

constexpr std::size_t L = 8, T = tile_panels * L;

// The masks are full: the plain forms of these instructions make compilers warn of values that nothing reads.
UNSERE_AVX512 void transpose(const __m512d* v, __m512d* rows) {
  __m512d pair[L], quad[L];
  for (std::size_t c = 0; c < L; c += 2) {
    pair[c] = _mm512_maskz_unpacklo_pd(255, v[c], v[c + 1]);
    pair[c + 1] = _mm512_maskz_unpackhi_pd(255, v[c], v[c + 1]);
  }
  for (std::size_t h = 0; h < 2; ++h)
    for (std::size_t half = 0; half < L; half += 4) {
      quad[half + h] = _mm512_maskz_shuffle_f64x2(255, pair[half + h], pair[half + 2 + h], 0x88);
      quad[half + h + 2] = _mm512_maskz_shuffle_f64x2(255, pair[half + h], pair[half + 2 + h], 0xdd);
    }
  for (std::size_t h = 0; h < 4; ++h) {
    rows[h] = _mm512_maskz_shuffle_f64x2(255, quad[h], quad[h + 4], 0x88);
    rows[h + 4] = _mm512_maskz_shuffle_f64x2(255, quad[h], quad[h + 4], 0xdd);
  }
}

UNSERE_AVX512 bool pack(const Packing& from, double* sums) {
  __m512d total = _mm512_loadu_pd(sums);
  unsigned lost = 0;
  std::size_t k = 0;
  for (; k + L <= from.rows; k += L) {
    __m512d v[L], rows[L];
#pragma GCC unroll 8
    for (std::size_t c = 0; c < L; ++c) {
      v[c] = _mm512_mul_pd(_mm512_sub_pd(_mm512_loadu_pd(from.columns[c] + k), _mm512_set1_pd(from.centre[c])),
                           _mm512_set1_pd(from.scale[c]));
      const __mmask8 here = _mm512_cmp_pd_mask(v[c], v[c], _CMP_ORD_Q);
      const unsigned gaps = 255u & ~static_cast<unsigned>(here);
      v[c] = _mm512_maskz_mov_pd(here, v[c]);
      if (gaps) from.missing[c * from.words + k / 64] |= static_cast<std::uint64_t>(gaps) << (k % 64);
      lost |= gaps;
    }
    transpose(v, rows);
#pragma GCC unroll 8
    for (std::size_t r = 0; r < L; ++r) {
      _mm512_storeu_pd(from.panel + (k + r) * L, rows[r]);
      total = _mm512_add_pd(total, rows[r]);
    }
  }
  _mm512_storeu_pd(sums, total);
  return pack_rows(from, L, k, sums) || lost;
}

UNSERE_AVX512 void multiply(std::size_t rows, const double* left, const double* right, double* sums) {
  __m512d tile[L][tile_panels];
  for (auto& column : tile)
    for (auto& part : column) part = _mm512_setzero_pd();
  for (std::size_t k = 0; k < rows; ++k, left += L, right += L) {
    const __m512d a = _mm512_loadu_pd(left), b = _mm512_loadu_pd(left + L * block_rows);
    const __m512d c = _mm512_loadu_pd(left + 2 * L * block_rows);
#pragma GCC unroll 8
    for (std::size_t j = 0; j < L; ++j) {
      const __m512d factor = _mm512_set1_pd(right[j]);
      tile[j][0] = _mm512_fmadd_pd(a, factor, tile[j][0]);
      tile[j][1] = _mm512_fmadd_pd(b, factor, tile[j][1]);
      tile[j][2] = _mm512_fmadd_pd(c, factor, tile[j][2]);
    }
  }
#pragma GCC unroll 8
  for (std::size_t j = 0; j < L; ++j)
#pragma GCC unroll 3
    for (std::size_t part = 0; part < tile_panels; ++part) {
      double* to = sums + j * T + part * L;
      _mm512_storeu_pd(to, _mm512_add_pd(_mm512_loadu_pd(to), tile[j][part]));
    }
}

UNSERE_AVX512 void weigh(std::size_t rows, const double* panel, const double* weight, double* to) {
  for (std::size_t k = 0; k < rows; ++k)
    _mm512_storeu_pd(to + k * L, _mm512_mul_pd(_mm512_loadu_pd(panel + k * L), _mm512_set1_pd(weight[k])));
}

UNSERE_AVX512 void add_rows(const double* left, const std::uint16_t* rows, std::size_t count, double* sums, double* squares) {
  __m512d s[tile_panels], q[tile_panels];
  for (std::size_t part = 0; part < tile_panels; ++part) {
    s[part] = _mm512_loadu_pd(sums + part * L);
    q[part] = _mm512_loadu_pd(squares + part * L);
  }
  for (std::size_t i = 0; i < count; ++i)
#pragma GCC unroll 3
    for (std::size_t part = 0; part < tile_panels; ++part) {
      const __m512d v = _mm512_loadu_pd(left + part * L * block_rows + rows[i] * L);
      s[part] = _mm512_add_pd(s[part], v);
      q[part] = _mm512_fmadd_pd(v, v, q[part]);
    }
  for (std::size_t part = 0; part < tile_panels; ++part) {
    _mm512_storeu_pd(sums + part * L, s[part]);
    _mm512_storeu_pd(squares + part * L, q[part]);
  }
}

}  // namespace avx512

}  // namespace unsere
