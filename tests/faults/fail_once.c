// Lets one call on files below a watched folder, or one fork, fail: the FAULT_AT-th. Without it the calls are only counted; the
// count goes to FAULT_LOG as the process ends. Preloaded by tests/faults/run.sh.
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/syscall.h>
#include <sys/types.h>
#include <unistd.h>

static long calls = 0, at = -1;
static const char *watched = NULL;
static char kinds[1 << 20];
static pid_t owner = 0;
static char last_written[4096];

static void begin(void) {
  if (owner) return;
  owner = getpid();
  // The shell that starts R is not looked at.
  watched = strcmp(program_invocation_short_name, "sh") == 0 ? NULL : getenv("FAULT_BELOW");
  const char *told = getenv("FAULT_AT");
  at = told ? atol(told) : -1;
}

static const char *asked = "";  // which file the call is on

static int below(const char *path) {
  begin();
  asked = path ? path : "";
  if (!watched || !path) return 0;
  if (path[0] != '/') return 1;  // the process runs in the watched folder
  return strncmp(path, watched, strlen(watched)) == 0;
}

// Of the process alone that was started: a child that it forks counts for nothing.
static int fails(char kind) {
  begin();
  if (!watched || getpid() != owner) return 0;
  if (calls < (long)sizeof kinds - 1) kinds[calls] = kind;
  calls++;
  if (calls == at && getenv("FAULT_TOLD")) {
    const int out = (int)syscall(SYS_openat, AT_FDCWD, getenv("FAULT_TOLD"), O_WRONLY | O_CREAT | O_TRUNC, 0644);
    if (out >= 0) { dprintf(out, "%s", asked); close(out); }
  }
  return calls == at;
}

__attribute__((destructor)) static void end(void) {
  const char *log = getenv("FAULT_LOG");
  if (!log || !watched || getpid() != owner) return;
  FILE *(*real)(const char *, const char *) = dlsym(RTLD_NEXT, "fopen");
  FILE *out = real(log, "w");
  if (!out) return;
  fprintf(out, "%ld %s\n", calls, kinds);
  fclose(out);
}

#define REAL(type, name, ...) \
  static type (*real)(__VA_ARGS__) = NULL; \
  if (!real) real = (type(*)(__VA_ARGS__))dlsym(RTLD_NEXT, name)

static int writes(const char *mode) { return strchr(mode, 'w') || strchr(mode, 'a') || strchr(mode, '+'); }

FILE *fopen(const char *path, const char *mode) {
  REAL(FILE *, "fopen", const char *, const char *);
  if (below(path) && fails(writes(mode) ? 'w' : 'r')) { errno = writes(mode) ? ENOSPC : EIO; return NULL; }
  return real(path, mode);
}
FILE *fopen64(const char *path, const char *mode) {
  REAL(FILE *, "fopen64", const char *, const char *);
  if (below(path) && fails(writes(mode) ? 'w' : 'r')) { errno = writes(mode) ? ENOSPC : EIO; return NULL; }
  return real(path, mode);
}
static int open_fails(const char *path, int flags) {
  const int write = (flags & O_ACCMODE) != O_RDONLY;
  if (!below(path) || !fails(write ? 'w' : 'r')) return 0;
  errno = write ? ENOSPC : EIO;
  return 1;
}
int open(const char *path, int flags, ...) {
  REAL(int, "open", const char *, int, ...);
  va_list rest; va_start(rest, flags); const mode_t mode = va_arg(rest, mode_t); va_end(rest);
  return open_fails(path, flags) ? -1 : real(path, flags, mode);
}
int open64(const char *path, int flags, ...) {
  REAL(int, "open64", const char *, int, ...);
  va_list rest; va_start(rest, flags); const mode_t mode = va_arg(rest, mode_t); va_end(rest);
  return open_fails(path, flags) ? -1 : real(path, flags, mode);
}
size_t fwrite(const void *data, size_t size, size_t count, FILE *file) {
  REAL(size_t, "fwrite", const void *, size_t, size_t, FILE *);
  char link[64], path[4096];
  begin();
  if (watched && fileno(file) > 2) {
    snprintf(link, sizeof link, "/proc/self/fd/%d", fileno(file));
    const ssize_t length = readlink(link, path, sizeof path - 1);
    if (length > 0) {
      path[length] = 0;
      // Of each file the first write counts.
      if (path[0] == '/' && below(path) && strcmp(path, last_written) != 0) {
        strcpy(last_written, path);
        if (fails('f')) { errno = ENOSPC; return 0; }
      }
    }
  }
  return real(data, size, count, file);
}
int rename(const char *from, const char *to) {
  REAL(int, "rename", const char *, const char *);
  if ((below(from) || below(to)) && fails('m')) { errno = EACCES; return -1; }
  return real(from, to);
}
int mkdir(const char *path, mode_t mode) {
  REAL(int, "mkdir", const char *, mode_t);
  if (below(path) && fails('d')) { errno = ENOSPC; return -1; }
  return real(path, mode);
}
pid_t fork(void) {
  REAL(pid_t, "fork", void);
  if (fails('k')) { errno = EAGAIN; return -1; }
  return real();
}
