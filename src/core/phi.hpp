// The likelihood of phi in a table of two by two: the margins are whatever suits each phi best.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace unsere {

// Both, the first alone, the second alone, neither. The counts may be fractions, but all above zero.
using FourCells = std::array<double, 4>;

class PhiLikelihood {
 public:
  explicit PhiLikelihood(const FourCells& counts) : counts_(counts) {
    // Which variable comes first, and which of both values is one, must not change a digit.
    if (counts_[1] < counts_[2]) std::swap(counts_[1], counts_[2]);
    if (counts_[0] < counts_[3]) std::swap(counts_[0], counts_[3]);
    const double first = counts_[0] + counts_[1], second = counts_[0] + counts_[2], n = first + counts_[2] + counts_[3];
    best_ = {std::log(first / (n - first)), std::log(second / (n - second))};
    phi_ = (counts_[0] * counts_[3] - counts_[1] * counts_[2]) /
           (std::sqrt(first) * std::sqrt(n - first) * std::sqrt(second) * std::sqrt(n - second));
    for (const double count : counts_) most_ += count * std::log(count / n);
  }

  double phi() const { return phi_; }

  // Twice the log likelihood that is lost where phi is this.
  double deviance(double phi) const {
    Margins at = start(phi);
    Place here = look(at, phi);
    for (int step = 0; step < 200; ++step) {
      Margins way = direction(here);
      const double gain = way.first * here.slope.first + way.second * here.slope.second;
      if (!(gain > 1e-14 * (1 + std::fabs(here.height)))) break;
      double length = std::min(1.0, 2 / std::max(std::fabs(way.first), std::fabs(way.second)));
      Place next = here;
      Margins to = at;
      for (int half = 0; half < 60; ++half, length /= 2) {
        to = {at.first + length * way.first, at.second + length * way.second};
        next = look(to, phi);
        if (next.height >= here.height + 1e-4 * length * gain) break;
      }
      if (!(next.height > here.height)) break;
      at = to;
      here = next;
    }
    return std::max(2 * (most_ - here.height), 0.0);
  }

  // The phi on one side (-1, 1) from which on more is lost than `most`.
  double limit(int side, double most) const {
    double inner = std::atanh(std::clamp(phi_, -1 + 1e-15, 1 - 1e-15)), step = 0.5, outer = inner;
    for (int k = 0; k < 60; ++k, step *= 1.5) {
      outer = inner + side * step;
      if (std::fabs(outer) > 18) return side;
      if (deviance(std::tanh(outer)) > most) break;
      inner = outer;
    }
    for (int k = 0; k < 60 && std::fabs(outer - inner) > 1e-12 * (1 + std::fabs(inner)); ++k) {
      const double middle = (inner + outer) / 2;
      (deviance(std::tanh(middle)) > most ? outer : inner) = middle;
    }
    return std::tanh(inner);
  }

 private:
  using Margins = std::pair<double, double>;  // each as log odds

  struct Place {
    double height = -INFINITY;
    Margins slope{0, 0};
    double bend[3] = {0, 0, 0};   // of the height: first, mixed, second
    double pulls[3] = {0, 0, 0};  // of squared slopes of the cells, which bends the same way everywhere
  };

  // A share, the root of it times its complement, and how both move with the log odds.
  struct Side {
    explicit Side(double odds) {
      share = 1 / (1 + std::exp(-odds));
      move = share * (1 - share);
      root = std::sqrt(move);
      const double skew = 1 - 2 * share;
      bend = move * skew;
      root_move = root * skew / 2;
      root_bend = root * (skew * skew / 4 - move);
    }
    double share, move, bend, root, root_move, root_bend;
  };

  // Margins at which this phi is possible, as near to the observed ones as may be: alike for one above zero, else opposite.
  Margins start(double phi) const {
    const double alike = (best_.first + best_.second) / 2, apart = (best_.first - best_.second) / 2;
    const Margins safe = phi > 0 ? Margins{alike, alike} : Margins{apart, -apart};
    for (double part = 0; part < 1; part += 0.125) {
      const Margins at{best_.first + part * (safe.first - best_.first), best_.second + part * (safe.second - best_.second)};
      if (look(at, phi).height > -INFINITY) return at;
    }
    return safe;
  }

  Place look(const Margins& at, double phi) const {
    const Side a(at.first), b(at.second);
    const double both = a.share * b.share + phi * a.root * b.root;
    const double cells[4] = {both, a.share - both, b.share - both, 1 - a.share - b.share + both};
    Place found;
    for (const double cell : cells) {
      if (!(cell > 0)) return found;
    }
    const double first = a.move * b.share + phi * a.root_move * b.root, second = a.share * b.move + phi * a.root * b.root_move;
    const double bend[3] = {a.bend * b.share + phi * a.root_bend * b.root, a.move * b.move + phi * a.root_move * b.root_move,
                            a.share * b.bend + phi * a.root * b.root_bend};
    const double moves[4][2] = {{first, second}, {a.move - first, -second}, {-first, b.move - second},
                                {first - a.move, second - b.move}};
    const double bends[4][3] = {{bend[0], bend[1], bend[2]}, {a.bend - bend[0], -bend[1], -bend[2]},
                                {-bend[0], -bend[1], b.bend - bend[2]}, {bend[0] - a.bend, bend[1], bend[2] - b.bend}};
    found.height = 0;
    for (int k = 0; k < 4; ++k) {
      const double weight = counts_[k] / cells[k], pull = weight / cells[k];
      const double u = moves[k][0], v = moves[k][1];
      found.height += counts_[k] * std::log(cells[k]);
      found.slope.first += weight * u;
      found.slope.second += weight * v;
      const double products[3] = {u * u, u * v, v * v};
      for (int m = 0; m < 3; ++m) {
        found.pulls[m] -= pull * products[m];
        found.bend[m] += weight * bends[k][m] - pull * products[m];
      }
    }
    return found;
  }

  // Newton's step where the height bends down in every direction, else one that always climbs.
  static Margins direction(const Place& at) {
    const bool round = at.bend[0] < 0 && at.bend[0] * at.bend[2] > at.bend[1] * at.bend[1];
    const double* h = round ? at.bend : at.pulls;
    const double lift = round ? 0 : 1e-9 * (at.pulls[0] + at.pulls[2]);
    const double a = h[0] + lift, b = h[1], c = h[2] + lift, determinant = a * c - b * b;
    return {-(c * at.slope.first - b * at.slope.second) / determinant,
            -(a * at.slope.second - b * at.slope.first) / determinant};
  }

  FourCells counts_;
  Margins best_;
  double phi_ = 0, most_ = 0;
};

}  // namespace unsere
