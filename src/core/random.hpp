// Random numbers that depend on a seed and a stream number alone: xoshiro256++ (Blackman & Vigna 2021), each stream
// started from splitmix64 (Steele, Lea & Flood 2014), so that work split among threads draws the same numbers.
#pragma once

#include <cstdint>

namespace unsere {

class Random {
 public:
  Random(std::uint64_t seed, std::uint64_t stream) {
    std::uint64_t mix = seed + 0x9e3779b97f4a7c15ULL * (2 * stream + 1);
    for (auto& word : state_) word = next_mix(mix);
  }

  std::uint64_t bits() {
    const std::uint64_t result = rotate(state_[0] + state_[3], 23) + state_[0];
    const std::uint64_t shifted = state_[1] << 17;
    state_[2] ^= state_[0];
    state_[3] ^= state_[1];
    state_[1] ^= state_[2];
    state_[0] ^= state_[3];
    state_[2] ^= shifted;
    state_[3] = rotate(state_[3], 45);
    return result;
  }

  // Strictly between 0 and 1.
  double uniform() { return (static_cast<double>(bits() >> 11) + 0.5) * 0x1.0p-53; }

  // A whole number below `bound`, each equally likely (Lemire 2019).
  std::uint32_t below(std::uint32_t bound) {
    std::uint64_t product = static_cast<std::uint64_t>(half_word()) * bound;
    if (static_cast<std::uint32_t>(product) < bound) {
      const std::uint32_t least = (0u - bound) % bound;
      while (static_cast<std::uint32_t>(product) < least) product = static_cast<std::uint64_t>(half_word()) * bound;
    }
    return static_cast<std::uint32_t>(product >> 32);
  }

 private:
  static std::uint64_t rotate(std::uint64_t x, int k) { return (x << k) | (x >> (64 - k)); }

  static std::uint64_t next_mix(std::uint64_t& x) {
    std::uint64_t z = (x += 0x9e3779b97f4a7c15ULL);
    z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9ULL;
    z = (z ^ (z >> 27)) * 0x94d049bb133111ebULL;
    return z ^ (z >> 31);
  }

  // Each draw of 64 bits serves two numbers.
  std::uint32_t half_word() {
    if (has_spare_) {
      has_spare_ = false;
      return static_cast<std::uint32_t>(spare_);
    }
    spare_ = bits();
    has_spare_ = true;
    return static_cast<std::uint32_t>(spare_ >> 32);
  }

  std::uint64_t state_[4];
  std::uint64_t spare_ = 0;
  bool has_spare_ = false;
};

}  // namespace unsere
