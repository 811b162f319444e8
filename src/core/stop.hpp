// How a long computation is stopped from outside: whoever waits for it raises the flag, and the loops look at it.
#pragma once

#include <atomic>
#include <exception>

namespace unsere {

struct Stopped : std::exception {
  const char* what() const noexcept override { return "stopped"; }
};

inline std::atomic<bool>& stop_flag() {
  static std::atomic<bool> raised{false};
  return raised;
}

// To be called every few milliseconds of work.
inline void stop_point() {
  if (stop_flag().load(std::memory_order_relaxed)) throw Stopped();
}

}  // namespace unsere
