/* What this machine has: users, groups, network interfaces and the like, for checks of values and for
 * completion. Read from the system's own files at each call, never by running anything. */
#ifndef MACHINE_H
#define MACHINE_H

#include <stdbool.h>

typedef enum MachineThing {
    MACHINE_USER,
    MACHINE_GROUP,
    MACHINE_SHELL,          /* full paths */
    MACHINE_INTERFACE,      /* of the network */
    MACHINE_PORT_NAME,      /* "ssh" */
    MACHINE_KERNEL_SETTING, /* "net.ipv4.ip_forward" */
    MACHINE_KERNEL_MODULE,
    MACHINE_FILE_SYSTEM, /* types, such as ext4 */
    MACHINE_MOUNT_POINT,
    MACHINE_UNIT, /* of systemd, with their endings */
    MACHINE_PAM_MODULE,
    MACHINE_TIME_ZONE,
    MACHINE_PATH /* cannot be listed */
} MachineThing;

typedef enum MachineHas { MACHINE_HAS_NOT, MACHINE_HAS, MACHINE_UNKNOWN } MachineHas;

/* Calls `each` for those of the machine's own lists, in no order, until it returns false. A few milliseconds;
 * users of a directory server are not among them. */
void machine_each(MachineThing t, bool (*each)(void *ctx, const char *name), void *ctx);
/* Is there one of that name? May ask a directory server for users and groups, so not in the main loop. */
MachineHas machine_has(MachineThing t, const char *name);

#endif
