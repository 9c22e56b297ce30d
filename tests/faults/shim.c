/* Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
 *
 * Preloaded into a process to let it fail at its n-th change of a file in a folder.
 *   KILN_FAULT_FOLDER  only files in here count
 *   KILN_FAULT_AT      the change at which it happens, from 1
 *   KILN_FAULT_MODE    kill: the process is killed, half of what it writes is written; full: from there on nothing more
 *                      can be written; denied: nothing may be opened to be written, made, renamed or removed
 *   KILN_FAULT_TELL    a file that the number of changes is written into at the end
 */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <signal.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/types.h>
#include <unistd.h>

static long count;

static int within(const char* path)
{
  const char* folder = getenv("KILN_FAULT_FOLDER");
  return folder != NULL && path != NULL && strncmp(path, folder, strlen(folder)) == 0;
}

static int descriptorWithin(int descriptor)
{
  char link[64];
  char path[PATH_MAX];
  snprintf(link, sizeof link, "/proc/self/fd/%d", descriptor);
  const ssize_t length = readlink(link, path, sizeof path - 1);
  if (length <= 0)
    return 0;
  path[length] = '\0';
  return within(path);
}

enum Fault { None, Kill, Full, Denied };

static enum Fault due(void)
{
  const char* at = getenv("KILN_FAULT_AT");
  const char* mode = getenv("KILN_FAULT_MODE");
  const long now = __sync_add_and_fetch(&count, 1);
  if (at == NULL || mode == NULL)
    return None;
  if (strcmp(mode, "denied") == 0)
    return Denied;
  if (strcmp(mode, "full") == 0)
    return now >= atol(at) ? Full : None;
  return now == atol(at) ? Kill : None;
}

static void die(void)
{
  kill(getpid(), SIGKILL);
  for (;;)
    pause();
}

#define REAL(name, type) ((type)dlsym(RTLD_NEXT, name))

enum { Anywhere = -1 }; /* where a plain write goes */

static ssize_t reallyPut(const char* name, int descriptor, const void* bytes, size_t size, off_t at)
{
  typedef ssize_t (*Write)(int, const void*, size_t);
  typedef ssize_t (*Place)(int, const void*, size_t, off_t);
  return at == Anywhere ? REAL(name, Write)(descriptor, bytes, size) : REAL(name, Place)(descriptor, bytes, size, at);
}

static ssize_t put(const char* name, int descriptor, const void* bytes, size_t size, off_t at)
{
  const enum Fault fault = descriptorWithin(descriptor) ? due() : None;
  if (fault == Full) {
    errno = ENOSPC;
    return -1;
  }
  if (fault == Kill) {
    (void)!reallyPut(name, descriptor, bytes, size / 2, at);
    die();
  }
  return reallyPut(name, descriptor, bytes, size, at);
}

ssize_t write(int descriptor, const void* bytes, size_t size)
{
  return put("write", descriptor, bytes, size, Anywhere);
}
ssize_t pwrite(int descriptor, const void* bytes, size_t size, off_t at)
{
  return put("pwrite", descriptor, bytes, size, at);
}
ssize_t pwrite64(int descriptor, const void* bytes, size_t size, off64_t at)
{
  return put("pwrite64", descriptor, bytes, size, at);
}

/* Before or after what is done, by turns: both are instants at which a process may end. */
#define AROUND(call)                                                                                                   \
  const enum Fault fault = due();                                                                                      \
  if (fault == Denied) {                                                                                               \
    errno = EACCES;                                                                                                    \
    return -1;                                                                                                         \
  }                                                                                                                    \
  if (fault == Kill && count % 2 == 0)                                                                                 \
    die();                                                                                                             \
  const int result = call;                                                                                             \
  if (fault == Kill)                                                                                                   \
    die();                                                                                                             \
  return result

int rename(const char* from, const char* to)
{
  typedef int (*Rename)(const char*, const char*);
  if (!within(to))
    return REAL("rename", Rename)(from, to);
  AROUND(REAL("rename", Rename)(from, to));
}

int unlink(const char* path)
{
  typedef int (*Unlink)(const char*);
  if (!within(path))
    return REAL("unlink", Unlink)(path);
  AROUND(REAL("unlink", Unlink)(path));
}

int remove(const char* path)
{
  typedef int (*Remove)(const char*);
  if (!within(path))
    return REAL("remove", Remove)(path);
  AROUND(REAL("remove", Remove)(path));
}

int fsync(int descriptor)
{
  typedef int (*Sync)(int);
  if (!descriptorWithin(descriptor))
    return REAL("fsync", Sync)(descriptor);
  AROUND(REAL("fsync", Sync)(descriptor));
}

/* A folder that may only be read. */
static int refuses(const char* path, int writes)
{
  const char* mode = getenv("KILN_FAULT_MODE");
  if (!writes || mode == NULL || strcmp(mode, "denied") != 0 || !within(path))
    return 0;
  errno = EACCES;
  return 1;
}

static int writesTo(int flags) { return (flags & (O_WRONLY | O_RDWR | O_CREAT | O_TRUNC)) != 0; }

#define OPEN(name)                                                                                                     \
  int name(const char* path, int flags, ...)                                                                           \
  {                                                                                                                    \
    typedef int (*Open)(const char*, int, ...);                                                                        \
    va_list more;                                                                                                      \
    va_start(more, flags);                                                                                             \
    const mode_t mode = (flags & O_CREAT) != 0 ? va_arg(more, mode_t) : 0;                                             \
    va_end(more);                                                                                                      \
    return refuses(path, writesTo(flags)) ? -1 : REAL(#name, Open)(path, flags, mode);                                 \
  }
OPEN(open)
OPEN(open64)

#define FOPEN(name)                                                                                                    \
  FILE* name(const char* path, const char* how)                                                                        \
  {                                                                                                                    \
    typedef FILE* (*Open)(const char*, const char*);                                                                   \
    return refuses(path, strpbrk(how, "wa+") != NULL) ? NULL : REAL(#name, Open)(path, how);                           \
  }
FOPEN(fopen)
FOPEN(fopen64)

int mkdir(const char* path, mode_t mode)
{
  typedef int (*Make)(const char*, mode_t);
  return refuses(path, 1) ? -1 : REAL("mkdir", Make)(path, mode);
}

__attribute__((destructor)) static void tell(void)
{
  const char* file = getenv("KILN_FAULT_TELL");
  if (file == NULL)
    return;
  FILE* out = fopen(file, "w");
  if (out == NULL)
    return;
  fprintf(out, "%ld\n", count);
  fclose(out);
}
