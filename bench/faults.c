/* Stands between a program and its disk: writes and flushes below FAULT_ROOT are counted, noted, and made to fail.
 *
 * fault_set(kind, at): from the call numbered `at` on, 1: the disk is full; at that call alone, 2: an I/O error;
 * 3: half of what was to be written is. 0: nothing fails. fault_log(fd): every call is noted there, as the bench's
 * `replayed` reads it. Calls that fail by themselves are not noted.
 */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <stdarg.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/types.h>
#include <unistd.h>

static int kind = 0, log_fd = -1;
static long at = 0, count = 0;
static char root[PATH_MAX];

void fault_set(int k, long a) { kind = k; at = a; count = 0; }
void fault_root(const char *r) { strncpy(root, r, sizeof root - 1); }
void fault_log(int fd) { log_fd = fd; }
long fault_count(void) { return count; }

#define REAL(name) ((__typeof__(&name))dlsym(RTLD_NEXT, #name))

static int below(const char *path) { return root[0] && path && !strncmp(path, root, strlen(root)); }

static int path_of(int fd, char *out) {
    char link[64];
    snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
    ssize_t n = readlink(link, out, PATH_MAX - 1);
    if (n < 0) return 0;
    out[n] = 0;
    return below(out);
}

static int absolute(const char *path, char *out) {
    if (path[0] == '/') { strncpy(out, path, PATH_MAX - 1); return below(out); }
    return 0;
}

static void note(char what, const char *path, const char *other, int64_t offset, const void *data, int64_t size) {
    if (log_fd < 0) return;
    char head[2 * PATH_MAX + 64];
    ssize_t (*real)(int, const void *, size_t) = REAL(write);
    int n = snprintf(head, sizeof head, "%c\t%s\t%s\t%lld\t%lld\n", what, path, other ? other : "", (long long)offset, (long long)size);
    real(log_fd, head, n);
    if (size && data) real(log_fd, data, size);
}

/* Whether this call fails, with errno set; 2 where half of it is to be written. */
static int fails(int writes) {
    long n = ++count;
    if (kind == 1 && n >= at && writes) { errno = ENOSPC; return 1; }
    if (kind == 2 && n == at) { errno = EIO; return 1; }
    if (kind == 3 && n == at && writes) return 2;
    return 0;
}

ssize_t write(int fd, const void *data, size_t size) {
    char path[PATH_MAX];
    if (!path_of(fd, path)) return REAL(write)(fd, data, size);
    int f = fails(1);
    if (f == 1) return -1;
    if (f == 2 && size > 1) size /= 2;
    off_t where = lseek(fd, 0, SEEK_CUR);
    if (fcntl(fd, F_GETFL) & O_APPEND) where = lseek(fd, 0, SEEK_END);
    ssize_t done = REAL(write)(fd, data, size);
    if (done > 0) note('w', path, 0, where, data, done);
    return done;
}

ssize_t pwrite64(int fd, const void *data, size_t size, off64_t offset) {
    char path[PATH_MAX];
    if (!path_of(fd, path)) return REAL(pwrite64)(fd, data, size, offset);
    int f = fails(1);
    if (f == 1) return -1;
    if (f == 2 && size > 1) size /= 2;
    ssize_t done = REAL(pwrite64)(fd, data, size, offset);
    if (done > 0) note('w', path, 0, offset, data, done);
    return done;
}
ssize_t pwrite(int fd, const void *data, size_t size, off_t offset) { return pwrite64(fd, data, size, offset); }

static int flushed(int fd, int (*real)(int)) {
    char path[PATH_MAX];
    if (!path_of(fd, path)) return real(fd);
    if (fails(0)) return -1;
    int done = real(fd);
    if (!done) note('s', path, 0, 0, 0, 0);
    return done;
}
int fsync(int fd) { return flushed(fd, REAL(fsync)); }
int fdatasync(int fd) { return flushed(fd, REAL(fdatasync)); }

int ftruncate64(int fd, off64_t size) {
    char path[PATH_MAX];
    if (!path_of(fd, path)) return REAL(ftruncate64)(fd, size);
    if (fails(0)) return -1;
    int done = REAL(ftruncate64)(fd, size);
    if (!done) note('t', path, 0, size, 0, 0);
    return done;
}
int ftruncate(int fd, off_t size) { return ftruncate64(fd, size); }

int rename(const char *from, const char *to) {
    char path[PATH_MAX];
    if (!absolute(from, path)) return REAL(rename)(from, to);
    if (fails(0)) return -1;
    int done = REAL(rename)(from, to);
    if (!done) note('r', from, to, 0, 0, 0);
    return done;
}

int unlink(const char *gone) {
    char path[PATH_MAX];
    if (!absolute(gone, path)) return REAL(unlink)(gone);
    int done = REAL(unlink)(gone);
    if (!done) note('u', gone, 0, 0, 0, 0);
    return done;
}

static int opened(const char *name, int flags, mode_t mode, int (*real)(const char *, int, ...)) {
    char path[PATH_MAX];
    if (!(flags & (O_CREAT | O_TRUNC)) || !absolute(name, path)) return real(name, flags, mode);
    struct stat found;
    int there = !stat(name, &found);
    if (!there && fails(1) == 1) return -1;
    int fd = real(name, flags, mode);
    if (fd >= 0 && (!there || flags & O_TRUNC)) note(there ? 't' : 'c', name, 0, 0, 0, 0);
    return fd;
}
#define MODE mode_t mode = 0; if (flags & O_CREAT) { va_list more; va_start(more, flags); mode = va_arg(more, mode_t); va_end(more); }
int open(const char *name, int flags, ...) { MODE return opened(name, flags, mode, (int (*)(const char *, int, ...))dlsym(RTLD_NEXT, "open")); }
int open64(const char *name, int flags, ...) { MODE return opened(name, flags, mode, (int (*)(const char *, int, ...))dlsym(RTLD_NEXT, "open64")); }
