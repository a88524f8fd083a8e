/* The open files, and everything that goes on with them at the same time: reading, saving, closing, leaving,
 * renaming, recovering. It shows nothing and asks nobody: what a person must decide stands in a plan (plan.h)
 * as a question, until it is answered or no longer true. Main thread only. */
#ifndef SESSION_H
#define SESSION_H

#include "base/notices.h"
#include "base/stop.h"
#include "base/task.h"
#include "kept/journal.h"
#include "files/save.h"
#include "kept/store.h"
#include "session/openfile.h"

typedef enum CheckBefore { CHECK_NOTHING, CHECK_RISKY, CHECK_ALL } CheckBefore;
typedef enum LastNewline { NEWLINE_KEEP, NEWLINE_ASK, NEWLINE_ADD } LastNewline;

/* What the settings and the command line say. */
typedef struct SessionRules {
    bool plain;   /* nothing stored is used or left */
    bool batch;   /* there is nobody to ask */
    bool dry_run; /* nothing on disk is changed */
    bool strict;  /* treat "not found" as failure */
    bool keep_recovery, remember_answers, remember_places, list_lately, keep_undo, keep_private_undo,
        keep_earlier, say_in_use;
    LastNewline last_newline;
    CheckBefore check_before; /* a file is saved */
    char check_on_hosts[256]; /* "all", or those whose own checkers may be asked, with commas between */
    char check_off[256];      /* "all", or kinds and checkers with commas between */
    unsigned check_seconds;   /* that a program may take for it */
    Stop stop;                /* without a screen: asked while something is waited for */
    Backup backup;
    unsigned backup_keep;
    size_t beside_from;     /* bytes from which a text is written while typing goes on */
    char root_program[256]; /* "": sudo or doas */
    char backup_folder[256];
    char in_place[256]; /* files to be written in place: names or patterns, with commas between */
} SessionRules;

/* Those who show the files, or keep something with them, observe the session. Each may be NULL. */
typedef struct SessionEvents {
    void *ctx;
    void (*added)(void *ctx, OpenFile *f);
    void (*closing)(void *ctx, OpenFile *f);            /* for the last time */
    void (*opened)(void *ctx, OpenFile *f);             /* it is all there, and its kind is known */
    bool (*saving)(void *ctx, OpenFile *f);             /* false: it is not to be; why was reported */
    bool (*writing)(void *ctx, OpenFile *f);            /* at the next moment; false: it is not to be */
    void (*checked)(void *ctx, OpenFile *f);            /* the checkers have answered */
    void (*saved)(void *ctx, OpenFile *f);              /* under the name that it has now */
    void (*more)(void *ctx, OpenFile *f);               /* more of it was read */
    void (*look_at)(void *ctx, OpenFile *f, size_t at); /* a place in it that the person must see */
    size_t (*cursor)(void *ctx, const OpenFile *f);     /* where the person is in it, for undo */
} SessionEvents;

typedef struct Session {
    OpenFile **files;
    size_t n_files;
    SessionRules rules;
    SessionEvents *observers;
    size_t n_observers;
    Notices *notices; /* where what happened is reported; the owner's */
    char *practice_folder;
    bool unsettled; /* a file was opened, and session_settle is due */
    bool reading;   /* large files may be read on: the first screen is there */
    bool held;      /* something lies over the texts: none is closed under it */
    bool left;      /* the person left, and nothing stands against it */
    bool woken;     /* work ended, or files went: the plans that wait look again */
    struct Plan **plans;
    size_t n_plans;
    unsigned last_plan;
    FileId last_file;
    Store *store; /* NULL while not needed yet, or not available */
    bool store_tried;
    struct Keeper *keeper;
    struct ManualPages *manual; /* see manual_pages.h */
    InUse in_use;               /* what others see of it */
    Tasks tasks;                /* its own, and those of others that work on the files */
} Session;

/* Calls these from now on, those of later observers before for `closing`, after for the rest. `cursor` is
 * asked of the first who knows. */
void session_observe(Session *s, const SessionEvents *events);

/* The file, or NULL when it was closed. */
OpenFile *session_file(const Session *s, FileId id);

/* Tells the observers, or asks them. */
void session_tell_opened(Session *s, OpenFile *f);
bool session_may_save(Session *s, OpenFile *f);
bool session_may_write(Session *s, OpenFile *f);
void session_tell_saved(Session *s, OpenFile *f);
void session_tell_checked(Session *s, OpenFile *f);
void session_tell_more(Session *s, OpenFile *f);
void session_look_at(Session *s, OpenFile *f, size_t at);
size_t session_cursor(const Session *s, const OpenFile *f);
/* Another open text that has this path, or NULL. */
OpenFile *session_other_with(const Session *s, const OpenFile *f, const char *path);

#endif
