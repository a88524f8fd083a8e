/* What completion offers where the kind says what may stand there. */
#include "check.h"

#include "kinds/place.h"
#include "kinds/kinds.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

typedef struct Offered {
    const char *prefix, *want;
    bool any_case;
    size_t n, at; /* how many there are, and which is the one */
} Offered;

static bool offered(void *ctx, const char *name)
{
    Offered *o = ctx;
    size_t n = strlen(o->prefix);
    if ((o->any_case ? strncasecmp : strncmp)(name, o->prefix, n) == 0 && strlen(name) > n) {
        o->n++;
        if (!o->at && strcmp(name, o->want) == 0)
            o->at = o->n;
    }
    return true;
}

/* Lines up to the cursor, and what a person means there. */
static const struct {
    const char *kind, *text, *want;
} cases[] = {
    {"sshd", "PermitRoot", "PermitRootLogin"},
    {"sshd", "permitroot", "PermitRootLogin"},
    {"sshd", "PermitRootLogin pro", "prohibit-password"},
    {"sshd", "PasswordAuth", "PasswordAuthentication"},
    {"sshd", "PasswordAuthentication n", "no"},
    {"sshd", "AllowUs", "AllowUsers"},
    {"sshd", "AllowUsers mira roo", "root"},
    {"sshd", "X11F", "X11Forwarding"},
    {"sshd", "LogLevel VER", "VERBOSE"},
    {"sshd", "Match User quay\n  Force", "ForceCommand"},
    {"ssh", "Host kiosk\n  Identity", "IdentityFile"},
    {"ssh", "Host kiosk\n  StrictHostKeyChecking acc", "accept-new"},
    {"ssh", "Host kiosk\n  Proxy", "ProxyJump"},
    {"ssh", "Host kiosk\n  ServerAl", "ServerAliveInterval"},
    {"unit", "[Unit]\nDesc", "Description"},
    {"unit", "[Unit]\nAfter=network-on", "network-online.target"},
    {"unit", "[Unit]\nWa", "Wants"},
    {"unit", "[Unit]\nConditionPathE", "ConditionPathExists"},
    {"unit", "[Service]\nType=one", "oneshot"},
    {"unit", "[Service]\nExecSt", "ExecStart"},
    {"unit", "[Service]\nRest", "Restart"},
    {"unit", "[Service]\nRestart=on-f", "on-failure"},
    {"unit", "[Service]\nRestartS", "RestartSec"},
    {"unit", "[Service]\nUser=ro", "root"},
    {"unit", "[Service]\nEnvironmentF", "EnvironmentFile"},
    {"unit", "[Service]\nProtectS", "ProtectSystem"},
    {"unit", "[Service]\nProtectSystem=st", "strict"},
    {"unit", "[Service]\nNoNew", "NoNewPrivileges"},
    {"unit", "[Service]\nWorkingD", "WorkingDirectory"},
    {"unit", "[Service]\nStandardOutput=jou", "journal"},
    {"unit", "[Timer]\nOnCal", "OnCalendar"},
    {"unit", "[Timer]\nOnCalendar=da", "daily"},
    {"unit", "[Timer]\nPers", "Persistent"},
    {"unit", "[Timer]\nRandom", "RandomizedDelaySec"},
    {"unit", "[Socket]\nListenS", "ListenStream"},
    {"unit", "[Socket]\nAcc", "Accept"},
    {"unit", "[Path]\nPathCh", "PathChanged"},
    {"unit", "[Mount]\nWhe", "Where"},
    {"unit", "[Install]\nWant", "WantedBy"},
    {"unit", "[Install]\nWantedBy=multi", "multi-user.target"},
    {"unit", "[Journal]\nSystemM", "SystemMaxUse"},
    {"network-unit", "[Match]\nNa", "Name"},
    {"network-unit", "[Network]\nDHC", "DHCP"},
    {"network-unit", "[Network]\nDHCP=ipv", "ipv4"},
    {"network-unit", "[Network]\nGate", "Gateway"},
    {"network-unit", "[NetDev]\nKind=vl", "vlan"},
    {"netplan", "network:\n  renderer: net", "networkd"},
    {"netplan", "network:\n  ether", "ethernets"},
    {"netplan", "network:\n  ethernets:\n    eth0:\n      dhcp4: fa", "false"},
    {"netplan", "network:\n  ethernets:\n    eth0:\n      addr", "addresses"},
    {"netplan", "network:\n  ethernets:\n    eth0:\n      names", "nameservers"},
    {"netplan", "      routes:\n        - to: def", "default"},
    {"nginx", "server {\n    list", "listen"},
    {"nginx", "server {\n    server_n", "server_name"},
    {"nginx", "    proxy_p", "proxy_pass"},
    {"nginx", "    proxy_set", "proxy_set_header"},
    {"nginx", "    ssl_certificate_", "ssl_certificate_key"},
    {"nginx", "    gzip o", "on"},
    {"nginx", "    ssl_protocols TLSv1.2 TLSv1.", "TLSv1.3"},
    {"nginx", "    client_max", "client_max_body_size"},
    {"nginx", "user ro", "root"},
    {"nginx", "    try", "try_files"},
    {"apache", "  DocumentR", "DocumentRoot"},
    {"apache", "  ServerAl", "ServerAlias"},
    {"apache", "  Require all gr", "all granted"},
    {"apache", "  Require i", "ip "},
    {"apache", "  AllowOverride No", "None"},
    {"apache", "  Options -Ind", "-Indexes"},
    {"apache", "  RewriteC", "RewriteCond"},
    {"apache", "  SSLEngine o", "On"},
    {"apache", "  SSLCertificateK", "SSLCertificateKeyFile"},
    {"haproxy", "frontend web\n    default_b", "default_backend"},
    {"haproxy", "backend kiosks\n    balance round", "roundrobin"},
    {"haproxy", "defaults\n    timeout conn", "connect "},
    {"haproxy", "defaults\n    option http-serv", "http-server-close"},
    {"haproxy", "defaults\n    mode ht", "http"},
    {"samba", "[global]\n   work", "workgroup"},
    {"samba", "[fares]\n   read o", "read only"},
    {"samba", "[fares]\n   read only = n", "no"},
    {"samba", "[fares]\n   valid", "valid users"},
    {"samba", "[global]\n   map to guest = bad u", "bad user"},
    {"postfix", "mydest", "mydestination"},
    {"postfix", "smtpd_recipient_restrictions = permit_my", "permit_mynetworks"},
    {"postfix", "smtpd_tls_security_level = ma", "may"},
    {"postfix", "inet_interfaces = loop", "loopback-only"},
    {"postfix", "relayh", "relayhost"},
    {"pam", "auth required pam_un", "pam_unix.so"},
    {"pam", "auth suff", "sufficient"},
    {"pam", "pass", "password"},
    {"pam", "auth required pam_unix.so null", "nullok"},
    {"fstab", "UUID=4 / ext4 noat", "noatime"},
    {"fstab", "UUID=4 / ext4 defaults,nof", "nofail"},
    {"fstab", "UUID=4 / ext4 errors=rem", "errors=remount-ro"},
    {"fstab", "UUID=4 / xf", "xfs"},
    {"system-schedule", "5 6 * * * ro", "root"},
    {"schedule", "MAIL", "MAILTO"},
    {"sudoers", "Defaults secure", "secure_path"},
    {"sudoers", "Defaults env_reset,use_p", "use_pty"},
    {"sysctl", "kernel.hostn", "kernel.hostname"},
    {"group", "quay:x:100:roo", "root"},
};

/* At least 80 of 100 are among the few that are seen at once. What this machine does not have (a unit, a
 * module) cannot be. */
TEST(wanted_places)
{
    enum { SEEN = 8 };
    size_t all = sizeof cases / sizeof *cases, useful = 0;
    for (size_t i = 0; i < all; i++) {
        const char *last = strrchr(cases[i].text, '\n'), *line = last ? last + 1 : cases[i].text;
        const char *open = cases[i].text[0] == '[' ? cases[i].text + 1 : "";
        char section[40] = "";
        Place p;
        if (*open)
            snprintf(section, sizeof section, "%.*s", (int)strcspn(open, "]"), open);
        if (!place_of(kind_named(cases[i].kind), section, line, strlen(line), &p))
            continue;
        Offered o = {line + p.from, cases[i].want, kind_named(cases[i].kind)->any_case, 0, 0};
        place_each(&p, section, true, offered, &o);
        if (o.at && o.at <= SEEN)
            useful++;
        else if (getenv("TELL"))
            printf("%s: %s: %s is number %zu of %zu\n", cases[i].kind, line, cases[i].want, o.at, o.n);
    }
    CHECK_INT(all, 100);
    CHECK(useful >= 80);
    if (getenv("TELL"))
        printf("%zu of %zu\n", useful, all);
}

/* Random beginnings, in all kinds: no place lies outside of its line. */
TEST(places_of_any_line)
{
    static const char *const pieces[] = {"Port", " ", "=", ":", "root", ",",  "\t", "\"",       "#",   "- ",
                                         "[",    "]", "5", "*", "/",    "\\", "-",  "net.ipv4", "ext4"};
    for (int round = 0; round < 20000; round++) {
        char line[200] = "";
        Place p;
        for (int i = (int)check_random(9); i > 0; i--)
            strcat(line, pieces[check_random(sizeof pieces / sizeof *pieces)]);
        size_t k = check_random(200);
        while (!kind_number(k))
            k = check_random(200);
        if (place_of(kind_number(k), check_random(2) ? "Network" : "", line, strlen(line), &p)) {
            check_case(line);
            CHECK(p.from <= strlen(line) && p.sign && !p.names != !p.value);
        }
    }
}
