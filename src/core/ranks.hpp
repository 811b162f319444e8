// Mid-ranks (Spearman 1904; Kendall 1945 for ties), kept doubled so that they are whole numbers.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <numeric>
#include <vector>

#include "narrow.hpp"

namespace unsere {

// Puts values into order: they are spread over 2^31 even steps between the smallest and the largest; the upper 20 bits are
// sorted by two passes of counting, what is then out of its place is moved back, and what shares a step is sorted by its
// values. Where a few far values crowd the others into few steps, the steps are even in the bits of the values instead,
// which grow with the logarithm.
class Sorter {
 public:
  // Calls one(places, start, end) for each run of equal values, rising: places[start .. end - 1] hold it.
  template <typename One>
  void over_ties(const double* values, std::size_t n, One one) {
    check_rows(n);
    order_.resize(n);
    if (n < 512 || !set_range(values, n)) {
      std::iota(order_.begin(), order_.end(), 0u);
      settle(values, 0, n, one);
      return;
    }
    if (!sort_evenly(values, n) && !sort_by_bits(values, n)) std::sort(from_.begin(), from_.end());
    for (std::size_t start = 0; start < n;) {
      const std::uint64_t key = from_[start] >> 32;
      order_[start] = static_cast<std::uint32_t>(from_[start]);
      std::size_t end = start + 1;
      if (end == n || from_[end] >> 32 != key) {
        one(order_.data(), start, end);
      } else {
        for (; end < n && from_[end] >> 32 == key; ++end) order_[end] = static_cast<std::uint32_t>(from_[end]);
        settle(values, start, end, one);
      }
      start = end;
    }
  }

 private:
  static constexpr int bits = 10, rest_bits = 11;
  static constexpr std::size_t digits = std::size_t{1} << bits;

  // The smallest and the largest; false where all are equal or lie too far apart for steps.
  bool set_range(const double* values, std::size_t n) {
    double lows[4] = {values[0], values[0], values[0], values[0]}, highs[4] = {values[0], values[0], values[0], values[0]};
    for (std::size_t i = 0; i + 4 <= n; i += 4)
      for (std::size_t k = 0; k < 4; ++k) {
        lows[k] = values[i + k] < lows[k] ? values[i + k] : lows[k];
        highs[k] = values[i + k] > highs[k] ? values[i + k] : highs[k];
      }
    for (std::size_t i = n - n % 4; i < n; ++i) {
      lows[0] = std::min(lows[0], values[i]);
      highs[0] = std::max(highs[0], values[i]);
    }
    low_ = *std::min_element(lows, lows + 4);
    high_ = *std::max_element(highs, highs + 4);
    const double half_range = high_ / 2 - low_ / 2;
    return half_range > 1e-290 && half_range < 1e307;
  }

  bool sort_evenly(const double* values, std::size_t n) {
    const double step = ((1u << 31) - 1) / (high_ / 2 - low_ / 2) / 2;
    return sort_steps(n, [&](std::size_t i) { return static_cast<std::uint32_t>(static_cast<std::int32_t>((values[i] - low_) * step)); });
  }

  bool sort_by_bits(const double* values, std::size_t n) {
    const std::uint64_t first = rising_bits(low_), range = rising_bits(high_) - first;
    int shift = 0;
    while (range >> shift >> 31) ++shift;
    return sort_steps(n, [&](std::size_t i) { return static_cast<std::uint32_t>((rising_bits(values[i]) - first) >> shift); });
  }

  // Whole numbers that rise with the values; both zeros have the same.
  static std::uint64_t rising_bits(double value) {
    constexpr std::uint64_t sign = std::uint64_t{1} << 63;
    const double plain = value + 0.0;
    std::uint64_t of;
    std::memcpy(&of, &plain, sizeof of);
    return of & sign ? ~of : of | sign;
  }

  // Into `from_`: the step of each value above its place, sorted. False, and not sorted, where too many share their upper bits.
  template <typename Step>
  bool sort_steps(std::size_t n, Step step) {
    from_.resize(n);
    to_.resize(n);
    std::vector<std::uint32_t> low_counts(digits + 1, 0), high_counts(digits + 1, 0);
    for (std::size_t i = 0; i < n; ++i) {
      const std::uint32_t key = step(i);
      from_[i] = std::uint64_t{key} << 32 | i;
      ++low_counts[(key >> rest_bits & (digits - 1)) + 1];
      ++high_counts[(key >> (rest_bits + bits)) + 1];
    }
    for (std::size_t d = 0; d < digits; ++d) {
      low_counts[d + 1] += low_counts[d];
      high_counts[d + 1] += high_counts[d];
    }
    for (std::uint64_t item : from_) to_[low_counts[item >> (32 + rest_bits) & (digits - 1)]++] = item;
    for (std::uint64_t item : to_) from_[high_counts[item >> (32 + rest_bits + bits)]++] = item;
    return settle_places(n);
  }

  // Few are out of their places after the passes; each goes back to its own. False where that would be long.
  bool settle_places(std::size_t n) {
    std::size_t steps = 0;
    for (std::size_t k = 1; k < n; ++k) {
      const std::uint64_t item = from_[k];
      if (from_[k - 1] <= item) continue;
      std::size_t at = k;
      do {
        from_[at] = from_[at - 1];
        --at;
      } while (at > 0 && from_[at - 1] > item);
      from_[at] = item;
      steps += k - at;
      if (steps > 4 * n) return false;
    }
    return true;
  }

  template <typename One>
  void settle(const double* values, std::size_t start, std::size_t end, One one) {
    auto rising = [values](std::uint32_t a, std::uint32_t b) { return values[a] < values[b]; };
    const auto first = order_.begin() + static_cast<std::ptrdiff_t>(start), last = order_.begin() + static_cast<std::ptrdiff_t>(end);
    if (!std::is_sorted(first, last, rising)) std::sort(first, last, rising);
    while (start < end) {
      const double value = values[order_[start]];
      std::size_t next = start + 1;
      while (next < end && values[order_[next]] == value) ++next;
      one(order_.data(), start, next);
      start = next;
    }
  }

  double low_ = 0, high_ = 0;
  std::vector<std::uint64_t> from_, to_;
  std::vector<std::uint32_t> order_;
};

struct Ranking {
  std::vector<std::int64_t> doubled;  // twice the mid-rank of each case
  std::vector<std::uint32_t> code;    // 0, 1, 2 ... by distinct value, rising
  std::uint32_t distinct = 0;
};

inline Ranking rank_values(const double* values, std::size_t n) {
  Sorter sorter;
  Ranking out;
  out.doubled.resize(n);
  out.code.resize(n);
  sorter.over_ties(values, n, [&](const std::uint32_t* order, std::size_t start, std::size_t end) {
    for (std::size_t k = start; k < end; ++k) {
      out.doubled[order[k]] = static_cast<std::int64_t>(start + end + 1);
      out.code[order[k]] = out.distinct;
    }
    ++out.distinct;
  });
  return out;
}

}  // namespace unsere
