// Work split among threads. Each item is computed alone and writes its own place, so that the number of threads never
// changes a digit.
#pragma once

#include <algorithm>
#include <cstddef>
#include <thread>
#include <vector>

namespace unsere {

// Calls work(from, to) on consecutive parts of 0 .. items - 1.
template <typename Work>
void in_parallel(std::size_t items, int threads, Work work) {
  std::size_t parts = std::max<std::size_t>(1, std::min<std::size_t>(items, threads > 0 ? threads : 1));
  if (parts == 1) {
    work(std::size_t{0}, items);
    return;
  }
  std::vector<std::thread> team;
  for (std::size_t part = 1; part < parts; ++part)
    team.emplace_back([=, &work] { work(items * part / parts, items * (part + 1) / parts); });
  work(std::size_t{0}, items / parts);
  for (auto& member : team) member.join();
}

}  // namespace unsere
