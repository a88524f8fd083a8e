/* Commands or a script on files without a screen: squill --do 'COMMANDS' FILE…, squill --script FILE FILE… */
#ifndef BATCH_H
#define BATCH_H

#include "kinds/kinds.h"

#include <stdbool.h>

typedef struct BatchWish {
    const char *commands; /* separated by ';' or line ends; NULL: a script */
    const char *script;   /* its bytes */
    size_t script_length;
    const char *script_name;
    size_t jobs;      /* how many files at the same time; 0: as many as there are processors */
    const Kind *kind; /* of all files; NULL: as they are */
    bool dry;         /* write nothing, show the differences as a patch */
    bool strict;      /* treat "not found" as failure */
    bool plain, look;
    const char *below; /* a folder whose text files are worked on too, or NULL */
} BatchWish;

/* Runs the commands on each file and reports on standard output, a line for each file; what went wrong goes
 * to standard error. "-" is standard input, and what comes of it goes to standard output. A file for which a
 * command fails is left as it is. Returns the exit status: 0, or 1 when anything failed. */
int batch_run(char **files, int n, const BatchWish *w);

#endif
