/* The editor's state, shared by the files of this room, and the few calls by which
 * the screen side drives it: input in, a Frame out. */
#ifndef EDITOR_H
#define EDITOR_H

#include "bytes.h"
#include "commands.h"
#include "decode.h"
#include "doc.h"
#include "encoding.h"
#include "err.h"
#include "find.h"
#include "form.h"
#include "frame.h"
#include "inuse.h"
#include "journal.h"
#include "kinds.h"
#include "layer.h"
#include "load.h"
#include "rules.h"
#include "settings.h"
#include "shelf.h"
#include "store.h"
#include "theme.h"

/* One text that is open, whether or not it has a file yet. */
typedef struct OpenFile {
    Doc *doc;
    char *path; /* full; NULL while it has no name */
    DiskState disk;
    Form form;
    Encoding encoding;
    Rules rules;       /* what .editorconfig asks for */
    bool form_changed; /* it will be written in another form than it has on disk */
    const Kind *kind;
    bool look_only;
    bool unsettled;      /* it was just opened: what a slow disk may know of it is still to be asked */
    unsigned long shown; /* grows each time a text is shown */
    struct Saver *saver; /* it is being written, see saving.c; NULL: it is not */
    size_t saver_state;  /* the state of the document that is */
    bool save_again;     /* it was asked for once more meanwhile */
    bool saver_fresh;    /* there was no file before */
    void (*saver_then)(Editor *);
    char *former_path; /* while it is written under another name: the one that comes back if that fails, */
    DiskState former_disk;        /* and what was there */
    bool renaming;                /* it is (former_path may be NULL) */
    struct Loader *loader;        /* reads the rest of it; NULL: all is there */
    bool incomplete;              /* reading was stopped or failed: it must not be saved */
    size_t wanted, wanted_column; /* the line (from 1) to go to when it is there, see loading.c */
    /* recovery, see recovery.c */
    int64_t journal_id; /* 0: not in the journal */
    Text journaled;     /* the version that is */
    unsigned long journal_version;
    uint64_t journal_since; /* when the first change came that is not, ms; 0: all is */
    unsigned journal_keys;
    size_t journal_bytes;
    int64_t offered; /* work of an earlier run to be asked about, 0: none */
    long long offered_when;
    char offered_from[64]; /* the machine, if it is not this one */
    bool unkept;           /* it changed too much at once to be kept for recovery; until it is saved */
    InUse in_use;
    InUseBy used_by; /* who has it open, if `used` */
    bool used;
    struct stat told, told_st; /* the version on disk that was told of; that which is asked about */
    bool told_gone;
    bool dropped;       /* its changes were given up while leaving */
    size_t cursor, top; /* where it was left when another one was shown */
    struct Place *bookmarks;
    struct Bars *bars; /* see bars.h */
    struct Page *page; /* what makes it a help page, or NULL; see pages.h */
} OpenFile;

typedef struct Place Place; /* see places.h */

typedef enum MarkKind { MARK_NONE, MARK_SHIFT, MARK_KEY } MarkKind;

/* A place in a file and the part of the screen that shows it. */
typedef struct View {
    OpenFile *file;
    Anchor cursor, top, mark; /* top: start of the first line shown */
    MarkKind marking;
    size_t goal; /* cells that vertical movement aims at */
    bool goal_kept;
    size_t left;                            /* cells scrolled out at the left */
    bool wrap;                              /* long lines go on in the next row */
    bool columns;                           /* the mark is a block of columns */
    size_t tab;                             /* cells from one tab stop to the next */
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

typedef struct Message {
    char text[512];
    bool warning;
    uint64_t since;
    uint64_t clear_at; /* 0: stays until the next key */
} Message;

struct Editor {
    OpenFile **files;
    size_t n_files;
    unsigned long shown;        /* how often a text was shown */
    void (*then_all)(Editor *); /* what follows once every file is saved */
    OpenFile *parting;          /* what is closed once it is saved, or NULL */
    struct Pane *panes;         /* see panes.h */
    View *view;                 /* of the pane with the cursor; never NULL */
    Layer *layer;               /* the uppermost of what lies over the text; NULL: plain text */
    Message message;
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
    char *practice_folder;         /* where copies of the sample files lie, or NULL */
    OpenFile *before_page;         /* the text under a help page */
    Layer *under_page;             /* the layers that lay over it */
    struct Search *search;         /* NULL: nothing was looked for yet */
    size_t search_from, search_to; /* what was marked when the search began; equal: nothing */
    struct Match match_now;        /* the match that was gone to */
    struct Place **places;         /* where one was before a jump, the oldest first */
    size_t n_places, place;        /* place: the one gone back to; n_places: none */
    /* the last paste, which "earlier clip" exchanges */
    unsigned long pasted_version;
    size_t pasted_clip;
    const Command *running, *before; /* the present and the last command */
    Settings settings;
    char *setting_sources[SETTINGS_COUNT]; /* NULL: the standard */
    Bytes problems;                        /* what was wrong in the files of settings and keys, a line each */
    OwnRoute *routes;
    size_t n_routes;
    Store *store;         /* NULL while not needed yet, or not to be had */
    Journal *journal;     /* the same, */
    Err journal_why;      /* and why not, until that is told */
    bool journal_told;    /* that work cannot be kept for recovery at the moment */
    uint64_t journal_due; /* before that it is not tried to open it */
    bool plain, store_tried;
    Shelf shelf;
    Spot spots[SPOTS_MAX]; /* of the last painting */
    size_t n_spots;
    bool gathering;     /* the newest clip holds lines and may take in more */
    unsigned lost_told; /* how often the way out was named after a leaving reflex */
    bool bare;          /* nothing but the text is shown */
    bool overtype;
    bool burst;          /* the keys came many at once: a paste from a terminal that does not say so */
    OpenFile *pasting;   /* a paste into it comes in parts, which are one step; or NULL */
    bool discard_input;  /* the screen side shall forget typed-ahead input */
    bool redraw;         /* it shall paint everything anew */
    bool send_clip;      /* it shall give the newest clip to the system's clipboard */
    bool fetch_clip;     /* it shall fetch the system's clipboard and call editor_fetched */
    bool suspend;        /* it shall stop the program until it is continued */
    OpenFile *root_save; /* it shall have root save this one, and call editor_root_saved; NULL: none */
    void (*root_then)(Editor *); /* what follows that */
    bool shell;         /* it shall give the terminal to a shell, and call editor_returned after it */
    bool batch;         /* there is no screen and nobody to ask */
    bool dry_run;       /* saving writes nothing */
    bool leaving;       /* it shall end */
    bool painted;       /* the first screen was laid out */
    bool unsettled;     /* a file was opened, and editor_settle is due; */
    bool seen;          /* and its text was laid out */
    bool looking_ahead; /* there is more to count of a long line */
    int exit_status;
};

/* ---- for the screen side and main ---- */

Editor *editor_new(void);
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
/* What root shall write for ed->root_save, as bytes of the file; false when it cannot be had. Then, how
 * that went. */
bool editor_root_text(Editor *ed, Text *bytes);
void editor_root_saved(Editor *ed, bool ok, const char *why);
/* The terminal is ours again after a shell had it: other files may have changed. */
void editor_returned(Editor *ed);
/* Lays out the screen; the Frame stays the editor's. */
const Frame *editor_paint(Editor *ed);

/* Closes everything that lies over the text and drops the mark, as Esc Esc does. */
void editor_plain_text(Editor *ed);
/* Presses keys given by their written names, such as "Esc f s". */
void editor_press(Editor *ed, const char *keys);
/* The store of what is remembered, opened at the first call; NULL when there is none. */
Store *editor_store(Editor *ed);

/* ---- messages on the status line ---- */

void say(Editor *ed, const char *format, ...) __attribute__((format(printf, 2, 3)));
void warn(Editor *ed, const char *format, ...) __attribute__((format(printf, 2, 3)));

/* ---- open files (openfile.c) ---- */

/* Opens a path (or shows the text that has it already). False with the reason in e. */
bool editor_open(Editor *ed, const char *path, Err *e);
/* What is asked of the state folder for texts just opened: their undo history, work to be recovered, who
 * else has them. Done when they are on the screen, as a disk may be slow, but before the next key. */
void editor_settle(Editor *ed);
/* Adds a text without a name; takes over `t`. */
OpenFile *editor_add(Editor *ed, Text t);
void editor_show(Editor *ed, OpenFile *f);
/* Closes a text without asking; another one must be shown by then. */
void editor_forget(Editor *ed, OpenFile *f);
/* The name for messages: the last part of the path, or "this text". */
const char *file_name(const OpenFile *f);
/* Has it changes that are not on disk, in its text or its form? */
bool file_changed(const OpenFile *f);
/* Has its file changed on disk since we read or wrote it? */
DiskNews file_news(OpenFile *f);
/* Finds out the kind of file, and what .editorconfig asks for it. */
void file_recognise(OpenFile *f);
void file_rules(Editor *ed, OpenFile *f);
/* Takes what is on disk in place of the text, as a step that can be undone. */
bool editor_reload(Editor *ed, OpenFile *f);
/* The same, taking the file's bytes to be in another encoding. */
bool editor_reload_as(Editor *ed, OpenFile *f, const Encoding *x);
/* Puts in its place whatever was shown before it, closes it without asking, and says so. */
void editor_close(Editor *ed, OpenFile *f);
/* Stores what can be undone in a file, where that is wanted and allowed. */
void editor_keep_history(Editor *ed, OpenFile *f);
/* Asks about every changed text, then ends the program. */
void editor_leave(Editor *ed);
/* Asks if the text is changed, then closes it. */
void editor_ask_close(Editor *ed, OpenFile *f);
/* The same for reloading. */
void editor_ask_reload(Editor *ed, OpenFile *f);

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
/* Words for an amount: "3 lines", "1 character". Valid until the eighth call from now. */
const char *amount(size_t n, const char *unit);

/* ---- painting (paint.c) ---- */

void paint_all(Editor *ed, Frame *f);
/* The hints that apply now; returns how many. */
size_t hints_now(Editor *ed, Hint *out);

#endif
