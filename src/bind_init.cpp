#include <R_ext/Rdynload.h>
#include <R_ext/Visibility.h>

#include "bind.h"

namespace {
template <typename Function>
R_CallMethodDef entry(const char* name, Function function, int arguments) {
  return {name, reinterpret_cast<DL_FUNC>(function), arguments};
}
}  // namespace

extern "C" attribute_visible void R_init_unsere(DllInfo* library) {
  static const R_CallMethodDef entries[] = {
      entry("unsere_pearson", unsere_pearson, 2),
      entry("unsere_spread", unsere_spread, 1),
      entry("unsere_spreads", unsere_spreads, 2),
      entry("unsere_line", unsere_line, 4),
      entry("unsere_ranks", unsere_ranks, 1),
      entry("unsere_bootstrap", unsere_bootstrap, 6),
      entry("unsere_leave_one_out", unsere_leave_one_out, 4),
      entry("unsere_shuffle_test", unsere_shuffle_test, 5),
      entry("unsere_exact_test", unsere_exact_test, 3),
      entry("unsere_exact_spearman", unsere_exact_spearman, 3),
      entry("unsere_matrix", unsere_matrix, 3),
      entry("unsere_rank_matrix", unsere_rank_matrix, 4),
      entry("unsere_moments", unsere_moments, 2),
      entry("unsere_merge_moments", unsere_merge_moments, 2),
      entry("unsere_moments_table", unsere_moments_table, 1),
      entry("unsere_kernel_name", unsere_kernel_name, 1),
      entry("unsere_uniforms", unsere_uniforms, 3),
      {nullptr, nullptr, 0},
  };
  R_registerRoutines(library, nullptr, entries, nullptr, nullptr);
  R_useDynamicSymbols(library, FALSE);
  R_forceSymbols(library, TRUE);
}
