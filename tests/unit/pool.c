/* Room for things of one size. */
#include "check.h"
#include "base/mem.h"
#include "text/pool.h"

#include <stdint.h>
#include <stdlib.h>
#include <string.h>

enum { MOST = 9000 };

static bool holds(const unsigned char *thing, size_t size, unsigned char sign)
{
    for (size_t i = 0; i < size; i++)
        if (thing[i] != sign)
            return false;
    return true;
}

/* Nothing that was taken is given out again, or touched, before it comes back; what is not used goes away. */
TEST(taken_and_given_in_any_order)
{
    static Pool pools[] = {
        {.size = 16}, {.size = 416}, {.size = 792}, {.size = 4096}}; /* each keeps a slab */
    for (size_t s = 0; s < sizeof pools / sizeof *pools; s++) {
        Pool *p = &pools[s];
        size_t size = p->size, n = 0, most = 0, wrong = 0;
        unsigned char **things = malloc(MOST * sizeof *things);
        for (int i = 0; i < 60000; i++) {
            bool more = check_random(100) < (i / 10000 % 2 ? 5 : 95);
            if (more && n < MOST) {
                CHECK(pool_reserve(p, 1 + check_random(3)));
                things[n] = pool_take(p);
                memset(things[n], (int)((uintptr_t)things[n] / 16 % 251), size);
                n++;
            } else if (n) {
                size_t which = check_random((unsigned)n);
                wrong += !holds(things[which], size, (unsigned char)((uintptr_t)things[which] / 16 % 251));
                pool_give(p, things[which]);
                things[which] = things[--n];
            }
            most = p->slabs > most ? p->slabs : most;
            if (i % 1000 == 0)
                CHECK_INT(pool_used(p), n);
        }
        while (n)
            pool_give(p, things[--n]);
        CHECK_INT(wrong, 0);
        CHECK_INT(pool_used(p), 0);
        check_result(p->slabs <= 2 && (size < 400 || most > 1), __FILE__, __LINE__,
                     "of %zu bytes: %zu slabs of %zu", size, p->slabs, most);
        free(things);
    }
}

TEST(without_memory_nothing_is_promised)
{
    static Pool p = {.size = 104};
    for (size_t fail = 1; fail < 3; fail++) {
        mem_fail_at(fail);
        CHECK(!pool_reserve(&p, 5));
        mem_fail_at(0);
        CHECK_INT(pool_used(&p), 0);
    }
    CHECK(pool_reserve(&p, 5));
    pool_give(&p, pool_take(&p));
}
