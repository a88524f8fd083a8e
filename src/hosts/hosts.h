/* The files of other hosts, over the system's own ssh (its configuration, keys, agents, jumps), by SFTP:
 * nothing is installed there. What is done there is done by some threads for each host; a connection is made
 * when it is needed, and again when it was lost. Main thread only. */
#ifndef HOSTS_H
#define HOSTS_H

#include "base/err.h"
#include "base/task.h"
#include "hosts/connection.h"

enum { HOSTS_PROGRAM = 1024 /* bytes of a program with its arguments */ };

/* Makes names that begin with ssh:// mean what they say. Once, before anything is opened. */
void hosts_begin(void);
/* The program with its first arguments, blanks between ("ssh -F /srv/ssh.config"); "": other hosts are not
 * used. */
void hosts_use(const char *program);
/* Is there a person at a terminal, whom ssh may ask? Else it must do without. */
void hosts_may_ask(bool may);
/* Adds what wakes the main loop when something happened. Part of its owner's record. */
void hosts_watch(Tasks *tasks, Task *t);
/* Ends all connections, and what still waits for them. */
void hosts_end(void);

/* A host that ssh cannot reach without asking the person. */
typedef struct HostAsks {
    struct Host *host;
    char name[600]; /* "mira@tern" */
    Err why;        /* what ssh said */
    bool root;      /* sudo there wants the person's password, as the first line that it gets */
    char text[HOSTS_PROGRAM];
    char *words[HOSTS_PROGRAM / 2]; /* to be run with the terminal */
} HostAsks;

/* The next one; false when there is none. Then hosts_asked is due. */
bool hosts_ask(HostAsks *out);
/* How that went: the connection, or NULL with the reason. */
void hosts_asked(const HostAsks *a, Connection *c, const Err *e);

#endif
