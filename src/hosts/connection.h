/* One run of ssh whose pipes carry packets (packet.h) to a host and back. Any number of threads ask at the
 * same time: each request has a number, and each waits for its own answer. A connection that is lost stays
 * lost. */
#ifndef CONNECTION_H
#define CONNECTION_H

#include "base/bytes.h"
#include "base/err.h"
#include "hosts/packet.h"

#include <stdatomic.h>
#include <sys/types.h>

typedef struct Connection Connection;

/* What the server can do beyond version 3. */
typedef struct ServerSkills {
    bool posix_rename, fsync, hardlink;
} ServerSkills;

/* After so many ms without an answer that is due it is lost: 30 s, and less for tests. */
void connection_be_patient(unsigned ms);

/* Runs the words (up to NULL), whose standard input and output are to be an SFTP server's. On a terminal of
 * its own choice (`terminal`: a descriptor, else -1) it may ask the person; without one it runs in a session
 * of its own. NULL with the reason in e. It has one holder. */
Connection *connection_begin(char *const words[], int terminal, Err *e);
/* Says something to what runs before the server, such as a password; `refused` are words by which that says
 * that it was not right, as it may wait for ever for another one. */
void connection_say(Connection *c, const char *words, const char *refused);
/* Waits until the server has said who it is. `stop` (or NULL) ends the waiting; so does silence, unless ssh
 * has the terminal, where a person may be thinking. False with the reason in e: what ssh said, if it said
 * anything. */
bool connection_greet(Connection *c, const atomic_bool *stop, Err *e);
ServerSkills connection_skills(const Connection *c);
Connection *connection_hold(Connection *c);
/* Lets go of it; the last one ends it. NULL is fine. */
void connection_drop(Connection *c);
/* Ends it for all who wait. */
void connection_end(Connection *c);
bool connection_lost(const Connection *c);
/* Why, for a person. */
void connection_why(Connection *c, Err *e);

/* A number for a request. */
uint32_t connection_number(Connection *c);
/* Sends whole packets, and expects an answer to `number`; false when it is lost. */
bool connection_send(Connection *c, const Bytes *packets, uint32_t number);
/* Waits for the answer, which begins with its type; the caller frees it. False when it is lost or `stop` (or
 * NULL) is set. */
bool connection_wait(Connection *c, uint32_t number, const atomic_bool *stop, Bytes *answer);
/* Nobody wants that answer any more. */
void connection_forget(Connection *c, uint32_t number);

#endif
