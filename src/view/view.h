/* A view: a place in a file and the part of the screen that shows it. */
#ifndef VIEW_H
#define VIEW_H

#include "frame/frame.h"
#include "session/openfile.h"

typedef enum MarkKind { MARK_NONE, MARK_SHIFT, MARK_KEY } MarkKind;

/* What a text has that is no file, such as a page of help: a title and looks of its own. */
typedef struct Looks {
    const char *title;                       /* NULL: it is a file like others */
    Style (*at)(const void *ctx, size_t at); /* of the byte at `at` */
    const void *ctx;
} Looks;

typedef struct View View;

struct View {
    OpenFile *file; /* which lives as long as it is shown */
    Looks looks;
    Anchor cursor, top, mark; /* top: start of the first line shown */
    MarkKind marking;
    size_t goal; /* cells that vertical movement aims at */
    bool goal_kept;
    size_t left;                            /* cells scrolled out at the left */
    bool wrap;                              /* long lines go on in the next row */
    bool columns;                           /* the mark is a block of columns */
    bool away;                              /* looked at elsewhere by the wheel: the cursor need not show */
    int row, col, rows, cols;               /* of its text on the screen, gutter included */
    struct Around *around;                  /* of what the cursor was in last; see outlining_of_view */
    void (*end_hiding)(View *v);            /* frees that */
    struct Hiding *hiding;                  /* lines that are out of sight; NULL: none are */
    struct Aligned *aligned;                /* a table's cells stand under each other; NULL: they do not */
    void (*end_aligned)(View *v);           /* frees that */
    struct Cursors *cursors;                /* more cursors than one; NULL: no more */
    void (*end_cursors)(View *v);           /* frees them */
    size_t shown_to;                        /* where what was painted last ends */
    int gutter;                             /* cells of it before the text */
    size_t ahead_line, ahead_to, ahead_tab; /* see scroll_look_ahead */
};

/* What a prompt that moves the cursor puts back when it is cancelled. */
typedef struct ViewPlace {
    size_t cursor, top, mark, left;
    MarkKind marking;
    bool columns;
} ViewPlace;

ViewPlace view_place(const View *v);
/* Another text may be shown by then: as near to it as there is. */
void view_restore(View *v, const ViewPlace *to);

/* Shows a file where it was left. */
void view_show(View *v, OpenFile *f);
/* Before its file is closed, or the view is gone. */
void view_leave(View *v);
Text view_text(const View *v);
/* About where what is on the screen ends; not far into a very long line. */
size_t view_end(const View *v);
/* Cells from one tab stop to the next. */
size_t view_tab(const View *v);
/* Lines as people count them: the place after the last newline is none. */
size_t view_lines(const View *v);
/* Is the cursor in the last line that has anything, of the first `len` bytes? */
bool view_at_end(const View *v, size_t len);
/* Moves the cursor; forgets the column that vertical movement aims at. */
void view_go(View *v, size_t at);
/* Line and column from 0, column in characters; returns false if it had to stop short. */
bool view_go_line(View *v, size_t line, size_t column);
/* The marked bytes; false when there are none. */
bool view_marked(const View *v, size_t *from, size_t *to);
void view_drop_mark(View *v);

#endif
