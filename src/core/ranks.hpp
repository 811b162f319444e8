// Mid-ranks (Spearman 1904; Kendall 1945 for ties), kept doubled so that they are whole numbers.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <numeric>
#include <vector>

namespace unsere {

// Puts values into order: they are spread over 2^31 even steps between the smallest and the largest; the upper 20 bits are
// sorted by two passes of counting, what shares them by the lower ones, and what shares a step by its values.
class Sorter {
 public:
  // Calls one(places, start, end) for each run of equal values, rising: places[start .. end - 1] hold it.
  template <typename One>
  void over_ties(const double* values, std::size_t n, One one) {
    order_.resize(n);
    if (n < 512 || !spread_out(values, n)) {
      std::iota(order_.begin(), order_.end(), 0u);
      settle(values, 0, n, one);
      return;
    }
    for (std::size_t start = 0; start < n;) {
      const std::uint64_t share = from_[start] >> (32 + rest_bits);
      std::size_t end = start + 1;
      while (end < n && from_[end] >> (32 + rest_bits) == share) ++end;
      if (end - start > 1) sort_share(start, end);
      while (start < end) {
        const std::uint64_t key = from_[start] >> 32;
        const std::size_t first = start;
        for (; start < end && from_[start] >> 32 == key; ++start) order_[start] = static_cast<std::uint32_t>(from_[start]);
        if (start - first == 1) {
          one(order_.data(), first, start);
        } else {
          settle(values, first, start, one);
        }
      }
    }
  }

 private:
  static constexpr int bits = 10, rest_bits = 11;
  static constexpr std::size_t digits = std::size_t{1} << bits;

  // Into `from_`: the step of each value above its place, sorted by its upper bits; false where the range has no steps.
  bool spread_out(const double* values, std::size_t n) {
    double low = values[0], high = values[0];
    for (std::size_t i = 1; i < n; ++i) {
      low = values[i] < low ? values[i] : low;
      high = values[i] > high ? values[i] : high;
    }
    const double half_range = high / 2 - low / 2;
    const double step = half_range > 0 ? ((1u << 31) - 1) / half_range / 2 : 0.0;
    if (!(step < 1e300) || !(half_range < 1e307)) return false;
    from_.resize(n);
    to_.resize(n);
    std::vector<std::uint32_t> low_counts(digits + 1, 0), high_counts(digits + 1, 0);
    for (std::size_t i = 0; i < n; ++i) {
      const std::uint32_t key = static_cast<std::uint32_t>(static_cast<std::int32_t>((values[i] - low) * step));
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
    return true;
  }

  void sort_share(std::size_t start, std::size_t end) {
    const auto first = from_.begin() + static_cast<std::ptrdiff_t>(start), last = from_.begin() + static_cast<std::ptrdiff_t>(end);
    if (end - start > 16) {
      if (!std::is_sorted(first, last)) std::sort(first, last);
      return;
    }
    for (std::size_t k = start + 1; k < end; ++k) {
      const std::uint64_t item = from_[k];
      std::size_t at = k;
      for (; at > start && from_[at - 1] > item; --at) from_[at] = from_[at - 1];
      from_[at] = item;
    }
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
