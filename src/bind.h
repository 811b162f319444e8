// What every binding shares: columns of R as plain memory, results as lists, and work that can be interrupted.
//
// The entry points are marked for Rcpp, which writes the registration (src/RcppExports.cpp, R/RcppExports.R). They leave R's
// random numbers alone, and nothing of R is called while the core computes. Every length and every index that comes from R is
// looked at here: the core trusts what it is handed.
#pragma once

#include "core/contract.hpp"

#include <chrono>
#include <exception>
#include <future>
#include <new>
#include <string>
#include <system_error>
#include <utility>
#include <vector>

#include "core/resample.hpp"
#include "core/spreads.hpp"
#include <Rcpp.h>

inline Rcpp::NumericVector to_doubles(const std::vector<double>& values) {
  return Rcpp::NumericVector(values.begin(), values.end());
}

inline Rcpp::List to_list(const unsere::Tally& tally) {
  return Rcpp::List::create(Rcpp::Named("above") = tally.above, Rcpp::Named("below") = tally.below,
                            Rcpp::Named("outside") = tally.outside);
}

inline Rcpp::List spreads_list(const unsere::Spreads& found) {
  return Rcpp::List::create(Rcpp::Named("mean") = to_doubles(found.mean), Rcpp::Named("sd") = to_doubles(found.sd),
                            Rcpp::Named("n") = to_doubles(found.n));
}

inline void check(bool holds, const char* otherwise) {
  if (!holds) Rcpp::stop(otherwise);
}

// A seed comes as a whole number in a double.
inline std::uint64_t to_seed(double seed) {
  check(seed >= -9.0e18 && seed <= 9.0e18, "A seed is a whole number.");
  return static_cast<std::uint64_t>(static_cast<std::int64_t>(seed));
}

// How many of something, as a double.
inline std::size_t to_count(double count) {
  check(count >= 0 && count <= 9.0e15, "A number of things is a whole number from 0 on.");
  return static_cast<std::size_t>(count);
}

// One or more double vectors of equal length.
struct Columns {
  std::vector<const double*> values;
  std::size_t rows = 0;
};

inline const double* values_of(const Rcpp::NumericVector& x) { return REAL(x); }

inline std::size_t length_of(const Rcpp::NumericVector& x) { return static_cast<std::size_t>(x.size()); }

inline void check_lengths(const Rcpp::NumericVector& x, const Rcpp::NumericVector& y) {
  check(x.size() == y.size(), "The columns differ in length.");
}

inline Columns columns_of(const Rcpp::List& columns) {
  Columns out;
  for (R_xlen_t j = 0; j < columns.size(); ++j) {
    SEXP column = columns[j];
    check(TYPEOF(column) == REALSXP, "A column is not of doubles.");
    const auto length = static_cast<std::size_t>(Rf_xlength(column));
    if (j == 0) out.rows = length;
    check(length == out.rows, "The columns differ in length.");
    out.values.push_back(REAL(column));
  }
  return out;
}

// Which pairs are wanted: a square of as many columns.
inline const int* wanted_pairs(const Rcpp::LogicalVector& wanted, const Columns& columns) {
  check(static_cast<std::size_t>(wanted.size()) == columns.values.size() * columns.values.size(),
        "A pair more or less than there are.");
  return LOGICAL(wanted);
}

// Classes as R counts them, from 1 to `most`, as the core does, from 0 on.
inline std::vector<std::size_t> from_zero(const Rcpp::IntegerVector& places, std::size_t most) {
  std::vector<std::size_t> out;
  out.reserve(static_cast<std::size_t>(places.size()));
  for (const int place : places) {
    check(place >= 1 && static_cast<std::size_t>(place) <= most, "A place lies beyond what there is.");
    out.push_back(static_cast<std::size_t>(place - 1));
  }
  return out;
}

inline bool interrupt_waits() {
  return R_ToplevelExec([](void*) { R_CheckUserInterrupt(); }, nullptr) == FALSE;
}

// A function of a package, called without arguments: its condition reaches R as it is.
inline void call_of(const char* package, const char* name) {
  Rcpp::Function(Rcpp::Environment::namespace_env(package)[name])();
}

// Computes on a thread of its own while this one looks for an interrupt; where no thread can be started, right here.
template <typename Work>
auto run_interruptibly(Work work) -> decltype(work()) {
  unsere::stop_flag() = false;
  std::future<decltype(work())> result;
  try {
    result = std::async(std::launch::async, work);
  } catch (const std::system_error&) {
    return work();
  }
  bool stopped = false;
  while (result.wait_for(std::chrono::milliseconds(stopped ? 5 : 50)) != std::future_status::ready)
    if (!stopped && interrupt_waits()) unsere::stop_flag() = stopped = true;
  unsere::stop_flag() = false;
  if (stopped) {
    try {
      result.get();
    } catch (const std::exception&) {
      // What was begun is left behind with its memory freed.
    }
    call_of("rlang", "interrupt");
  }
  try {
    return result.get();
  } catch (const std::bad_alloc&) {
    call_of("unsere", "abort_memory");
    throw;
  }
}
