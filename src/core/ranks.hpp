// Mid-ranks (Spearman 1904; Kendall 1945 for ties), kept doubled so that they are whole numbers.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <numeric>
#include <vector>

namespace unsere {

struct Ranking {
  std::vector<std::int64_t> doubled;  // twice the mid-rank of each case
  std::vector<std::uint32_t> code;    // 0, 1, 2 ... by distinct value, rising
  std::uint32_t distinct = 0;
};

inline Ranking rank_values(const double* values, std::size_t n) {
  std::vector<std::uint32_t> order(n);
  std::iota(order.begin(), order.end(), 0u);
  std::sort(order.begin(), order.end(), [&](std::uint32_t a, std::uint32_t b) { return values[a] < values[b]; });
  Ranking out;
  out.doubled.resize(n);
  out.code.resize(n);
  for (std::size_t start = 0; start < n;) {
    std::size_t end = start + 1;
    while (end < n && values[order[end]] == values[order[start]]) ++end;
    for (std::size_t k = start; k < end; ++k) {
      out.doubled[order[k]] = static_cast<std::int64_t>(start + end + 1);
      out.code[order[k]] = out.distinct;
    }
    ++out.distinct;
    start = end;
  }
  return out;
}

}  // namespace unsere
