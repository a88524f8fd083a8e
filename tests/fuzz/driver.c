/* Feeds a fuzzer without libFuzzer: ROUNDS inputs (from the environment), which are mutations of the files
 * named on the command line, or random bytes. SEED makes them others. Keeps the input that breaks it. */
#include "fuzz.h"

#include <stdbool.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <unistd.h>

enum { SIZE_MAX_INPUT = 16384, ROUNDS = 300, FILES_MAX = 64 };

static uint64_t seed = 20261123;
static uint8_t now[SIZE_MAX_INPUT];
static size_t n_now;

static unsigned below(size_t most)
{
    seed = seed * 6364136223846793005u + 1442695040888963407u;
    return (unsigned)((seed >> 33) % most);
}

/* Many bytes that mean something to a terminal, to numbers, to text. */
static uint8_t random_byte(void)
{
    static const char often[] = "\033\033[O<;0123456789~ABCDHFMm \n\r\t\"'=.x\xff\xfe";
    return below(3) ? (uint8_t)often[below(sizeof often)] : (uint8_t)below(256);
}

static void mutate(void)
{
    size_t at = below(n_now + 1), many = 1 + below(below(8) ? 4 : 200);
    switch (n_now ? below(4) : 1) {
    case 0: /* other bytes */
        for (size_t i = at; i < n_now && i < at + many; i++)
            now[i] = random_byte();
        break;
    case 1: /* more bytes */
        many = many < sizeof now - n_now ? many : sizeof now - n_now;
        memmove(now + at + many, now + at, n_now - at);
        n_now += many;
        for (size_t i = at; i < at + many; i++)
            now[i] = random_byte();
        break;
    case 2: /* fewer */
        many = many < n_now - at ? many : n_now - at;
        memmove(now + at, now + at + many, n_now - at - many);
        n_now -= many;
        break;
    default: /* a part once more elsewhere */
        if (at < n_now) {
            size_t from = below(n_now), most = n_now - (at > from ? at : from);
            memmove(now + at, now + from, many < most ? many : most);
        }
    }
}

static void keep_input(int signal_number)
{
    char path[] = "/tmp/squill-broken-XXXXXX";
    int fd = mkstemp(path);
    if (fd >= 0 && write(fd, now, n_now) == (ssize_t)n_now && write(2, path, strlen(path)) > 0)
        (void)!write(2, ": the input\n", 12);
    signal(signal_number, SIG_DFL);
    raise(signal_number);
}

int main(int argc, char **argv)
{
    static uint8_t files[FILES_MAX][SIZE_MAX_INPUT];
    size_t sizes[FILES_MAX] = {0}, n_files = 0;
    int rounds = getenv("ROUNDS") ? atoi(getenv("ROUNDS")) : ROUNDS;
    if (getenv("SEED"))
        seed = strtoull(getenv("SEED"), NULL, 10);
    for (int i = 1; i < argc && n_files < FILES_MAX; i++) {
        FILE *f = fopen(argv[i], "rb");
        MUST(f != NULL);
        sizes[n_files] = fread(files[n_files], 1, SIZE_MAX_INPUT, f);
        n_files++;
        fclose(f);
    }
    for (int s = SIGABRT; s; s = s == SIGABRT ? SIGSEGV : 0)
        signal(s, keep_input);
    fuzz_home();
    for (int round = 0; round < rounds; round++) {
        size_t from = n_files ? below(n_files) : 0;
        n_now = sizes[from];
        memcpy(now, files[from], n_now);
        for (unsigned k = below(n_files ? 12 : 60) + (n_files == 0); k; k--)
            mutate();
        LLVMFuzzerTestOneInput(now, n_now);
    }
    printf("%d inputs\n", rounds);
    return 0;
}
