/* Keeping a program that reads a person's text from doing what the text may tell it to: it writes in one
 * folder only, executes nothing but itself, connects nowhere, changes no rights, and has root's powers no
 * more. Linux only (landlock(7), seccomp(2), capabilities(7)); elsewhere nothing can be kept from anything.
 */
#ifndef FENCE_H
#define FENCE_H

#include <stdbool.h>

typedef struct Fence {
    const char *program; /* full path */
    const char *folder;  /* where it may write, or NULL: nowhere */
    bool powers;         /* it keeps root's, as it works for root only */
    bool writes;         /* it may write wherever its user may */
    bool binds;          /* it may take ports to listen at */
    unsigned seconds;    /* of processor time */
    int rules;           /* private: a descriptor */
} Fence;

/* Does this system have one? */
bool fence_is_possible(void);
/* Makes it, before fork(); what it points to must stay until fence_free. False with errno. */
bool fence_make(Fence *f);
/* In the child, before execve(): from then on it holds. False: it does not, nothing may be executed. */
bool fence_enter(const Fence *f);
void fence_free(Fence *f);

#endif
