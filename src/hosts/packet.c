#include "hosts/packet.h"

#include <string.h>

size_t packet_begin(Bytes *out, PacketType type, uint32_t number)
{
    size_t begin = out->len;
    char kind = (char)type;
    packet_u32(out, 0); /* its length, once that is known */
    bytes_add(out, &kind, 1);
    packet_u32(out, number);
    return begin;
}

void packet_u32(Bytes *out, uint32_t n)
{
    unsigned char b[4] = {(unsigned char)(n >> 24), (unsigned char)(n >> 16), (unsigned char)(n >> 8),
                          (unsigned char)n};
    bytes_add(out, b, sizeof b);
}

void packet_u64(Bytes *out, uint64_t n)
{
    packet_u32(out, (uint32_t)(n >> 32));
    packet_u32(out, (uint32_t)n);
}

void packet_bytes(Bytes *out, const void *at, size_t n)
{
    packet_u32(out, (uint32_t)n);
    bytes_add(out, at, n);
}

void packet_string(Bytes *out, const char *s)
{
    packet_bytes(out, s, strlen(s));
}

enum { HAS_SIZE = 1, HAS_OWNER = 2, HAS_MODE = 4, HAS_TIMES = 8 };
static const uint32_t has_more = 0x80000000U;

void packet_attributes(Bytes *out, const Attributes *a)
{
    packet_u32(out, (a->has_size ? HAS_SIZE : 0U) | (a->has_owner ? HAS_OWNER : 0U) |
                        (a->has_mode ? HAS_MODE : 0U) | (a->has_times ? HAS_TIMES : 0U));
    if (a->has_size)
        packet_u64(out, a->size);
    if (a->has_owner) {
        packet_u32(out, a->owner);
        packet_u32(out, a->group);
    }
    if (a->has_mode)
        packet_u32(out, a->mode);
    if (a->has_times) {
        packet_u32(out, a->read);
        packet_u32(out, a->written);
    }
}

void packet_end(Bytes *out, size_t begin)
{
    size_t n = out->len - begin - 4;
    unsigned char b[4] = {(unsigned char)(n >> 24), (unsigned char)(n >> 16), (unsigned char)(n >> 8),
                          (unsigned char)n};
    memcpy(out->at + begin, b, sizeof b);
}

PacketReader packet_reader(const void *at, size_t n)
{
    return (PacketReader){at, n, false};
}

/* The next n bytes, or NULL. */
static const unsigned char *take(PacketReader *r, size_t n)
{
    const unsigned char *at = r->at;
    if (r->bad || n > r->left) {
        r->bad = true;
        return NULL;
    }
    r->at += n;
    r->left -= n;
    return at;
}

unsigned packet_read_u8(PacketReader *r)
{
    const unsigned char *b = take(r, 1);
    return b ? b[0] : 0;
}

uint32_t packet_read_u32(PacketReader *r)
{
    const unsigned char *b = take(r, 4);
    return b ? (uint32_t)b[0] << 24 | (uint32_t)b[1] << 16 | (uint32_t)b[2] << 8 | b[3] : 0;
}

uint64_t packet_read_u64(PacketReader *r)
{
    uint64_t high = packet_read_u32(r);
    return high << 32 | packet_read_u32(r);
}

const char *packet_read_string(PacketReader *r, size_t most, size_t *n)
{
    size_t len = packet_read_u32(r);
    const unsigned char *b = len <= most ? take(r, len) : NULL;
    r->bad = r->bad || !b;
    *n = b ? len : 0;
    return b ? (const char *)b : "";
}

Attributes packet_read_attributes(PacketReader *r)
{
    Attributes a = {0};
    uint32_t flags = packet_read_u32(r);
    a.has_size = flags & HAS_SIZE;
    a.has_owner = flags & HAS_OWNER;
    a.has_mode = flags & HAS_MODE;
    a.has_times = flags & HAS_TIMES;
    if (a.has_size)
        a.size = packet_read_u64(r);
    if (a.has_owner) {
        a.owner = packet_read_u32(r);
        a.group = packet_read_u32(r);
    }
    if (a.has_mode)
        a.mode = packet_read_u32(r);
    if (a.has_times) {
        a.read = packet_read_u32(r);
        a.written = packet_read_u32(r);
    }
    uint32_t more = flags & has_more ? packet_read_u32(r) : 0;
    for (uint32_t i = 0; i < more && !r->bad; i++) { /* a name and a value each, of no use here */
        size_t n;
        packet_read_string(r, PACKET_MOST, &n);
        packet_read_string(r, PACKET_MOST, &n);
    }
    return r->bad ? (Attributes){0} : a;
}

/* The upper bits of a mode, which are the same on all systems. */
static FileType type_of(uint32_t mode)
{
    switch (mode >> 12 & 15) {
    case 1:
        return FILE_PIPE;
    case 2:
    case 6:
        return FILE_DEVICE;
    case 4:
        return FILE_FOLDER;
    case 8:
        return FILE_PLAIN;
    case 10:
        return FILE_LINK;
    case 12:
        return FILE_SOCKET;
    default:
        return FILE_OTHER;
    }
}

FileState packet_state(const Attributes *a)
{
    return (FileState){.type = a->has_mode ? type_of(a->mode) : FILE_OTHER,
                       .size = a->size,
                       .written.seconds = a->written,
                       .mode = a->mode & 07777,
                       .owner = a->owner,
                       .group = a->group,
                       .names = 1};
}
