/* One editor: what each room keeps of it, brought together for those who show and do things. Each part
 * belongs to the room whose type it is; the pointers at the end are the features' own, which nobody else
 * looks into. */
#ifndef EDITOR_H
#define EDITOR_H

#include "base/notices.h"
#include "base/stop.h"
#include "config/config.h"
#include "edit/shelf.h"
#include "frame/theme.h"
#include "session/session.h"
#include "ui/layer.h"
#include "ui/spots.h"
#include "view/jumps.h"
#include "view/matches.h"
#include "view/showing.h"

/* What the screen side is asked to do; it takes each request back when that is done. */
typedef struct HostRequests {
    bool discard_input;   /* forget typed-ahead input */
    bool redraw;          /* paint everything again */
    bool send_clip;       /* give the newest clip to the system's clipboard */
    bool fetch_clip;      /* fetch the system's clipboard and call app_fetched */
    bool fetching;        /* that has begun, and is not there yet */
    bool suspend;         /* stop the program until it is continued */
    bool shell;           /* give the terminal to a shell, and call app_returned after it */
    FileId check_as_root; /* ask its checkers that work for root only; 0: nothing */
    bool leave;           /* end, with this status: */
    int exit_status;
} HostRequests;

typedef struct RunningCommand {
    const Command *now, *before; /* the one that runs, and the one that ran before; or NULL */
    Key key;                     /* that was pressed last */
    bool marks;                  /* Shift is held: what moves marks */
    size_t place, places;        /* it runs at this one of so many cursors; 0: there is but one */
    /* For those who press keys or run commands on a person's behalf; reset by them: */
    bool declined; /* what was wanted cannot be done here */
    bool at_end;   /* there was nothing further that way, or a search began again from the other end */
} RunningCommand;

/* Times in milliseconds on a clock that never goes back. */
typedef struct Clock {
    uint64_t now;       /* of the input that is being handled */
    uint64_t last_key;  /* when a key came last */
    uint64_t marks_due; /* when lines are next compared with the last save; 0: never */
} Clock;

typedef struct Editor {
    Session *session;
    Config config;
    Panes panes;
    Jumps jumps;
    Matches matches;
    Shelf shelf;
    Notices notices;
    Layer *layer;       /* the uppermost of what lies over the text; NULL: plain text */
    SeenBefore before;  /* the first of them came */
    const Strip *strip; /* what stands above the status line; NULL: nothing */
    EscTimes esc;
    Frame frame;
    Spots spots; /* of the last painting */
    const Theme *theme;
    bool bare; /* nothing but the text is shown */
    bool overtype;
    bool recording; /* keys are recorded */
    bool burst; /* the keys came many at once: text among them is a paste, of a terminal that does not say so
                 */
    Clock clock;
    HostRequests host;
    Stop stop; /* asked by what takes long */
    RunningCommand running;
    struct Folders *folders;          /* see folders.h */
    struct Typing *typing;            /* see commands/edits.h */
    struct Clips *clips;              /* commands/clips.h */
    struct Search *search;            /* commands/search.h */
    struct FolderFind *folder_find;   /* commands/search/folder_list.h */
    struct OnTrial *on_trial;         /* commands/file/trial_save.h */
    struct SinceCommit *since_commit; /* commands/file/since_commit.h */
    struct Watching *watching;        /* commands/watching.h */
    struct Growing *growing;          /* commands/growing.h */
    struct Lesson *lesson;            /* commands/lesson.h */
    struct Recorder *recorder;        /* commands/recording.h */
    struct Looking *hiding;           /* commands/view/hiding_lines.h; NULL: nothing is looked for */
    struct Gathering *spelling;       /* commands/tools/spelling.h; NULL: no words are looked up */
    struct SameSearch *same;          /* commands/mark/many.h; NULL: nothing is looked for */
    struct Checks *checks;            /* commands/problems.h */
    struct Manual *manual;            /* commands/manual.h */
    struct KeptAll *kept;             /* commands/kept.h */
    struct Player *player;            /* commands/playing.h */
    struct Script *script;            /* script/engine.h */
    struct Pointer *pointer;          /* app/pointer.h */
    struct AppState *app;             /* app/app.h */
    /* Does what that key or paste does, as if a person had pressed it; set by app. */
    void (*press)(struct Editor *ed, const Input *in);
} Editor;

void say(Editor *ed, const char *format, ...) __attribute__((format(printf, 2, 3)));
/* The same when what was wanted cannot be done here: playing keys stops. */
void decline(Editor *ed, const char *format, ...) __attribute__((format(printf, 2, 3)));
void warn(Editor *ed, const char *format, ...) __attribute__((format(printf, 2, 3)));

/* Shows a file in the pane with the cursor; a page of help gives way. */
void editor_show(Editor *ed, OpenFile *f);
/* Opens a path (or shows the text that has it already), and says what the person should know of it. False
 * with the reason in e. */
bool editor_open(Editor *ed, const char *path, Err *e);

/* Cells that a line of the text may be wide: as the person, .editorconfig or the kind has it. */
unsigned editor_text_width(const Editor *ed, const OpenFile *f);

#endif
