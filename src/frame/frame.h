/* A Frame is a picture of the screen: a grid of styled cells and a cursor. It is all
 * that the app shows and all that the screen side needs to know. */
#ifndef FRAME_H
#define FRAME_H

#include "base/bytes.h"
#include "base/glyph.h"

typedef enum Style {
    ST_TEXT,
    ST_BAR,     /* top line */
    ST_BAR_KEY, /* a menu title's letter while the bar is awake */
    ST_BAR_NOW, /* the title that is chosen */
    ST_STATE,   /* "changed" and its like */
    ST_GUTTER,
    ST_GUTTER_NOW, /* the number of the cursor's line */
    ST_CHANGED,    /* the bar at changed lines */
    ST_ESCAPE,     /* what stands for bytes that cannot be shown */
    ST_MARK,
    ST_CURSOR, /* one of many, but the terminal's own */
    ST_MATCH,
    ST_MATCH_NOW,
    ST_STATUS,
    ST_STATUS_OTHER, /* of a pane without the cursor */
    ST_MESSAGE,
    ST_WARNING,
    ST_PROMPT, /* the label of a prompt or question */
    ST_HINT,
    ST_HINT_KEY,
    ST_BOX, /* menus and panels */
    ST_BOX_KEY,
    ST_BOX_NOW, /* the chosen entry */
    ST_BOX_DIM,
    ST_BOX_TITLE,
    ST_OLD, /* in differences: removed lines, and the words of them that differ; added ones */
    ST_OLD_PART,
    ST_NEW,
    ST_NEW_PART,
    ST_COMMENT, /* what a piece of a text is, by its kind of file */
    ST_QUOTED,
    ST_NUMBER,
    ST_KEYWORD,
    ST_NAME,
    ST_VALUE,
    ST_SECTION,
    ST_SIGN,
    ST_VARIABLE,
    ST_COMMAND,
    ST_ADDED,
    ST_REMOVED,
    ST_WRONG,
    ST_DOUBTFUL, /* what a hint is about */
    ST_PARTNER,  /* the bracket that belongs to the one at the cursor */
    ST_COUNT
} Style;

typedef struct Cell {
    uint32_t codes[GLYPH_MAX_CODES];
    uint8_t n_codes;
    uint8_t width; /* 1 or 2; 0: the right half of the cell before */
    uint8_t style; /* a Style */
} Cell;

typedef struct FrameRow {
    uint64_t
        written;   /* the number of the last write to it: a row left alone is known without looking at it */
    Bytes source;  /* what it was painted from, */
    uint64_t kept; /* and the last write of that */
} FrameRow;

typedef struct Frame {
    int rows, cols;
    Cell *cells;
    FrameRow *lines;            /* of each row */
    uint64_t writes;            /* so many there were */
    int cursor_row, cursor_col; /* cursor_row < 0: no cursor */
    bool ascii;                 /* the terminal shows ASCII only */
    int status_row;             /* where the status line is, which prompts share */
} Frame;

void frame_resize(Frame *f, int rows, int cols);
void frame_free(Frame *f);
/* Blanks columns [from, to) of a row. Everything outside the frame is ignored, here and below. */
void frame_blank(Frame *f, int row, int from, int to, Style style);
/* Puts what fits of a glyph before column `limit`; returns the column after it. */
int frame_glyph(Frame *f, int row, int col, int limit, const Glyph *g, Style style);
/* Puts a UTF-8 string and returns the column after it; a string that does not fit
 * ends with an ellipsis. Without UTF-8, our own signs become ASCII ones. */
int frame_text(Frame *f, int row, int col, int limit, Style style, const char *s);
/* Reads a glyph of a one-line string: tabs and line ends are escapes there. */
void frame_read(const char *s, size_t n, Glyph *g);
/* Writes a string into several rows, broken at blanks where it can be, up to `rows` of them; the last one
 * ends with an ellipsis if there is more. How many rows all of it takes. */
int frame_wrapped(Frame *f, int row, int col, int limit, int rows, Style style, const char *s);
/* Cells that frame_text takes for a string. */
int frame_width(const Frame *f, const char *s);
/* Changes the style of cells that are painted already. */
void frame_restyle(Frame *f, int row, int from, int to, Style style);
const Cell *frame_cell(const Frame *f, int row, int col);

/* A row that costs much to paint is kept: `source` are bytes that tell all it is painted from, not empty.
 * Does the row still show what was painted from the same? Any other write to it ends that. */
bool frame_kept(const Frame *f, int row, const Bytes *source);
/* Says, after painting it, what a row was painted from. */
void frame_keep(Frame *f, int row, const Bytes *source);

#endif
