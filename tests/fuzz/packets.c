/* Any bytes as what a server sends, and as the name of a place: nothing outside is read, and what is
 * understood is written and read again as the same. */
#include "fuzz.h"
#include "base/bytes.h"
#include "files/location.h"
#include "hosts/packet.h"

#include <stdlib.h>
#include <string.h>

static void read_packet(const uint8_t *bytes, size_t n, unsigned order)
{
    PacketReader r = packet_reader(bytes, n);
    for (unsigned step = order; r.left && !r.bad; step = step * 5 + 1) {
        size_t len;
        const char *at;
        switch (step % 5) {
        case 0:
            packet_read_u8(&r);
            break;
        case 1:
            packet_read_u32(&r);
            break;
        case 2:
            packet_read_u64(&r);
            break;
        case 3:
            at = packet_read_string(&r, PACKET_STRING_MOST, &len);
            MUST(len <= PACKET_STRING_MOST);
            MUST(!len || ((const uint8_t *)at >= bytes && (const uint8_t *)at + len <= bytes + n));
            break;
        default: {
            Attributes a = packet_read_attributes(&r);
            packet_state(&a);
        }
        }
        MUST(r.at >= bytes && r.at + r.left == bytes + n);
    }
}

static void attributes_again(const uint8_t *bytes, size_t n)
{
    PacketReader r = packet_reader(bytes, n);
    Attributes a = packet_read_attributes(&r);
    Bytes out = {0};
    packet_attributes(&out, &a);
    r = packet_reader(out.at, out.len);
    Attributes again = packet_read_attributes(&r);
    MUST(!r.bad && r.left == 0);
    MUST(a.has_size == again.has_size && a.has_owner == again.has_owner && a.has_mode == again.has_mode);
    MUST(a.size == again.size && a.owner == again.owner && a.group == again.group && a.mode == again.mode);
    MUST(a.read == again.read && a.written == again.written);
    bytes_free(&out);
}

static void read_name(const uint8_t *bytes, size_t n)
{
    Bytes name = {0};
    Location l, again;
    Err e;
    bytes_add_str(&name, "ssh://tern");
    bytes_add(&name, bytes, strnlen((const char *)bytes, n));
    if (location_read(name.at, &l, &e)) {
        char *full = location_write(&l), *twice;
        MUST(location_read(full, &again, &e));
        MUST(strcmp(again.path, l.path) == 0 && strcmp(again.host, l.host) == 0 && again.port == l.port);
        twice = location_write(&again);
        MUST(strcmp(full, twice) == 0);
        location_free(&again);
        location_free(&l);
        free(full);
        free(twice);
    }
    bytes_free(&name);
}

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n)
{
    unsigned order = fuzz_byte(&bytes, &n);
    read_packet(bytes, n, order);
    attributes_again(bytes, n);
    read_name(bytes, n);
    return 0;
}
