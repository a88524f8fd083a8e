#include "check.h"
#include "sessions.h"
#include "session/session_run.h"
#include "session/session_files.h"

#include <stdlib.h>
#include <unistd.h>

Notices sessions_notices = {.now = 100000};

Session *sessions_start(const SessionEvents *events)
{
    setenv("HOME", check_folder(), 1);
    unsetenv("XDG_STATE_HOME");
    Session *s = session_new(&sessions_notices);
    if (events)
        session_observe(s, events);
    s->rules.keep_recovery = s->rules.say_in_use = s->reading = true;
    s->rules.last_newline = NEWLINE_KEEP;
    return s;
}

OpenFile *sessions_open(Session *s, const char *name)
{
    Err e = {""};
    OpenFile *f = session_open(s, check_path(name), &e);
    check_result(f != NULL, __FILE__, __LINE__, "%s", e.text);
    session_settle(s);
    return f;
}

bool sessions_writing(const Session *s)
{
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i]->writing)
            return true;
    return false;
}

/* Until nothing is being written. */
void sessions_finish_writing(Session *s)
{
    while (sessions_writing(s)) {
        session_poll(s);
        usleep(200);
    }
    session_poll(s);
}

void sessions_tick(Session *s)
{
    sessions_notices.now += 1000;
    session_poll(s);
    sessions_notices.now += 1000;
    session_poll(s);
    journal_settle(keeper_journal(s), 5000);
}
