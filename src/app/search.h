/* Finding and replacing as a person does it: the prompts, what is shown in the text. */
#ifndef SEARCH_H
#define SEARCH_H
#include "app/editor.h"
#include "edit/find.h"

struct Ask;

/* A search under way. Long ones go on in steps while keys are served. */
typedef struct Seek {
    bool active, back, wrapped;
    size_t origin, at; /* where it began, how far it is */
    FileId file;
    unsigned long version;
    struct Ask *ask; /* the prompt that waits for it, or NULL */
} Seek;

typedef struct Search {
    Finder *finder; /* of the last search; NULL: none yet */
    char *what;
    FindCase letters;
    bool words, expression, in_mark;
    bool follow; /* a replacement takes the letter case of what was found */
    Seek seek;
    bool shown; /* matches are marked in the text */
    /* counting in the background */
    Text counted; /* the version that is counted; its root is only compared */
    unsigned long version;
    size_t count_at, count_end, count, before; /* before: matches in front of the cursor's */
    size_t cursor, count_begin;
    size_t gap_at,
        gap_end; /* the cursor moved: matches begin here that are before it now, or are not any more */
    bool gap_back;
    bool counting, complete;
} Search;

/* Opens the find prompt, forward or back. `what`: to begin with, or NULL for the last one. */
void search_ask(Editor *ed, bool back, const char *what);
/* Goes to the next match or the one before, without a prompt. */
void search_again(Editor *ed, bool back);
void search_replace_ask(Editor *ed, const char *args);
/* "[-x] [-w] [-i] OLD NEW": all at once; -x expression, -w whole words, -i any letter case. */
void search_replace_all(Editor *ed, const char *args);
/* Lists the lines that match, in this text or in all that are open. */
void search_list(Editor *ed, bool everywhere);
/* Searches on for a moment; true while it is under way. */
bool search_seek_on(Editor *ed);
/* Counts on for a moment; true while there is more to count. */
bool search_count_on(Editor *ed);
/* The matches to be shown begin here; false when there is nothing to show from `from` on. */
bool search_match_from(Editor *ed, size_t from, size_t end, Match *m);
/* "2 of 7", "3 of 14+", or nothing. */
void search_note(Editor *ed, Bytes *out);
void search_free(Editor *ed);

#endif
