// The smallest of test harnesses: each claim is counted, and each that fails is printed.
#pragma once

#include <cmath>
#include <cstdio>

inline int claims = 0, broken = 0;

inline void claim(bool holds, const char* what) {
  ++claims;
  if (!holds) {
    ++broken;
    std::printf("does not hold: %s\n", what);
  }
}

inline bool near(double a, double b, double relative) { return std::fabs(a - b) <= relative * std::fabs(b); }

inline int report() {
  std::printf("core: %d claims, %d broken\n", claims, broken);
  return broken == 0 ? 0 : 1;
}
