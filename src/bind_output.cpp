#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <string>

#include <Rcpp.h>

#if defined(__unix__) || defined(__APPLE__)
#define UNSERE_POSIX
#include <csignal>
#include <dlfcn.h>
#include <unistd.h>
#endif

// Whether all that R wrote to standard output has arrived where it leads. R itself forgets when a write fails; the stream,
// which is R's own and is only looked up here, does not.
// [[Rcpp::export(rng = false)]]
bool core_all_written() {
  if (std::fflush(nullptr) != 0) return false;
#ifdef UNSERE_POSIX
  if (void* found = dlsym(RTLD_DEFAULT, "stdout")) return std::ferror(*static_cast<std::FILE**>(found)) == 0;
#endif
  return true;
}

#ifdef UNSERE_POSIX
static void as_interrupt(int) { std::raise(SIGINT); }
#endif

// Asked to end, a command ends as it does when it is interrupted: what was begun is put away first.
// [[Rcpp::export(rng = false)]]
void core_heed_signals() {
#ifdef UNSERE_POSIX
  std::signal(SIGTERM, as_interrupt);
  std::signal(SIGHUP, as_interrupt);
#endif
}

// Whether two paths lead to one file, by whatever names, links of either kind and folders on the way.
// [[Rcpp::export(rng = false)]]
bool core_same_file(std::string a, std::string b) {
  std::error_code none;
  return std::filesystem::equivalent(std::filesystem::u8path(a), std::filesystem::u8path(b), none) && !none;
}

// Whether a path is a file like others: no pipe and no device.
// [[Rcpp::export(rng = false)]]
bool core_regular_file(std::string path) {
  std::error_code none;
  return std::filesystem::is_regular_file(std::filesystem::u8path(path), none);
}

// How many bytes may still be written where a path lies; none where that cannot be told.
// [[Rcpp::export(rng = false)]]
double core_free_space(std::string path) {
  std::error_code failed;
  const auto space = std::filesystem::space(std::filesystem::u8path(path), failed);
  return failed ? 0 : static_cast<double>(space.available);
}

// Bytes put into a file, or behind what is in it; whether all of them are there is looked at, as R itself forgets. Gives an
// empty text, or why not.
// [[Rcpp::export(rng = false)]]
std::string core_write_bytes(std::string path, Rcpp::RawVector bytes, bool append) {
  std::FILE* file = std::fopen(path.c_str(), append ? "ab" : "wb");
  if (!file) return std::string("cannot open the file: ") + std::strerror(errno);
  const auto size = static_cast<std::size_t>(bytes.size());
  bool whole = size == 0 || std::fwrite(RAW(bytes), 1, size, file) == size;
  const int failed = whole ? 0 : errno;
  if (std::fclose(file) != 0) whole = false;
  return whole ? "" : std::string("write error: ") + std::strerror(failed ? failed : errno);
}

// What was written to a file has reached its disk, as far as the system can say. Gives an empty text, or why not.
// [[Rcpp::export(rng = false)]]
std::string core_settle_file(std::string path) {
  std::FILE* file = std::fopen(path.c_str(), "rb+");
  if (!file) return std::string("cannot open the file: ") + std::strerror(errno);
  bool whole = std::fflush(file) == 0;
#ifdef UNSERE_POSIX
  whole = whole && (fsync(fileno(file)) == 0 || errno == EINVAL || errno == EROFS);
#endif
  const int failed = errno;
  std::fclose(file);
  return whole ? "" : std::string("write error: ") + std::strerror(failed);
}
