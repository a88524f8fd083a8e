/* Fuzzers: each file beside this one makes something of any bytes and aborts where a promise is broken. Their
 * entry has the name that LLVM's libFuzzer calls; without that, driver.c feeds them mutations of files. */
#ifndef FUZZ_H
#define FUZZ_H

#include <stddef.h>
#include <stdint.h>

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n);

/* A new folder that is HOME and the working folder from now on; whoever is root stops being it. Made at the
 * first call, and removed when the program ends well. */
const char *fuzz_home(void);
/* "<home>/name", valid until the next call; makes the file, and the folders it needs. */
const char *fuzz_put(const char *name, const void *bytes, size_t n);
/* Takes the next byte of the input; 0 at its end. */
unsigned fuzz_byte(const uint8_t **bytes, size_t *n);

/* A promise. */
#define MUST(condition)                                                                                      \
    do {                                                                                                     \
        if (!(condition))                                                                                    \
            fuzz_broken(#condition, __FILE__, __LINE__);                                                     \
    } while (0)
void fuzz_broken(const char *what, const char *file, int line);

#endif
