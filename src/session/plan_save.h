/* How a plan saves a text: one look after the other at what stands in the way, and then the writing. */
#ifndef PLAN_SAVE_H
#define PLAN_SAVE_H

#include "session/plan.h"

enum { PLAN_TRIES = 10 /* to write what others write at the same time */ };

/* What a step of a plan came to. */
typedef enum Step {
    STEP_DONE,
    STEP_ENDED, /* it cannot be done, or nobody wants it any more */
    STEP_WAITS, /* for what goes on in the background, or for a plan of its own */
    STEP_ASKS,
    STEP_ROOT,
    STEP_AGAIN, /* things are not as they were: from the beginning */
} Step;

/* The plan waits for an answer. */
Step plan_ask(Plan *p, AskFor what);
/* Has a disk do something, or finds that it was done on this way through. STEP_DONE: *out is what came of it.
 * STEP_WAITS: it is not done yet. */
Step plan_errand(Plan *p, const Errand *what, const Errand **out);
/* What there is at a path. STEP_ENDED: that cannot be known, which was reported. */
Step plan_look(Session *s, Plan *p, const char *path, const Seen **out);
/* The machine that has the file is out of reach: the plan goes through all of it again after a while. */
Step plan_later(Session *s, Plan *p);
/* The machine with the file lets only others write it: root is asked next. False: root was. */
bool plan_denied(Session *s, Plan *p, const OpenFile *f);
/* How the file differs from what is known of it, having seen that. STEP_WAITS: its bytes are compared. */
Step plan_news(Plan *p, OpenFile *f, const Seen *there, DiskNews *news);
/* What is in the way of the plan's name, at which that was seen. STEP_DONE: nothing is. */
Step plan_check_name(Session *s, Plan *p, const OpenFile *f, const Seen *there);
/* A save under way goes first; `then`: what follows it, for the person. */
Step plan_wait_for_writing(Session *s, Plan *p, OpenFile *f, const char *then);
/* Goes on with saving the text, under the plan's name if it has one. */
Step plan_save_step(Session *s, Plan *p, OpenFile *f);
/* Ends the last line. */
void plan_add_newline(Session *s, OpenFile *f);

#endif
