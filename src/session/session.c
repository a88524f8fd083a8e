#include "session/session.h"

#include "base/array.h"

#include <string.h>

void session_observe(Session *s, const SessionEvents *events)
{
    s->observers = array_room(s->observers, s->n_observers, sizeof *s->observers);
    s->observers[s->n_observers++] = *events;
}

void session_tell_opened(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].opened)
            s->observers[i].opened(s->observers[i].ctx, f);
}

bool session_may_save(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].saving && !s->observers[i].saving(s->observers[i].ctx, f))
            return false;
    return true;
}

bool session_may_write(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].writing && !s->observers[i].writing(s->observers[i].ctx, f))
            return false;
    return true;
}

void session_tell_saved(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].saved)
            s->observers[i].saved(s->observers[i].ctx, f);
}

void session_tell_checked(Session *s, OpenFile *f)
{
    s->woken = true;
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].checked)
            s->observers[i].checked(s->observers[i].ctx, f);
}

void session_tell_more(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].more)
            s->observers[i].more(s->observers[i].ctx, f);
}

void session_look_at(Session *s, OpenFile *f, size_t at)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].look_at)
            s->observers[i].look_at(s->observers[i].ctx, f, at);
}

size_t session_cursor(const Session *s, const OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].cursor)
            return s->observers[i].cursor(s->observers[i].ctx, f);
    return 0;
}

OpenFile *session_file(const Session *s, FileId id)
{
    for (size_t i = 0; id && i < s->n_files; i++)
        if (s->files[i]->id == id)
            return s->files[i];
    return NULL;
}

OpenFile *session_other_with(const Session *s, const OpenFile *f, const char *path)
{
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i] != f && s->files[i]->path && strcmp(s->files[i]->path, path) == 0)
            return s->files[i];
    return NULL;
}
