/* Packets of the SSH File Transfer Protocol, version 3, as draft-ietf-secsh-filexfer-02 defines them: written
 * and read without waiting for anything. What comes from a server is believed only within its own length. */
#ifndef PACKET_H
#define PACKET_H

#include "base/bytes.h"
#include "files/state.h"

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

typedef enum PacketType {
    PACKET_INIT = 1,
    PACKET_VERSION = 2,
    PACKET_OPEN = 3,
    PACKET_CLOSE = 4,
    PACKET_READ = 5,
    PACKET_WRITE = 6,
    PACKET_LSTAT = 7,
    PACKET_FSTAT = 8,
    PACKET_FSETSTAT = 10,
    PACKET_OPENDIR = 11,
    PACKET_READDIR = 12,
    PACKET_REMOVE = 13,
    PACKET_MKDIR = 14,
    PACKET_REALPATH = 16,
    PACKET_STAT = 17,
    PACKET_RENAME = 18,
    PACKET_STATUS = 101,
    PACKET_HANDLE = 102,
    PACKET_DATA = 103,
    PACKET_NAME = 104,
    PACKET_ATTRS = 105,
    PACKET_EXTENDED = 200,
    PACKET_EXTENDED_REPLY = 201,
} PacketType;

/* What a PACKET_STATUS says. */
typedef enum PacketStatus {
    STATUS_OK,
    STATUS_EOF,
    STATUS_NO_SUCH_FILE,
    STATUS_PERMISSION_DENIED,
    STATUS_FAILURE,
    STATUS_BAD_MESSAGE,
    STATUS_NO_CONNECTION,
    STATUS_CONNECTION_LOST,
    STATUS_UNSUPPORTED,
} PacketStatus;

enum { OPEN_READ = 1, OPEN_WRITE = 2, OPEN_CREATE = 8, OPEN_TRUNCATE = 16, OPEN_NEW = 32 };

enum {
    PACKET_MOST = 256 * 1024,  /* bytes after the length; a longer one is a mistake or worse */
    PACKET_DATA_MOST = 32768,  /* of a file in one packet, which every server takes */
    PACKET_STRING_MOST = 4096, /* of a name or a handle */
};

/* What a server says of a file, and what it may be told. */
typedef struct Attributes {
    bool has_size, has_owner, has_mode, has_times;
    uint64_t size;
    uint32_t owner, group, mode, read, written;
} Attributes;

/* Begins a packet (with a number, but for INIT) at the end of `out`, adds to it, and puts its length in. */
size_t packet_begin(Bytes *out, PacketType type, uint32_t number);
void packet_u32(Bytes *out, uint32_t n);
void packet_u64(Bytes *out, uint64_t n);
void packet_bytes(Bytes *out, const void *at, size_t n);
void packet_string(Bytes *out, const char *s);
void packet_attributes(Bytes *out, const Attributes *a);
void packet_end(Bytes *out, size_t begin);

/* Reads what lies in a packet. Once something is not there, `bad` is set and all that follows is zero. */
typedef struct PacketReader {
    const unsigned char *at;
    size_t left;
    bool bad;
} PacketReader;

PacketReader packet_reader(const void *at, size_t n);
unsigned packet_read_u8(PacketReader *r);
uint32_t packet_read_u32(PacketReader *r);
uint64_t packet_read_u64(PacketReader *r);
/* Points into the packet; not longer than `most`. */
const char *packet_read_string(PacketReader *r, size_t most, size_t *n);
Attributes packet_read_attributes(PacketReader *r);

/* What a file is by its attributes; what they do not tell is 0. */
FileState packet_state(const Attributes *a);

#endif
