#include "files/watch.h"

#include <unistd.h>

#ifdef __linux__
#include <sys/inotify.h>

bool watch_begin(Watch *w, const char *path)
{
    /* A file that another one takes the place of loses a name: that changes its attributes. */
    const unsigned what = IN_MODIFY | IN_ATTRIB | IN_MOVE_SELF | IN_DELETE_SELF;
    watch_end(w);
    w->fd = inotify_init1(IN_CLOEXEC | IN_NONBLOCK);
    if (w->fd >= 0 && inotify_add_watch(w->fd, path, what) < 0)
        watch_end(w);
    return w->fd >= 0;
}

bool watch_folder(Watch *w, const char *folder)
{
    if (w->fd < 0)
        w->fd = inotify_init1(IN_CLOEXEC | IN_NONBLOCK);
    return w->fd >= 0 && inotify_add_watch(w->fd, folder, IN_CREATE | IN_MOVED_TO | IN_ONLYDIR) >= 0;
}
#else
bool watch_folder(Watch *w, const char *folder)
{
    (void)w, (void)folder;
    return false;
}

bool watch_begin(Watch *w, const char *path)
{
    (void)path;
    watch_end(w);
    return false;
}
#endif

bool watch_news(Watch *w)
{
    char events[4096];
    bool any = false;
    while (w->fd >= 0 && read(w->fd, events, sizeof events) > 0)
        any = true;
    return any;
}

void watch_end(Watch *w)
{
    if (w->fd >= 0)
        close(w->fd);
    w->fd = -1;
}
