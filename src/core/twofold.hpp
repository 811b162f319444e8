// Arithmetic with twice the digits of a double: a number is the unevaluated sum hi + lo (Dekker 1971; Knuth 1969).
// Plain C++17 without fused instructions, so that every machine gives the same digits.
#pragma once

#include <cmath>

namespace unsere {

struct Twofold {
  double hi = 0.0;
  double lo = 0.0;
  Twofold() = default;
  Twofold(double value) : hi(value) {}
  Twofold(double high, double low) : hi(high), lo(low) {}
  double value() const { return hi + lo; }
};

// a + b exactly, for |a| >= |b|
inline Twofold quick_sum(double a, double b) {
  double s = a + b;
  return {s, b - (s - a)};
}

// a + b exactly
inline Twofold exact_sum(double a, double b) {
  double s = a + b;
  double t = s - a;
  return {s, (a - (s - t)) + (b - t)};
}

// a * b exactly, by splitting each factor in two halves of 26 bits
inline Twofold exact_product(double a, double b) {
  constexpr double splitter = 134217729.0;  // 2^27 + 1
  double p = a * b;
  double ta = splitter * a, tb = splitter * b;
  double ah = ta - (ta - a), bh = tb - (tb - b);
  double al = a - ah, bl = b - bh;
  return {p, ((ah * bh - p) + ah * bl + al * bh) + al * bl};
}

inline Twofold operator+(Twofold a, Twofold b) {
  Twofold s = exact_sum(a.hi, b.hi);
  Twofold t = exact_sum(a.lo, b.lo);
  s = quick_sum(s.hi, s.lo + t.hi);
  return quick_sum(s.hi, s.lo + t.lo);
}

inline Twofold operator-(Twofold a) { return {-a.hi, -a.lo}; }
inline Twofold operator-(Twofold a, Twofold b) { return a + (-b); }

inline Twofold operator*(Twofold a, Twofold b) {
  Twofold p = exact_product(a.hi, b.hi);
  return quick_sum(p.hi, p.lo + (a.hi * b.lo + a.lo * b.hi));
}

inline Twofold operator/(Twofold a, Twofold b) {
  double q1 = a.hi / b.hi;
  Twofold rest = a - b * Twofold(q1);
  double q2 = rest.hi / b.hi;
  rest = rest - b * Twofold(q2);
  double q3 = rest.hi / b.hi;
  return quick_sum(q1, q2) + Twofold(q3);
}

// The root of a number that is not negative, one Newton step from the double root.
inline Twofold square_root(Twofold a) {
  if (!(a.hi > 0.0)) return {};
  double root = std::sqrt(a.hi);
  Twofold rest = a - exact_product(root, root);
  return quick_sum(root, rest.hi / (2.0 * root));
}

inline Twofold scaled(Twofold a, int exponent) { return {std::ldexp(a.hi, exponent), std::ldexp(a.lo, exponent)}; }

}  // namespace unsere
