/* What is kept with an open file by those who show it. */
#ifndef SHOWN_H
#define SHOWN_H

#include "session/openfile.h"

typedef struct Shown {
    unsigned long turn;           /* grows each time it is shown */
    size_t tab;                   /* cells from one tab stop to the next, where .editorconfig does not say */
    size_t cursor, top;           /* where it was left when another one was shown */
    char on_trial[24];            /* how long it is on trial yet; "": it is not */
    bool follow;                  /* it is to be followed as soon as it is read */
    size_t fresh;                 /* matches that came while it was followed, since the last key */
    bool led;                     /* somebody said where in it to go */
    size_t wanted, wanted_column; /* the line (from 1) to go to when it is there, see wanted.h */
    Text since;                   /* what the bars at changed lines compare with, */
    bool has_since;               /* if it is not the last save; */
    bool since_asked;             /* it was looked for, or is being */
    struct Bookmark *bookmarks;
    struct ChangeMarks *change_marks;
    struct Colours *colours;
} Shown;

/* Attaches one to a file. */
void shown_begin(OpenFile *f, size_t tab);
/* Frees it; bookmarks and change marks must be gone. */
void shown_end(OpenFile *f);

#endif
