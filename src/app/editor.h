/* The editor's state, shared by the files of this room, and the few calls by which
 * the screen side drives it: input in, a Frame out. */
#ifndef EDITOR_H
#define EDITOR_H
#include "app/commands.h"
#include "app/decode.h"
#include "app/frame.h"
#include "app/layer.h"
#include "app/settings.h"
#include "app/theme.h"
#include "base/bytes.h"
#include "base/err.h"
#include "base/notices.h"
#include "base/words.h"
#include "edit/find.h"
#include "edit/shelf.h"
#include "session/session.h"

#include <signal.h>

typedef struct Place Place; /* see places.h */

typedef enum MarkKind { MARK_NONE, MARK_SHIFT, MARK_KEY } MarkKind;

/* A place in a file (which lives as long as it is shown) and the part of the screen that shows it. */
typedef struct View {
    OpenFile *file;
    Anchor cursor, top, mark; /* top: start of the first line shown */
    MarkKind marking;
    size_t goal; /* cells that vertical movement aims at */
    bool goal_kept;
    size_t left;                            /* cells scrolled out at the left */
    bool wrap;                              /* long lines go on in the next row */
    bool columns;                           /* the mark is a block of columns */
    int row, col, rows, cols;               /* of its text on the screen, gutter included */
    int gutter;                             /* cells of it before the text */
    size_t ahead_line, ahead_to, ahead_tab; /* see view_look_ahead */
} View;

/* Where something clickable was painted. */
typedef struct Spot {
    int row, from, to;
    char keys[KEY_NAME_MAX]; /* what clicking it presses, in words */
} Spot;

enum { SPOTS_MAX = 40 };

struct Editor {
    Session *session;
    unsigned long shown; /* how often a text was shown */
    struct Pane *panes;  /* see panes.h */
    View *view;          /* of the pane with the cursor; never NULL */
    Layer *layer;        /* the uppermost of what lies over the text; NULL: plain text */
    Notices message;
    Keymap keys;
    Frame frame;
    const Theme *theme;
    uint64_t now;      /* of the input that is being handled, ms */
    uint64_t last_key; /* when a key came last */
    uint64_t bars_due; /* when lines shall be compared, 0: not */
    uint64_t last_esc, double_esc;
    uint64_t last_click;
    int clicks, click_row, click_col;
    size_t click_from, click_to; /* what a double or triple click marked */
    bool dragging;
    struct Pane *border;           /* the cut whose border the mouse moves, or NULL */
    struct Run *run;               /* the command that runs, or NULL; see run.h */
    struct Lesson *lesson;         /* NULL: none is going on */
    FileId before_page;            /* the text under a help page */
    Layer *under_page;             /* the layers that lay over it */
    struct Search *search;         /* NULL: nothing was looked for yet */
    size_t search_from, search_to; /* what was marked when the search began; equal: nothing */
    struct Match match_now;        /* the match that was gone to */
    struct Place **places;         /* where one was before a jump, the oldest first */
    size_t n_places, place;        /* place: the one gone back to; n_places: none */
    /* the last paste, which "earlier clip" exchanges */
    FileId pasted_in;
    Text pasted_text; /* as it was right after it */
    size_t pasted_clip;
    const Command *running, *before; /* the present and the last command */
    Settings settings;
    char *setting_sources[SETTINGS_COUNT]; /* NULL: the standard */
    Bytes problems;                        /* what was wrong in the files of settings and keys, a line each */
    OwnRoute *routes;
    size_t n_routes;
    Shelf shelf;
    Spot spots[SPOTS_MAX]; /* of the last painting */
    size_t n_spots;
    bool gathering;     /* the newest clip holds lines and may take in more */
    unsigned lost_told; /* how often the way out was named after a leaving reflex */
    bool bare;          /* nothing but the text is shown */
    bool overtype;
    bool burst;         /* the keys came many at once: a paste from a terminal that does not say so */
    OpenFile *pasting;  /* a paste into it comes in parts, which are one step; or NULL */
    bool discard_input; /* the screen side shall forget typed-ahead input */
    bool redraw;        /* it shall paint everything anew */
    bool send_clip;     /* it shall give the newest clip to the system's clipboard */
    bool fetch_clip;    /* it shall fetch the system's clipboard and call editor_fetched */
    bool suspend;       /* it shall stop the program until it is continued */
    bool shell;         /* it shall give the terminal to a shell, and call editor_returned after it */
    Stop stop;          /* has the person pressed Esc while something takes long? */
    bool leaving;       /* it shall end */
    const volatile sig_atomic_t
        *interrupted;   /* without a screen: set when the person wants it to stop; or NULL */
    bool ending;        /* it does */
    bool painted;       /* the first screen was laid out */
    bool seen;          /* a file that was just opened was laid out: session_settle is due */
    bool looking_ahead; /* there is more to count of a long line */
    int exit_status;
};

/* ---- for the screen side and main ---- */

Editor *editor_new(void);
/* Nothing more is done with it; false, with the reason, when unsaved work could not be kept for recovery. */
bool editor_end(Editor *ed, Err *e);
void editor_free(Editor *ed);
void editor_resize(Editor *ed, int rows, int cols);
void editor_input(Editor *ed, const Input *in, uint64_t now);
/* What the system's clipboard held; `why` not NULL: it could not be read. */
void editor_fetched(Editor *ed, const char *bytes, size_t n, const char *why);
/* What is due by itself; editor_wait: milliseconds until then, -1: nothing. */
void editor_tick(Editor *ed, uint64_t now);
int editor_wait(const Editor *ed, uint64_t now);
/* What else to wait for beside the keyboard, EDITOR_FDS at most; returns how many. Then call
 * editor_tick. */
struct pollfd;
enum { EDITOR_FDS = 8 };
size_t editor_fds(const Editor *ed, struct pollfd *out);
/* The program ends by a failure: lets the journal finish what it has. For signal handlers. */
void editor_emergency(const Editor *ed);
/* What root's helper shall write; false when nothing is to be written by it. Then, how that went; it frees
 * what the wish holds. */
typedef struct RootWish {
    unsigned plan;
    char *path;
    Text bytes;
    DiskState only;
    SaveWish wish;
} RootWish;
bool editor_root_begin(Editor *ed, RootWish *out);
void editor_root_end(Editor *ed, RootWish *w, bool ok, const char *why);
/* The terminal is ours again after a shell had it: other files may have changed. */
void editor_returned(Editor *ed);
/* Lays out the screen; the Frame stays the editor's. */
const Frame *editor_paint(Editor *ed);

/* Closes everything that lies over the text and drops the mark, as Esc Esc does. */
void editor_plain_text(Editor *ed);
/* Presses keys given by their written names, such as "Esc f s". */
void editor_press(Editor *ed, const char *keys);
/* ---- messages on the status line ---- */

void say(Editor *ed, const char *format, ...) __attribute__((format(printf, 2, 3)));
void warn(Editor *ed, const char *format, ...) __attribute__((format(printf, 2, 3)));

/* ---- open files (shown.c) ---- */

/* Opens a path (or shows the text that has it already). False with the reason in e. */
bool editor_open(Editor *ed, const char *path, Err *e);
/* Adds a text without a name; takes over `t`. */
OpenFile *editor_add(Editor *ed, Text t);
void editor_show(Editor *ed, OpenFile *f);

/* ---- the view (view.c) ---- */

void view_show(View *v, OpenFile *f);
void view_leave(View *v); /* before its file is closed */
Text view_text(const View *v);
size_t view_tab(const View *v);
/* Lines as people count them: the place behind the last newline is one only while the
 * cursor stands there. */
size_t view_lines(const View *v);
/* The place in the text that is shown at a row and column of the screen, or next to it. */
size_t view_place_at(const View *v, int row, int col);
void view_scroll(View *v, long lines);
/* Moves the cursor; forgets the column that vertical movement aims at. */
void view_go(View *v, size_t at);
/* Line and column from 0, column in characters; returns false if it had to stop short. */
bool view_go_line(View *v, size_t line, size_t column);
void view_vertical(View *v, long lines);
/* Counts some of the cursor's line, if that is a very long one, for some milliseconds, so that going to its
 * end later is no matter. True while there is more to count. */
bool view_look_ahead(View *v);
/* Scrolls so that the cursor can be seen. */
void view_follow(View *v);
void view_centre(View *v);
/* The marked bytes; false when there are none. */
bool view_marked(const View *v, size_t *from, size_t *to);
void view_drop_mark(View *v);

/* ---- changing the text (edits.c) ---- */

/* Replaces bytes by others and puts the cursor behind them; says so when memory is short
 * or the text may not be changed, and returns false. */
bool edit_replace(Editor *ed, size_t at, size_t removed, const void *bytes, size_t n, StepKind kind);
/* What typing does: replaces the mark, overtypes if that is on. */
void edit_type(Editor *ed, const char *bytes, size_t n);
/* Literal text from the terminal or elsewhere, one step; its line ends become those of the file. */
void edit_paste(Editor *ed, const char *bytes, size_t n, bool goes_on);
/* Something else came: what was pasted so far is a step. */
void edit_paste_ends(Editor *ed);
bool edit_allowed(Editor *ed);
/* Removes the mark if there is one. */
bool edit_delete_mark(Editor *ed);
/* The commands behind cut and copy: the mark, or with none the line. */
void clip_copy(Editor *ed, bool cut);
void clip_paste(Editor *ed, unsigned count);
/* After a paste: exchanges what was pasted for the clip before it. */
void clip_earlier(Editor *ed);
void clip_forget(Editor *ed);

/* ---- painting (paint.c) ---- */

void paint_all(Editor *ed, Frame *f);
/* The hints that apply now; returns how many. */
size_t hints_now(Editor *ed, Hint *out);

#endif
