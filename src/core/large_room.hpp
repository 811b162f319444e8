// Memory for whole tables of numbers.
#pragma once

#include <cstddef>
#include <memory>

#if defined(__linux__)
#include <sys/mman.h>
#endif

namespace unsere {

// Room for many values that are all written before they are read. Where the system has large pages it is asked for them,
// since handing out small ones takes as long as the work.
class LargeRoom {
 public:
  explicit LargeRoom(std::size_t size) : room_(new double[size + page / sizeof(double)]) {
    std::size_t space = (size + page / sizeof(double)) * sizeof(double);
    void* start = room_.get();
    first_ = static_cast<double*>(std::align(page, size * sizeof(double), start, space));
#if defined(__linux__)
    if (size * sizeof(double) >= page) madvise(first_, size * sizeof(double), MADV_HUGEPAGE);
#endif
  }

  double* at(std::size_t place) const { return first_ + place; }

 private:
  static constexpr std::size_t page = std::size_t{1} << 21;
  std::unique_ptr<double[]> room_;
  double* first_;
};

}  // namespace unsere
