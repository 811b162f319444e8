// The moments of many columns as one object: for every pair n, means, sums of squares and products, over the cases that
// the pair has in common. Two of them, of different cases, can be merged (Chan, Golub & LeVeque 1983).
#pragma once

#include <algorithm>
#include <cmath>
#include <vector>

namespace unsere {

// Values stand as (value - centre) * scale; the centre is close to the mean, and the scale, a power of two, brings the values
// near 1, so that no square can overflow.
struct CrossMoments {
  std::size_t columns = 0;
  double rows = 0;
  std::vector<double> centre, scale;
  std::vector<double> products;  // columns x columns: sums of products, missing values as zero
  // Where no value is missing the next three are those of the columns alone; else columns x columns, at [i + j * columns]
  // over the cases where column j is there.
  bool complete = true;
  std::vector<double> sums, squares, counts;

  double count(std::size_t i, std::size_t j) const { return complete ? rows : counts[i + j * columns]; }
  double sum(std::size_t i, std::size_t j) const { return sums[complete ? i : i + j * columns]; }
  double square(std::size_t i, std::size_t j) const { return complete ? products[i + i * columns] : squares[i + j * columns]; }

  double mean(std::size_t i) const { return centre[i] + sum(i, i) / count(i, i) / scale[i]; }
  double sd(std::size_t i) const {
    const double n = count(i, i), s = sum(i, i);
    return std::sqrt(std::max(0.0, square(i, i) - s * s / n) / (n - 1)) / scale[i];
  }

  void expand() {
    if (!complete) return;
    const std::size_t p = columns;
    std::vector<double> wide(p * p), wide_squares(p * p);
    for (std::size_t j = 0; j < p; ++j)
      for (std::size_t i = 0; i < p; ++i) {
        wide[i + j * p] = sums[i];
        wide_squares[i + j * p] = products[i + i * p];
      }
    sums.swap(wide);
    squares.swap(wide_squares);
    counts.assign(p * p, rows);
    complete = false;
  }

  // The same moments about other centres and in other scales.
  void move_to(const std::vector<double>& new_centre, const std::vector<double>& new_scale) {
    const std::size_t p = columns;
    std::vector<double> step(p), factor(p);
    for (std::size_t i = 0; i < p; ++i) {
      factor[i] = new_scale[i] / scale[i];
      step[i] = (centre[i] - new_centre[i]) * new_scale[i];
    }
    for (std::size_t j = 0; j < p; ++j)
      for (std::size_t i = 0; i < p; ++i) {
        const double n = count(i, j), s = sum(i, j) * factor[i], t = sum(j, i) * factor[j];
        products[i + j * p] = products[i + j * p] * factor[i] * factor[j] + step[i] * t + step[j] * s + n * step[i] * step[j];
        if (!complete) squares[i + j * p] = squares[i + j * p] * factor[i] * factor[i] + 2 * step[i] * s + n * step[i] * step[i];
      }
    for (std::size_t k = 0; k < sums.size(); ++k) {
      const std::size_t i = k % p;
      sums[k] = sums[k] * factor[i] + (complete ? rows : counts[k]) * step[i];
    }
    centre = new_centre;
    scale = new_scale;
  }

  void merge(CrossMoments other) {
    if (!complete || !other.complete) {
      expand();
      other.expand();
    }
    // Both about the mean of all: small steps, and the larger part does not lose digits to a far centre.
    std::vector<double> together(columns), finer(columns);
    for (std::size_t i = 0; i < columns; ++i) {
      const double a = count(i, i), b = other.count(i, i);
      const double share = a + b > 0 ? b / (a + b) : 0.0;
      together[i] = a > 0 && b > 0 ? mean(i) + share * (other.mean(i) - mean(i)) : (b > 0 ? other.mean(i) : centre[i]);
      finer[i] = b > 0 && a > 0 ? std::min(scale[i], other.scale[i]) : (b > 0 ? other.scale[i] : scale[i]);
    }
    move_to(together, finer);
    other.move_to(together, finer);
    rows += other.rows;
    for (std::size_t k = 0; k < products.size(); ++k) products[k] += other.products[k];
    for (std::size_t k = 0; k < sums.size(); ++k) sums[k] += other.sums[k];
    for (std::size_t k = 0; k < squares.size(); ++k) squares[k] += other.squares[k];
    for (std::size_t k = 0; k < counts.size(); ++k) counts[k] += other.counts[k];
  }

  // r of a pair and 1 - r^2; `doubtful` when the sums alone cannot say: nearly a line, or hardly any variation about so far
  // a centre.
  double r(std::size_t i, std::size_t j, double* unexplained, bool* doubtful) const {
    const double n = count(i, j), si = sum(i, j), sj = sum(j, i), qi = square(i, j), qj = square(j, i);
    const double sxx = qi - si * si / n, syy = qj - sj * sj / n, sxy = products[i + j * columns] - si * sj / n;
    *doubtful = !(sxx > 1e-4 * qi) || !(syy > 1e-4 * qj);
    if (!(n >= 2) || !(sxx > 1e-13 * qi) || !(syy > 1e-13 * qj)) {
      *unexplained = NAN;
      return NAN;
    }
    const double r = std::max(-1.0, std::min(1.0, sxy / (std::sqrt(sxx) * std::sqrt(syy))));
    *unexplained = (1.0 - r) * (1.0 + r);
    *doubtful = *doubtful || *unexplained < 1e-3;
    return r;
  }
};

}  // namespace unsere
