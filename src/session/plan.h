/* What a person wants done with files, as it stands: each plan is gone through again from its beginning
 * whenever something happened, and finds out what is still in its way. So nothing that was true a moment ago
 * is relied on: an answer counts only for what it spoke of (this version of the text, that version on disk).
 */
#ifndef PLAN_H
#define PLAN_H

#include "session/session.h"

typedef enum PlanKind {
    PLAN_SAVE, /* with a path: under that name */
    PLAN_RENAME,
    PLAN_RELOAD,
    PLAN_CLOSE,
    PLAN_SAVE_EVERY,
    PLAN_LEAVE,
} PlanKind;

/* What it needs to know. */
typedef enum AskFor {
    ASK_NOTHING,
    ASK_NAME,
    ASK_REPLACE,  /* there is a file of that name */
    ASK_DISK,     /* the file is not as it was read, see `news` */
    ASK_NEWLINE,  /* its last line has none */
    ASK_MARKED,   /* lines of it are marked as changed by both sides of a merge */
    ASK_FOLDER,   /* its folder is not there */
    ASK_PROBLEMS, /* its checkers found some */
    ASK_ROOT,     /* only root may write it */
    ASK_UNSAVED,  /* closing or leaving would lose changes */
    ASK_RELOAD,   /* so would reloading */
} AskFor;

typedef enum Answer {
    ANSWER_NO,
    ANSWER_YES,
    ANSWER_NAME,
    ANSWER_SAVE,
    ANSWER_DROP,
    ANSWER_SAVE_ALL,
    ANSWER_DROP_ALL,
    ANSWER_RELOAD,
    ANSWER_AGAIN
} Answer;

typedef enum PlanState { PLAN_READY, PLAN_WAITS, PLAN_ASKS, PLAN_FOR_ROOT } PlanState;

typedef struct Plan {
    unsigned number; /* never given twice */
    unsigned parent; /* the plan that waits for this one, or 0 */
    PlanKind kind;
    PlanState state;
    FileId file;
    char *path;   /* the name to be given, or NULL */
    char *folder; /* of ASK_FOLDER */
    Encoding as;
    bool read_as; /* for reloading: in that encoding */
    AskFor ask;
    bool asked;     /* somebody shows the question */
    DiskNews news;  /* of ASK_DISK */
    DiskState seen; /* what that, or ASK_REPLACE, speaks of */
    /* what was agreed to: this state of what lies on disk; this version (from 1) of the text */
    bool may_replace;
    DiskState replace;
    unsigned long newline_settled, reload, problems;
    bool by_root, make_folder;
    bool denied;         /* its machine said so */
    bool writes, waited; /* it is being written; something else had to end first */
    bool told;           /* those who may stop a save were asked */
    bool ask_name;       /* even if there is one, which is offered */
    unsigned children, tries, checks;
    /* what was asked of disks on this way through; an answer counts for one */
    Errand **errands;
    size_t n_errands;
    Session *session;
    Task waiting; /* while an answer is awaited */
    bool is_waiting, impatient;
    uint64_t since; /* ms, when it began to wait */
    unsigned lost;  /* times that the machine with the file was out of reach, */
    uint64_t again; /* and when to try again (ms), 0: not */
} Plan;

/* Begins a plan and goes as far as possible. `path` may be NULL; so may `as`. */
void plan_begin(Session *s, PlanKind kind, FileId file, const char *path, const Encoding *as);
/* To another name, which is asked for. */
void plan_save_as(Session *s, OpenFile *f);
/* Reloads; the caller knows what that takes away. */
void plan_reload_now(Session *s, OpenFile *f);
/* Does saving this file wait for its machine to be within reach again? */
bool plan_is_cut_off(const Session *s, const OpenFile *f);
/* Goes on with all that can. */
void plans_step(Session *s);
/* A question that nobody shows yet, or NULL; and one by its number. */
Plan *plan_asking(const Session *s);
Plan *plan_numbered(const Session *s, unsigned number);
/* ANSWER_NO: nothing is done. ANSWER_AGAIN: ask again, if it is still to be asked. ANSWER_NAME: `text`,
 * or another one, which is to be asked for (NULL). */
void plan_answer(Session *s, unsigned number, Answer a, const char *text);
/* Whatever was still to be asked is answered by ANSWER_NO. */
void plans_ask_no_more(Session *s);
/* What root's helper is to do, or NULL; then how that went. */
Plan *plan_for_root(const Session *s);
void plan_root_done(Session *s, unsigned number, bool ok, const char *why);
void plans_free(Session *s);

/* Would this lose something, if it were closed now? */
bool plan_would_lose(const OpenFile *f);

#endif
