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
      entry("unsere_straight_line", unsere_straight_line, 2),
      {nullptr, nullptr, 0},
  };
  R_registerRoutines(library, nullptr, entries, nullptr, nullptr);
  R_useDynamicSymbols(library, FALSE);
  R_forceSymbols(library, TRUE);
}
