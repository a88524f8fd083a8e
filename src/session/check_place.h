/* Where another program checks a text: a private folder with a copy of it, and the program's words. */
#ifndef CHECK_PLACE_H
#define CHECK_PLACE_H

#include "base/bytes.h"
#include "kinds/judging.h"
#include "text/text.h"

/* Begin with {0}. */
typedef struct CheckPlace {
    char *folder; /* private; the program runs in it */
    char *copies; /* the folder of the copies: that one, or in it */
    char *copy;   /* of the text in it; NULL: that comes by standard input */
    char *words[CHECK_WORDS + 1];
    const char *stands_for; /* whose folder's copy it is */
    char *own_folder;       /* that of the text, or NULL */
} CheckPlace;

/* Makes it; `path` is that of the text or NULL, `bytes` are as they would be saved, `program` is the full
 * path of the program. False with the reason in e. Any thread. */
bool check_place_make(CheckPlace *p, const Check *c, const char *path, Text bytes, const char *program,
                      Stop stop, Err *e);
/* What the program said, with the real folder's name in place of the private one's. */
void check_place_translate(const CheckPlace *p, const Bytes *said, Bytes *out);
/* Removes the folder and frees the rest. */
void check_place_remove(CheckPlace *p);

#endif
