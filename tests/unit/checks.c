/* Checkers: what they find in right and wrong texts, how what they found follows the text. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "kinds/checks.h"
#include "kinds/judging.h"
#include "kinds/outline.h"
#include "kinds/meaning.h"
#include "kinds/calendar.h"
#include "kinds/schedule.h"
#include "base/mem.h"
#include "base/programs.h"
#include "files/job.h"
#include "session/check_place.h"
#include "session/check_work.h"
#include "session/checking.h"
#include "text/text_line.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* Problems as "line:column words". */
static void add_found(const Problems *p, Bytes *out)
{
    for (size_t i = 0; i < p->n; i++)
        bytes_printf(out, "%zu:%zu %s\n", p->at[i].line, p->at[i].column, p->at[i].words);
}

/* Are all parts of `want`, with | between, in what was found? */
static void check_parts(const char *found, const char *want)
{
    for (; *want; want += strcspn(want, "|"), want += *want == '|') {
        char part[120];
        snprintf(part, sizeof part, "%.*s", (int)strcspn(want, "|"), want);
        check_result(strstr(found, part) != NULL, __FILE__, __LINE__, "found “%s”, wanted “%s”", found, part);
    }
}

static void wrong_in_data(void *ctx, unsigned line, const char *words)
{
    check_result(false, __FILE__, __LINE__, "kind %s, line %u: %s", ((const Kind *)ctx)->name, line, words);
}

/* The first test: what was read once is not read again. */
TEST(our_own_data_is_right)
{
    size_t n = 0, with = 0;
    for (size_t i = 0; kind_number(i); i++) {
        PlainReport r = {wrong_in_data, (void *)kind_number(i)};
        fields_of(kind_number(i), &r);
        checks_of(kind_number(i), &n, &r);
        outline_of(kind_number(i), &r);
        with += n > 0;
    }
    CHECK(with > 45);
}

/* The first checker of a kind that is a program. */
static const Check *first_program(const char *kind)
{
    size_t n, i = 0;
    const Check *all = checks_of(kind_named(kind), &n, NULL);
    while (i + 1 < n && !all[i].run)
        i++;
    return &all[i];
}

/* Everything that the parts of the program find, as "line:column words". */
static void found_in(const char *kind, const char *text, bool machine, Bytes *out)
{
    size_t n;
    Problems all = {0};
    const Check *checks = checks_of(kind_named(kind), &n, NULL);
    for (size_t i = 0; i < n; i++)
        if (checks[i].fields)
            fields_check(text, strlen(text), checks[i].fields, machine, (Stop){0}, &all);
        else if (checks[i].settings)
            key_values_check(text, strlen(text), checks[i].settings, machine, (Stop){0}, &all);
        else if (checks[i].part)
            checks[i].part(text, strlen(text), (Stop){0}, &all);
    add_found(&all, out);
    problems_free(&all);
}

static const struct {
    const char *kind, *text, *want; /* parts of what is found, in order, with | between; "": nothing */
} texts[] = {
    {"json", "{\"berth\": [1, 2, {\"tide\": null}]}", ""},
    {"json", "", ""},
    {"json", " \n", ""},
    {"json", "4", ""},
    {"json", "{\"a\": 1,}", "1:9 "},
    {"json", "{\n  \"a\": 1\n  \"b\": 2\n}", "3:5 "},
    {"json", "{\"a\": 1, \"a\": 2}", "duplicate"},
    {"json", "{\"a\": 1} x", "end of file expected"},
    {"json", "{\"a\": \"x\ty\"}", "control character"},
    {"json-with-comments", "// berths\n{\"a\": 1, /* two\n lines */ \"b\": [2,], }\n", ""},
    {"json-with-comments", "{\"a\": \"// no comment\" \"b\"}", "1:"},
    {"yaml", "a: 1\nb: [1, 2]\n---\nc: {d: e}\n", ""},
    {"yaml", "a: 1\nb: 2\na: 3\n", "3:1 the key “a” stands here twice"},
    {"yaml", "x:\n  - a: 1\n    b: 2\n  - a: 1\n", ""},
    {"yaml", "x: {a: 1, a: 2}\n", "1:11 the key"},
    {"yaml", "a: [1\nb: 2\n", "2:"},
    {"yaml", "a:\n\t- b\n", "2:1 "},
    {"yaml", "? {a: 1}\n: x\na: 2\na: 3\n", "4:1 the key"},
    {"yaml", "base: &b {a: 1}\nx:\n  <<: *b\n  <<: *b\n", ""},
    {"xml", "<a><b/></a>", ""},
    {"xml", "<a><b></a>", "1:9 mismatched tag"},
    {"xml", "<a>&tide;</a>", "undefined entity"},
    {"xml", "", ""},
    {"xml", " \n", ""},
    {"ini", "[a]\nx = 1\n[b]\nx = 2\n# x = 3\n", ""},
    {"ini", "[a]\nx = 1\ny = 2\nx=3\n", "4:1 hint: “x” stands in this section already, in line 2"},
    {"ini", "[a\nx = 1\n", "1:1 the section is not closed"},
    {"schedule", "# night\nMAILTO=mira\n*/5 0-6,22 1 jan-mar mon,fri /x % y\n@daily /y\n", ""},
    {"schedule", "60 * * * * /x\n", "1:1 “60” is no minute: 0 to 59"},
    {"schedule", "0 24 * * * /x\n", "1:3 “24” is no hour"},
    {"schedule", "0 0 0 * * /x\n", "1:5 “0” is no day"},
    {"schedule", "0 0 * 13 * /x\n", "is no month"},
    {"schedule", "0 0 * * 8 /x\n", "is no day of the week"},
    {"schedule", "30-10 * * * * /x\n", "(the range goes backwards)"},
    {"schedule", "*/0 * * * * /x\n", "(what follows / is no step)"},
    {"schedule", "5/10 * * * * /x\n", "(a step is for a range or *)"},
    {"schedule", "1,,2 * * * * /x\n", "is no minute"},
    {"schedule", "0 3 * *\n", "field 5 (day of the week) is missing"},
    {"schedule", "0 3 * * *\n", "(command) is missing"},
    {"schedule", "@dayly /x\n", "1:1 “@dayly” is no minute"},
    {"schedule", "@daily /x\n@reboot /y\nMAILTO = kai\n\"A B\"=c\n  # x\n\n", ""},
    {"schedule", "H * * * * /x\n", "“H” is no minute"},
    {"schedule", "-5 * * * * /x\n", "“-5” is no minute"},
    {"schedule", "/srv/tides now\n", "“/srv/tides” is no minute"},
    {"schedule", "0 0 L * * /x\n", "“L” is no day"},
    {"schedule", "0 0 ? * * /x\n", "“?” is no day"},
    {"schedule", "0 0 * * 1#2 /x\n", "“1#2” is no day of the week"},
    {"system-schedule", "0 3 * * * root /x\n", ""},
    {"system-schedule", "0 3 * * * /usr/bin/tide\n", "(command) is missing"},
    {"system-schedule", "0 3 * * * /usr/bin/tide now\n", "“/usr/bin/tide” is no user"},
    {"fstab", "# x\nUUID=4 / ext4 defaults 0 1\nkiosk:/srv /mnt nfs\n", ""},
    {"fstab", "/dev/sda1 mnt ext4 defaults 0 1\n", "“mnt” is no mount point"},
    {"fstab", "/dev/sda1 /mnt\n", "(type) is missing"},
    {"fstab", "/dev/sda1 /mnt ext4 defaults x 1\n", "“x” is no dump"},
    {"passwd", "mira:x:1000:1000:Mira,,,:/home/mira:/bin/bash\n+::::::\n", ""},
    {"passwd", "mira:x:1000:1000:Mira:/home/mira\n", "(shell) is missing"},
    {"passwd", "mira:x:ten:1000::/home/mira:/bin/sh\n", "“ten” is no user id"},
    {"passwd", "mira:x:1:1::/home/mira:/bin/sh:x\n", "there are 8 fields, and 7 are expected"},
    {"group", "quay:x:100:mira,kai\nwheel:x:4:\n", ""},
    {"group", "quay:x:100\n", "(member) is missing"},
    {"group", "quay:x:100:mira kai\n", "“mira kai” is no member"},
    {"services", "# x\ntide 4711/tcp high-water # berths\n", ""},
    {"services", "tide 4711/\n", "“4711/” is no port and protocol"},
    {"resolv", "nameserver 10.20.3.2\n; x\noptions rotate\n", ""},
    {"resolv", "nameservr 10.20.3.2\n", "“nameservr” is no setting"},
    {"resolv", "nameserver\n", "(value) is missing"},
    {"nsswitch", "passwd: files systemd\nhosts: files [NOTFOUND=return] dns\n", ""},
    {"nsswitch", "passwd files\n", "“passwd” is no database"},
    {"limits", "@quay hard nofile 4096 # all of them\n* - core 0\n", ""},
    {"limits", "mira hard nofiles 4096\n", "“nofiles” is no item"},
    {"limits", "mira hard nofile many\n", "“many” is no value"},
    {"limits", "mira hard nofile\n", "(value) is missing"},
    {"exports", "/srv/harrow 10.20.3.0/24(rw,sync) tern(ro) # x\n/srv (ro)\n/a\n", ""},
    {"exports", "/srv/harrow tern (rw)\n",
     "“tern (rw)” is no clients: such as 10.20.3.0/24(rw,sync), with no blank"},
    {"sysctl", "# x\n; y\nnet.ipv4.ip_forward = 1\n-kernel.x=a=b\n", ""},
    {"sysctl", "net.ipv4.ip_forward 1\n", "(value) is missing"},
    {"sysctl", "net ipv4 = 1\n", "is no setting"},
    {"authorized-keys",
     "ssh-ed25519 AAAAC3Nza+/= mira@tern\n"
     "from=\"10.20.3.*\",command=\"/bin/tide \\\"x y\\\"\" ssh-rsa AAAA kai\n# x\n",
     ""},
    {"authorized-keys", "ssh-ed25519\n", "is no key"},
    {"authorized-keys", "ssh-rsa AAAA\nBBBB mira\n", "2:1 "},
    {"sources",
     "deb https://deb.harrow.example/x stable main contrib # x\n"
     "deb-src [arch=amd64 signed-by=/usr/x.gpg] http://deb.harrow.example/x stable main\n",
     ""},
    {"sources", "deb stable main\n", "is no source"},
    {"pam",
     "# x\n@include common-auth\nauth [success=1 default=ignore] pam_unix.so nullok\n-session optional "
     "a.so\n",
     ""},
    {"pam", "auth required pam_a.so \\\n  x y\n", ""},
    {"pam", "atuh required pam_unix.so\n", "“atuh” is no type"},
    {"pam", "auth need pam_unix.so\n", "“need” is no control"},
    {"pam", "auth required\n", "(module) is missing"},
    {"pam-services", "other auth required pam_deny.so\n", ""},
    {"pam-services", "auth required pam_deny.so x\n", "“required” is no type"},
    {"shadow", "root:$y$j9T$a.b/c:19000:0:99999:7:::\nkai:!:19000::::::\n", ""},
    {"shadow", "kai:!:19000:::::\n", "(reserved) is missing"},
    {"shadow", "kai:!:today::::::\n", "“today” is no last change"},
    {"network", "auto lo\niface lo inet loopback\niface eth0 inet static\n  address 10.20.3.1/24\n", ""},
    {"network", "iface eth0 inet5 static\n", "“inet5” is no family"},
    {"netplan", "network:\n  version: 2\n  version: 2\n", "3:3 the key “version”"},
    {"editorconfig", "root = true\n[*]\nindent_style = space\nIndent_Size=4\nx_own = y z\n", ""},
    {"editorconfig", "[*]\nindent_style = blanks\n", "2:1 "},
    {"editorconfig", "[*]\nend_of_line\n", "2:1 "},
    {"git-message", "Say which berth\n\nAs it is said.\n# remark\n", ""},
    {"git-message", "\n# x\nSay which berth\nat once\n", "4:0 the second line is not empty"},
    {"git-message", "Say which berth, and when the ferry comes, and who waits for it at the pier there\n",
     "1:0 "},
    {"git-message", "Say it\n# ------ >8 ------\ndiff --git a b\n", ""},
    {"hosts", "10.20.3.17 kiosk kiosk.harrow\n::1 localhost # x\n", ""},
    {"hosts", "10.20.3.17\n", "(name) is missing"},
    {"hosts", "10.20.3.17 kio%sk\n", "“kio%sk” is no name"},
    {"hosts", "10.20.3.300 kiosk\n", "“10.20.3.300” is no address"},
    {"hosts", "fe80::1%eth0 kiosk-1.harrow.example berth_2\n02:00:5e:10:00:01 pier\n", ""},
    {"hosts", "10.20.3.x kiosk\n", "“10.20.3.x” is no address"},
    {"passwd", "mira:x:1:1::/home/mira:/bin/sh\nkai:x:2:2::/:\nmira:x:3:3::/:\n",
     "3:1 user: “mira” stands in line 1 already"},
    {"passwd", "mira:x:7:1::/:\nkai:x:7:2::/:\n", "2:7 hint: user id: “7” stands in line 1 already"},
    {"passwd", "mira:x:4294967294:1::/:bash\n", "“bash” is no shell"},
    {"group-passwords", "quay:!:kai:mira,kai\nwheel:!::\n", ""},
    {"shadow", "kai:!:1::::::\nkai:!:1::::::\n", "2:1 user: “kai” stands"},
    {"resolv", "nameserver 10.0.0.1\nsearch harrow.example .\noptions ndots:2 rotate # x\n", ""},
    {"resolv", "nameserver 10.0.0\n", "1:12 nameserver is “10.0.0”, and may be an address"},
    {"resolv", "options ndots:20\n", "options is “ndots:20”"},
    {"resolv", "options rotate tmeout:3\n", "1:16 options is “tmeout:3”"},
    {"sysctl", "net.ipv4.ip forward = 1\n", "is no setting"},
    {"services", "tide 70000/tcp\n", "“70000/tcp” is no port"},
    {"limits", "@quay soft nofile 100\n%quay - nproc 5\n1000: hard core 0\n* soft core unlimited\n", ""},
    {"limits", "qu;ay soft nofile 100\n", "“qu;ay” is no who"},
    {"crypttab", "swap /dev/sda2 /dev/urandom swap,cipher=aes-xts-plain64\nhome UUID=4-5 none luks\n", ""},
    {"crypttab", "home sda5 none luks\n", "“sda5” is no device"},
    {"crypttab", "home /dev/sda5 none luks,,discard\n", "is no option"},
    {"crypttab", "home /dev/sda5\nhome /dev/sda6\n", "2:1 name: “home” stands in line 1"},
    {"anacrontab", "SHELL=/bin/sh\n7 25 tide.weekly run-tides\n@monthly 45 tide.monthly x\n", ""},
    {"anacrontab", "@dayly 5 tide x\n", "“@dayly” is no period"},
    {"anacrontab", "1 five tide x\n", "“five” is no delay"},
    {"anacrontab", "1 5 a x\n1 5 a y\n", "2:5 name: “a” stands in line 1"},
    {"tmpfiles", "d /run/tides 0755 quay quay 10d -\nL+ /etc/x - - - - /srv/x\nu quay 400 \"Quay\" /srv\n",
     ""},
    {"tmpfiles", "d /run/tides 07855 quay quay 10d\n", "“07855” is no mode"},
    {"tmpfiles", "k /run/tides\n", "“k” is no type"},
    {"nsswitch", "hosts: files [NOTFOUND=stop] dns\n", "is no sources"},
    {"sshd", "Port 22\nPermitRootLogin prohibit-password # x\nx11forwarding YES\nLoginGraceTime 2m\n", ""},
    {"sshd", "Port 70000\n", "1:6 Port is “70000”, and may be a port from 0 to 65535"},
    {"sshd", "PermitRootLogin maybe\n", "PermitRootLogin is “maybe”, and may be yes, no, prohibit-password"},
    {"sshd", "LoginGraceTime soon\nMaxAuthTries many\n",
     "LoginGraceTime is “soon”|MaxAuthTries is “many”, and may be 0"},
    {"ssh", "Host kiosk\n  StrictHostKeyChecking perhaps\n", "2:25 StrictHostKeyChecking is “perhaps”"},
    {"netplan",
     "network:\n  version: 2\n  ethernets:\n    eth0:\n      dhcp4: false\n      addresses:\n        - "
     "10.20.3.17/24\n"
     "        - fe80::1/64\n        - \"10.0.0.2/24\":\n            label: x\n      nameservers:\n        "
     "addresses: [10.20.3.1, \"::1\"]\n"
     "      routes:\n        - to: default\n          via: 10.20.3.1\n",
     ""},
    {"netplan", "network:\n  ethernets:\n    eth0:\n      dhcp4: nope\n", "dhcp4 is “nope”, and may be true"},
    {"netplan", "e:\n  addresses:\n    - 10.20.3.17/33\n    - 10.20.3.400/24\n",
     "3:7 addresses is “10.20.3.17/33”|4:7 addresses is"},
    {"netplan", "a:\n  addresses: [10.20.3.17/24, 10.20.3/24]\n", "2:30 addresses is “10.20.3/24”"},
    {"netplan", "r:\n  - to: defalt\n    via: 10.20.3\n", "to is “defalt”|via is “10.20.3”"},
    {"unit",
     "[Unit]\nAfter=network.target tide@%i.service\n[Service]\nType=simple\nRestartSec=5min "
     "20s\nExecStart=/bin/x\nNice=-5\n"
     "MemoryMax=1.5G\nTasksMax=10%\nUMask=0022\n[Install]\nWantedBy=multi-user.target\n",
     ""},
    {"unit", "[Service]\nType=simpel\nRestartSec=5 minuten\n",
     "2:6 Type is “simpel”, and may be simple, exec|3:12 RestartSec is"},
    {"unit", "[Mount]\nType=ext4\nWhere=srv\n", "3:7 Where is “srv”, and may be a path"},
    {"unit", "[Unit]\nAfter=network.target tide\n", "2:22 After is “tide”, and may be a unit"},
    {"network-unit",
     "[Match]\nName=eth*\n[Network]\nDHCP=ipv4\nAddress=10.20.3.17/24\nDNS=10.20.3.1 ::1\n[VLAN]\nId=12\n",
     ""},
    {"network-unit", "[Network]\nDHCP=both\nGateway=10.20.3\n[VLAN]\nId=5000\n",
     "DHCP is “both”|Gateway is “10.20.3”|Id is “5000”"},
    {"network",
     "iface eth0 inet static\n address 10.20.3.17/24\n netmask 24\n gateway 10.20.3.1\n mtu 1500\n", ""},
    {"network", "iface eth0 inet static\n address 10.20.3.17\n gateway gate/1\n mtu 5\n",
     "gateway is “gate/1”|mtu is “5”"},
    {"csv", "a,b\n1,\"x,\ny\"\n3,4\n", ""},
    {"csv", "a;b;c\n1;2,5;3\n4;5\n", "3:0 this row has 2 cells, and the first one 3"},
    {"csv", "a,b\n1,\"x\n3,4\n", "2:0 a quote is open"},
    {"csv", "a\tb\n1\t2\n", ""},
    {"csv", "only\none\n", ""},
    {"hosts", "10.20.3 kiosk\n", "“10.20.3” is no address"},
};

TEST(texts_are_checked)
{
    for (size_t i = 0; i < sizeof texts / sizeof *texts; i++) {
        Bytes found = {0};
        char name[200];
        snprintf(name, sizeof name, "%s: %.100s", texts[i].kind, texts[i].text);
        check_case(name);
        found_in(texts[i].kind, texts[i].text, false, &found);
        if (!texts[i].want[0])
            CHECK_STR(bytes_str(&found), "");
        else
            check_parts(bytes_str(&found), texts[i].want);
        bytes_free(&found);
    }
    check_case(NULL);
}

/* Any bytes may come. */
TEST(random_bytes_are_checked)
{
    static const char *const kinds[] = {"json",     "json-with-comments", "yaml",  "xml",    "ini",
                                        "schedule", "system-schedule",    "fstab", "passwd", "hosts"};
    static const char signs[] = "{}[]\",: \n\t/*<>&;=-#'!|%0123456789abc\\\x01\xff\xc3";
    for (int round = 0; round < 4000; round++) {
        char text[120];
        size_t n = check_random(sizeof text - 1);
        for (size_t i = 0; i < n; i++)
            text[i] = signs[check_random(sizeof signs)];
        text[n] = 0;
        Bytes found = {0};
        found_in(kinds[check_random(10)], text, true, &found);
        bytes_free(&found);
    }
}

/* What other programs say is read by the kind's expression, however odd it is. */
TEST(outputs_are_read)
{
    static const struct {
        const char *kind, *output, *want, *file;
    } cases[] = {
        {"sudoers", "stdin:3:9: syntax error\nkai ALL=(ALL NOPASSWD ALL\n        ^~~~\n", "3:9 syntax error",
         NULL},
        {"sudoers", "stdin: parsed OK\n", "", NULL},
        {"unbound", "/x/u.conf:3: error: unknown keyword 'prot'\n/x/u.conf:3: error: stray ':'\n",
         "3:0 unknown keyword 'prot'\n", NULL},
        {"unbound", "unbound-checkconf: no errors in /x/u.conf\n", "", NULL},
        {"chrony", "2026-11-30T23:02:16Z Fatal error : Invalid directive at line 2 in file /x/c.conf\n",
         "2:0 Invalid directive", NULL},
        {"apparmor",
         "AppArmor parser error for /x/a in profile /x/a at line 3: syntax error, unexpected TOK_ID\n",
         "3:0 syntax error, unexpected TOK_ID", NULL},
        {"rsyslog",
         "rsyslogd: error during parsing file /x/r.conf, on or before line 3: invalid property 'x' "
         "[v8.2302.0 try x ]\n"
         "rsyslogd: error during parsing file /x/r.conf, on or before line 4: syntax error on token '' [v8 "
         "try y ]\n",
         "3:0 invalid property 'x' \n", NULL},
        {"netplan",
         "/etc/netplan/a.yaml:5:14: Error in network definition: invalid boolean value 'nope'\n      dhcp4: "
         "nope\n",
         "5:14 Error in network definition: invalid boolean", NULL},
        {"squid", "2026/11/30 23:02:57| /x/s.conf(2): unrecognized: 'http_accesss'\n",
         "2:0 unrecognized: 'http_accesss'", NULL},
        {"squid",
         "2026/11/30 23:10:25| aclParseAccessLine: /x/s.conf line 3: http_access alow here\n"
         "2026/11/30 23:10:25| aclParseAccessLine: expecting 'allow' or 'deny', got 'alow'.\n",
         "3:0 expecting 'allow'", NULL},
        {"squid", "2026/11/30 23:02:57| FATAL: Bungled /x/s.conf line 2: acl x\n", "2:0 acl x", NULL},
        {"blocks", "(/x/keepalived.conf: Line 2) Unknown keyword 'stat'\n", "2:0 Unknown keyword 'stat'",
         NULL},
        {"blocks",
         "doveconf: Fatal: Error in configuration file /x/do.conf line 3: Unknown setting: foo_bar\n",
         "3:0 Unknown setting: foo_bar", NULL},
        {"monit", "/x/monitrc:2: syntax error 'x'\n", "2:0 syntax error 'x'", NULL},
        {"dnsmasq", "\ndnsmasq: bad option at line 2 of /x/dm.conf\n", "2:0 bad option", NULL},
        {"lighttpd",
         "x: (configfile.c.2164) source: /x/l.conf line: 4 pos: 0 parser failed somehow near here: (EOL)\n",
         "4:0 parser failed somehow", NULL},
        {"lighttpd", /* what it was kept from running */
         "x: command \"touch a\" exited non-zero: 13\nx: source: /x/l.conf line: 2 pos: 0 parser failed "
         "somehow\n",
         "", NULL},
        {"exim",
         "2026-11-30 23:02:16 Exim configuration error in line 2 of /x/e.conf:\n  main option \"foo\" "
         "unknown\n",
         "2:0 main option \"foo\" unknown", NULL},
        {"mysql", "2026-11-30 23:02:16 0 [ERROR] mariadbd: unknown variable 'portt=3306'\n",
         "0:0 unknown variable 'portt=3306'", NULL},
        {"prometheus", "  FAILED:\n/x/a.rules: 5:11: group \"x\": could not parse expression\n",
         "5:11 group \"x\"", NULL},
        {"prometheus",
         "  FAILED: parsing YAML file /x/p.yml: yaml: unmarshal errors:\n  line 2: field x not found\n",
         "2:0 field x not found", NULL},
        {"kea", "/x/kea.conf:2.2-16: got unexpected keyword \"lease-databas\" in Dhcp4 map.\n",
         "2:2 got unexpected keyword", NULL},
        {"fail2ban", "ERROR Source contains parsing errors: '/x/jail.local'\n\t[line  3]: 'foo\\n'\n",
         "3:0 'foo", NULL},
        {"sshd",
         "/tmp/x/sshd_config: line 4: Bad configuration option: Prot\n"
         "/tmp/x/sshd_config: terminating, 1 bad configuration options\n",
         "4:0 Bad configuration option: Prot", NULL},
        {"shell", "bash: line 7: syntax error near unexpected token `done'\nbash: line 7: `done'\n",
         "7:0 syntax error near unexpected token `done'", NULL},
        {"python", "3:5: invalid syntax\n", "3:5 invalid syntax", NULL},
        {"python", "3:5: bad \033[31m name\001\n", "3:5 bad  [31m name ", NULL},
        {"nftables", "/x/a:2:7-9: Error: syntax error, unexpected newline\n", "2:7 syntax error", "/x/a"},
        {"nftables", "/x/b:2:7-9: Error: syntax error, unexpected newline\n", "", "/x/a"},
        {"nginx", "2026/11/27 [emerg] 3#3: unknown directive \"prt\" in /etc/nginx/nginx.conf:9\n",
         "9:0 unknown directive \"prt\"", "/etc/nginx/nginx.conf"},
        {"nginx", "nginx: [emerg] open() \"/run/nginx.pid\" failed (13: Permission denied)\n", "", "/x"},
        {"apache",
         "apache2: Syntax error on line 7 of /etc/apache2/apache2.conf: Syntax error on line 3 of "
         "/etc/apache2/sites-enabled/a.conf: Invalid command 'Lissten'\n",
         "3:0 Invalid command 'Lissten'", "/etc/apache2/sites-enabled/a.conf"},
        {"apache", "AH00526: Syntax error on line 3 of /etc/apache2/a.conf:\nInvalid command 'Lissten'\n",
         "3:0 Invalid command 'Lissten'", "/etc/apache2/a.conf"},
        {"zone", "dns_rdata_fromtext: /x/db.a:4: near '10.20.3.300': bad dotted quad\nzone a/IN: x\n",
         "4:0 near '10.20.3.300'", "/x/db.a"},
        {"zone", "/x/db.a:4: ignoring out-of-zone data (x)\n", "", "/x/db.a"},
        {"postfix",
         "postconf: fatal: /etc/postfix/main.cf, line 4: missing '=' after attribute name: \"x\"\n",
         "4:0 missing '='", "/etc/postfix/main.cf"},
        {"postfix", "postconf: warning: /etc/postfix/main.cf: unused parameter: my_net=tern\n",
         "0:0 unused parameter: my_net=tern", "/etc/postfix/main.cf"},
        {"docker", "-:3 DL3020 error: Use COPY instead of ADD\n-:4 DL3006 warning: x\n", "3:0 Use COPY",
         NULL},
        {"docker", "-:3:1 unexpected 'X'\n", "3:1 unexpected 'X'", NULL},
        {"packet-filter",
         "iptables-restore v1.8.9 (nf_tables): unknown option \"--dpt\"\nError occurred at "
         "line: 3\nTry more\n",
         "3:0 unknown option \"--dpt\"", NULL},
        {"packet-filter", "iptables-restore: line 4 failed: No chain\n", "4:0 failed: No chain", NULL},
        {"packet-filter", "ip6tables-restore: line 4 failed\n", "4:0 failed", NULL},
        {"named", "/x/named.conf:1: change directory to '/y' failed: file not found\n", "", "/x/named.conf"},
        {"named", "/x/named.conf:7: unknown option 'foo'\n", "7:0 unknown option 'foo'", "/x/named.conf"},
        {"haproxy", "[ALERT]    (9) : config : parsing [/x/h.cfg:6] : unknown keyword 'foo' in 'frontend'\n",
         "6:0 unknown keyword 'foo'", "/x/h.cfg"},
        {"haproxy", "[WARNING]  (9) : config : parsing [/x/h.cfg:6] : a hint\n", "", "/x/h.cfg"},
        {"samba", "Unknown parameter encountered: \"workgrp\"\n", "0:0 Unknown parameter encountered", NULL},
        {"boot", "Syntax error at line 12\n", "12:0 Syntax error", NULL},
        {"network", "ifquery: /etc/network/interfaces:2: unknown or no method\n", "2:0 unknown or no method",
         "/etc/network/interfaces"},
        {"fstab", "/srv\n   [W] x\n   [E] unreachable on boot required target: No such file\n",
         "0:0 hint: unreachable on boot", NULL},
        {"fstab", "/srv\n   [W] x\n/mnt\n   [W] y\n", "", NULL},
        {"desktop", "x: error: file contains key \"Nme\" in group \"Desktop Entry\", but\n",
         "0:0 file contains key", NULL},
        {"json", "jq: parse error: Expected separator between values at line 2, column 7\n",
         "2:7 Expected separator", NULL},
        {"yaml", "stdin:2:1: [error] duplication of key \"a\" in mapping (key-duplicates)\n",
         "2:1 duplication of key", NULL},
        {"xml", "-:1: parser error : Start tag expected, '<' not found\n", "1:0 parser error", NULL},
        {"python", "99999999999999999999:1: x\n", ":1 x", NULL},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        size_t n;
        Problems all = {0};
        Bytes found = {0};
        const Check *checks = checks_of(kind_named(cases[i].kind), &n, NULL);
        check_case(cases[i].output);
        for (size_t k = 0; k < n; k++) {
            Err why;
            CheckSaid said = {cases[i].output, strlen(cases[i].output), 0, 0, false};
            if (checks[k].run)
                check_judge(&checks[k], &said, "", 0, cases[i].file, &all, &why);
        }
        add_found(&all, &found);
        check_result(cases[i].want[0] ? strstr(bytes_str(&found), cases[i].want) != NULL : found.len == 0,
                     __FILE__, __LINE__, "read “%s”, wanted “%s”", bytes_str(&found), cases[i].want);
        bytes_free(&found);
        problems_free(&all);
    }
    check_case(NULL);
}

/* How a program ends counts for as much as what it says: what was not foreseen is never "right". */
TEST(verdicts)
{
    static const struct {
        const char *kind, *output;
        int status, signal;
        Verdict verdict;
        const char *says; /* of the problem, or why there is no verdict */
    } cases[] = {
        {"sudoers", "stdin: parsed OK\n", 0, 0, VERDICT_RIGHT, ""},
        {"sudoers", "", 1, 0, VERDICT_WRONG, "visudo found it wrong, and did not say why (exit status 1)"},
        {"sudoers", "stdin: odd\n\n  no such berth  \n\n", 1, 0, VERDICT_WRONG,
         "visudo found it wrong:   no such berth"},
        {"sudoers", "stdin:1:1: x\n", 1, 0, VERDICT_WRONG, "x"},
        {"sudoers", "", 0, 11, VERDICT_UNSURE, "was ended by signal 11"},
        {"sudoers", "", 126, 0, VERDICT_NONE, "could not be run"},
        {"sshd", "Unsupported KEX algorithm \"x\"\n", 255, 0, VERDICT_WRONG,
         "sshd found it wrong: Unsupported"},
        {"sshd", "Unable to load host key: /no/such/key\nsshd: no hostkeys available -- exiting.\n", 1, 0,
         VERDICT_WRONG, "Unable to load host key: /no/such/key"},
        {"sshd", "sshd: no hostkeys available -- exiting.\n", 1, 0, VERDICT_NONE,
         "could not tell: sshd: no host"},
        {"sshd", "/x/h.cfg: line 2: Bad\nno hostkeys available\n", 255, 0, VERDICT_WRONG, "Bad"},
        {"toml", "Unclosed array (at end of document)\n", 1, 0, VERDICT_WRONG,
         "python3 found it wrong: Unclosed"},
        {"haproxy", "[ALERT] (1) : config : Proxy 'f': unable to find required default_backend: 'x'.\n", 1, 0,
         VERDICT_WRONG, "haproxy found it wrong: [ALERT]"},
        {"haproxy", "[ALERT] (9) : config : parsing [/y/h.cfg:6] : unknown 'foo'\n", 1, 0, VERDICT_UNSURE,
         "finds in /y/h.cfg: unknown 'foo'"},
        {"sshd", "/etc/ssh/sshd_config.d/pier.conf line 3: Deprecated option\n", 0, 0, VERDICT_RIGHT, ""},
        {"sshd", "/x/h.cfg line 3: Deprecated option\n", 0, 0, VERDICT_WRONG, "Deprecated option"},
        {"sshd", "/x/pier.conf: line 3: Bad option\n", 255, 0, VERDICT_UNSURE,
         "finds in /x/pier.conf: Bad option"},
        {"unit", "h.cfg.service: Command /usr/bin/tidee is not executable: No such file or directory\n", 1, 0,
         VERDICT_WRONG, "Command /usr/bin/tidee is not executable"},
        {"unit", "tide.socket: service tide.service not loaded, socket cannot be started.\n", 1, 0,
         VERDICT_NONE, "could not tell: tide.socket"},
        {"javascript",
         "/x/h.cfg:1\nimport a\n^^^\n\nSyntaxError: Cannot use import statement outside a module\n", 1, 0,
         VERDICT_NONE, "could not tell: Cannot use import"},
        {"nftables", "/x/h.cfg:9:1-4: Error: Interface does not exist\n", 1, 0, VERDICT_NONE,
         "could not tell"},
        {"named", "/x/named.conf:1: change directory to '/y' failed: file not found\n", 1, 0, VERDICT_NONE,
         "could not tell"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Problems all = {0};
        Err why;
        CheckSaid said = {cases[i].output, strlen(cases[i].output), cases[i].status, cases[i].signal, false};
        check_case(cases[i].output);
        Verdict v = check_judge(first_program(cases[i].kind), &said, "", 0, "/x/h.cfg", &all, &why);
        CHECK_INT(v, cases[i].verdict);
        check_parts(v == VERDICT_WRONG && all.n ? all.at[0].words : why.text, cases[i].says);
        CHECK_INT(all.n, v == VERDICT_WRONG);
        problems_free(&all);
    }
    check_case(NULL);
}

/* A flood that fits the expression nearly everywhere is read in no time, and is no "right". */
/* What a checker would write goes to nowhere, but where it could not be written at all. */
TEST(what_checkers_write)
{
    static const char text[] = "error_log /tmp/berths.log info;\npid /no-such-harbour/tide.pid;\n";
    static const char want[] = "error_log /dev/null info;\npid /no-such-harbour/tide.pid;\n";
    size_t n;
    Bytes out = {0};
    const Check *c = checks_of(kind_named("nginx"), &n, NULL);
    CHECK(n == 1 && check_without_writes(&c[0], text, strlen(text), &out));
    CHECK_STR(bytes_str(&out), want);
    bytes_free(&out);
}

TEST(floods_are_read)
{
    size_t n;
    Problems all = {0};
    Err why;
    Bytes flood = {0};
    for (int i = 0; i < 500000; i++)
        bytes_add_str(&flood, "error: ");
    CheckSaid said = {flood.at, flood.len, 0, 0, true};
    CHECK_INT(check_judge(checks_of(kind_named("logrotate"), &n, NULL), &said, "", 0, NULL, &all, &why),
              VERDICT_UNSURE);
    problems_free(&all);
    bytes_free(&flood);
}

/* What one program says of a text, as "line:column words"; false when it is not installed here. */
static bool found_by(const char *program, const char *name, const char *text, Bytes *out)
{
    Err e = {""};
    Text t = {0};
    char *full = programs_find(program, true), path[200];
    const Check *check = NULL;
    Encoding utf8 = encoding_guess((Text){0});
    size_t n;
    snprintf(path, sizeof path, "%s", check_path(name));
    const Check *all = checks_of(kind_of(path, text, strlen(text)), &n, NULL);
    for (size_t i = 0; i < n; i++)
        check = strcmp(all[i].name, program) == 0 ? &all[i] : check;
    CHECK(check != NULL);
    bool installed = full && check;
    free(full);
    if (!installed)
        return false;
    CHECK(text_insert(&t, 0, text, strlen(text)));
    CheckWork *w = check_work_begin(check, t, path, NULL, &utf8, &e);
    CheckResult r = {0};
    CHECK(w != NULL);
    while (w && !check_work_poll(w, &r))
        usleep(2000);
    for (size_t i = 0; i < r.found.n; i++) {
        FileProblem p = checking_place(t, &r.found.at[i]);
        bytes_printf(out, "%zu:%zu %s\n",
                     r.found.at[i].line ? r.found.at[i].line : text_line_of(t, p.from) + 1,
                     r.found.at[i].column, r.found.at[i].words);
        free(p.words);
    }
    if (r.verdict != VERDICT_RIGHT && r.verdict != VERDICT_WRONG)
        bytes_printf(out, "none: %s\n", r.why.text);
    check_result_free(&r);
    if (w)
        check_work_end(w);
    text_drop(&t);
    return true;
}

/* The programs themselves, where they are installed; those that stand in tools/deps are. */
TEST(programs_check)
{
    static const struct {
        const char *program, *name, *text, *want;
    } cases[] = {
        {"jq", "fares.json", "{\"a\": 1}\n[2]\n", ""},
        {"jq", "fares.json", "{\"a\": 1,\n \"b\" 2}\n", "2:7 "},
        {"yamllint", "berths.yaml", "a: 1\nb:   [x]\n", ""},
        {"yamllint", "berths.yaml", "a: 1\na: 2\n", "2:1 duplication of key"},
        {"xmllint", "pier.xml", "<a/>\n", ""},
        {"xmllint", "pier.xml", "<a>\n<b></a>\n", "2:0 parser error"},
        {"desktop-file-validate", "tide.desktop", "[Desktop Entry]\nType=Application\nName=Tide\nExec=tide\n",
         ""},
        {"desktop-file-validate", "tide.desktop", "[Desktop Entry]\nType=Application\nNme=Tide\n",
         "3:0 file contains key \"Nme\""},
        {"luac", "tide.lua", "local x = 1\n", ""},
        {"luac", "tide.lua", "x = 1\ny = = 1\n", "2:0 unexpected symbol"},
        {"named-checkzone", "db.harrow",
         "$TTL 1h\n@ IN SOA ns root 1 2 3 4 5\n IN NS ns\nns IN A 10.20.3.2\n", ""},
        {"named-checkzone", "db.harrow",
         "$ORIGIN harrow.example.\n$TTL 1h\nharrow.example. IN SOA ns root 1 2 3 4 5\n IN NS ns\nns IN A "
         "10.20.3.2\n",
         ""},
        {"named-checkzone", "db.harrow",
         "$TTL 1h\n@ IN SOA ns root 1 2 3 4 5\n IN NS ns\nns IN A 10.20.3.300\n", "4:0 near '10.20.3.300'"},
        {"named-checkconf", "named.conf", "options { directory \"/nowhere\"; };\n", "none: could not tell"},
        {"named-checkconf", "named.conf", "options {\n  recursoin no;\n};\n",
         "2:0 unknown option 'recursoin'"},
        {"visudo", "sudoers", "kai ALL=(ALL) ALL\n", ""},
        {"unbound-checkconf", "unbound.conf", "server:\n  port: 53\n", ""},
        {"unbound-checkconf", "unbound.conf", "server:\n  prot: 53\n", "2:0 unknown keyword 'prot'"},
        {"nsd-checkconf", "nsd.conf", "server:\n  port: 53\n", ""},
        {"nsd-checkconf", "nsd.conf", "server:\n  port: 53x\n", "2:0 expected a number"},
        {"chronyd", "chrony.conf", "pool 0.pool.example iburst\nmakestep 1 3\n", ""},
        {"chronyd", "chrony.conf", "makestepp 1 3\n", "1:0 Invalid directive"},
        {"rsyslogd", "rsyslog.conf", "module(load=\"imuxsock\")\n*.* /var/log/x\n", ""},
        {"rsyslogd", "rsyslog.conf", "module(load=\"imuxsock\")\n*.* /var/log/x\nif $x then {\n",
         "3:0 invalid property"},
        {"squid", "squid.conf", "http_port 3128\nhttp_accesss allow all\n", "2:0 unrecognized"},
        {"dnsmasq", "dnsmasq.conf", "port=53\n", ""},
        {"dnsmasq", "dnsmasq.conf", "port=53\nserverr=1.2.3.4\n", "2:0 bad option"},
        {"lighttpd", "lighttpd.conf", "server.document-root = \"/srv\"\n x\n", "parser failed"},
        {"mariadbd", "my.cnf", "[mysqld]\nportt=3306\n", "unknown variable 'portt"},
        {"monit", "monitrc", "set daemon 30\n", ""},
        {"monit", "monitrc", "set daemon 30\ncheck proces x\n", "2:0 syntax error"},
        {"keepalived", "keepalived.conf", "vrrp_instance a {\n  stat MASTER\n}\n", "2:0 Unknown keyword"},
        {"kea-dhcp4", "kea-dhcp4.conf", "{ \"Dhcp4\": { \"lease-databas\": {} } }\n", "unexpected keyword"},
        {"promtool", "prometheus.yml", "global:\n  scrape_interval: 5s\n", ""},
        {"promtool", "prometheus.yml", "global:\n  scrape_intervall: 5s\n", "2:0 field scrape_intervall"},
        {"visudo", "sudoers", "\nkai ALL=(ALL\n", "2:"},
        {"bash", "a.sh", "#!/bin/sh\nif true; then echo; fi\n", ""},
        {"bash", "a.sh", "#!/bin/sh\nif true; then\n", "syntax error"},
        {"python3", "a.py", "x = 1\n", ""},
        {"python3", "a.py", "x = = 1\n", "1:5 "},
        {"python3", "a.toml", "x = 1\nx = 2\n", "2:"},
        {"logrotate", "logrotate.conf", "/var/log/no-such-tide {\n  weekly\n}\n",
         "none: could not tell: error: stat of"},
        {"logrotate", "logrotate.conf", "/var/log/ti* {\n  weekly\n  missingok\n}\n", ""},
        {"logrotate", "logrotate.conf", "/var/log/ti* {\n  weeklyy\n  missingok\n}\n", "2:0 "},
        {"logrotate", "logrotate.conf", "/var/log/ti* {\n  postrotate\n  x\n  endscrip\n}\n",
         "without endscript"},
        {"haproxy", "haproxy.cfg", "frontend f\n bind :80\n default_backend nowhere\n",
         "haproxy found it wrong"},
        {"python3", "a.toml", "x = [1, 2\n", "found it wrong: Unclosed"},
        {"sshd", "sshd_config", "Port 22\nHostKey /no/such/key\n", "2:0 Unable to load host key"},
        {"sshd", "sshd_config", "Port 22\nCiphers none-such\n", "2:0 "},
        {"ssh", "ssh_config", "Host quay\n  Port 22\n  User mira\n", ""},
        {"ssh", "ssh_config", "Host quay\n  Port 22\nPrt 23\n", "3:0 Bad configuration option: prt"},
        {"ssh", "ssh_config", "Host *\n  Port x\n", "2:0 "},
        {"ssh", "ssh_config", "Match exec \"touch /tmp/squill-was-run\"\n  Port 22\n", "none: "},
        {"dash", "run", "#!/bin/sh\nif true; then\n  echo x\nfi\n", ""},
        {"dash", "run", "#!/bin/sh\na=(1 2)\n", "2:0 Syntax error"},
        {"ruby", "a.rb", "puts 1\n", ""},
        {"ruby", "a.rb", "def x\n  1 +\nend end\n", ":0 syntax error"},
        {"php", "a.php", "<?php\n$a = 1;\n", ""},
        {"php", "a.php", "<?php\n$a = ;\n", "2:0 "},
        {"haproxy", "haproxy.cfg", "frontend f\n bind :80\n foo bar\n", "3:0 unknown keyword 'foo'"},
        {"sshd", "sshd_config", "Port 22\n", ""},
        {"sshd", "sshd_config", "Port 22\nPrt 4\nPermitRootLogin perhaps\n",
         "2:0 Bad configuration option: Prt|3:0 "},
        {"testparm", "smb.conf", "[global]\n workgroupp = X\n", "2:0 Unknown parameter"},
        {"ifquery", "interfaces", "auto lo\niface lo inet loopback\n", ""},
        {"ifquery", "interfaces", "auto lo\niface lo inet loopbackk\n", "2:0 unknown or no method"},
        {"node", "a.js", "let a = 1;\n", ""},
        {"node", "a.js", "let a = 1;\nlet b = ;\n", "2:0 "},
        {"nft", "nftables.conf", "table inet t {\n chain c {\n  tcp dportt 22 accept\n }\n}\n",
         "3:7 syntax error"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes found = {0};
        check_case(cases[i].text);
        if (!found_by(cases[i].program, cases[i].name, cases[i].text, &found)) {
            check_skip("%s is not installed", cases[i].program);
            bytes_free(&found);
            continue;
        }
        if (!cases[i].want[0] && strncmp(bytes_str(&found), "none: could not tell", 20) == 0)
            check_skip("%s", bytes_str(&found)); /* what it needs is missing on this machine */
        else if (!cases[i].want[0])
            CHECK_STR(bytes_str(&found), "");
        else
            check_parts(bytes_str(&found), cases[i].want);
        bytes_free(&found);
    }
    check_case(NULL);
}

static const char *place_path(const CheckPlace *p, const char *name)
{
    static char path[400];
    snprintf(path, sizeof path, "%s/%s", p->folder, name);
    return path;
}

/* Words that must be in a list which a program said. */
/* A complaint without a line goes to the word that it names in quotes. */
TEST(complaints_about_a_word)
{
    static const char text[] = "[a]\nname = x\ntide = high\n";
    static const struct {
        const char *said, *about;
    } cases[] = {
        {"unknown setting 'tide' here\n", "tide"},
        {"unknown setting \"tide\"\n", "tide"},
        {"“name = x” is not meant so\n", "name = x"},
        {"unknown setting 'ebb'\n", NULL},
        {"wrong\n", NULL},
        {"it's 'tide\n", NULL},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Problems all = {0};
        Err why;
        CheckSaid said = {cases[i].said, strlen(cases[i].said), 1, 0, false};
        check_case(cases[i].said);
        CHECK_INT(check_judge(first_program("shell"), &said, text, strlen(text), "/x/a", &all, &why),
                  VERDICT_WRONG);
        CHECK(all.n == 1 && (cases[i].about ? all.at[0].about && strcmp(all.at[0].about, cases[i].about) == 0
                                            : !all.at[0].about));
        problems_free(&all);
    }
}

/* What this machine has not is no more than a hint, and holds nothing up. */
TEST(of_this_machine)
{
    static const struct {
        const char *kind, *text, *want;
    } cases[] = {
        {"system-schedule", "1 2 * * * root true\n", ""},
        {"system-schedule", "1 2 * * * no-such-user true\n",
         "1:11 hint: user: this machine has no “no-such-user”"},
        {"system-schedule", "1 2 * * * 5tide true\n", "1:11 “5tide” is no user"},
        {"group", "root:x:0:root,no-such-user\n", "1:15 hint: member: this machine has no"},
        {"passwd", "root:x:0:0::/root:/bin/sh\n", ""},
        {"passwd", "root:x:0:0::/root:/bin/no-such-shell\n", "1:19 hint: shell: this machine has no"},
        {"sysctl", "kernel.hostname = kiosk\n-kernel/hostname=kiosk\n", ""},
        {"sysctl", "kernel.hostnam = kiosk\n", "1:1 hint: setting: this machine has no “kernel.hostnam”"},
        {"pam", "auth required /no/such/pam_x.so\n", "hint: module: this machine has no"},
        {"unit", "[Service]\nUser=no-such-user\nGroup=%i\n",
         "2:6 hint: User: this machine has no “no-such-user”"},
        {"unit", "[Service]\nUser=root\nGroup=0\n", ""},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes found = {0}, elsewhere = {0};
        check_case(cases[i].text);
        found_in(cases[i].kind, cases[i].text, true, &found);
        found_in(cases[i].kind, cases[i].text, false, &elsewhere);
        if (cases[i].want[0])
            CHECK(strstr(bytes_str(&found), cases[i].want) != NULL);
        else
            CHECK_STR(bytes_str(&found), "");
        CHECK(!strstr(bytes_str(&elsewhere), "this machine")); /* of a file of another one nobody knows */
        bytes_free(&found);
        bytes_free(&elsewhere);
    }
}

TEST(unknown_words)
{
    static const struct {
        const char *said, *text, *want; /* want NULL: that is no list */
    } cases[] = {
        {"NAME\n       Address=\n           x\n       DHCP=, Gateway=\n",
         "[Network]\nDHCP=yes\nAddress = x\n", ""},
        {"       Address=\n", "[Network]\n  Adress=x\n",
         "2:3 “Adress” is unknown to systemd.directives(7)\n"},
        {"       Address=\n", "Address=x \\\n  Foo=y\nX-Own=z\n# Bar=\n", ""},
        {"       Address=\n", "A=1\nB=2\nA=3", "1:1 “A” is unknown|2:1 “B” is|3:1 “A” is"},
        {"No manual entry\n", "A=1\n", NULL},
        {"", "", NULL},
    };
    size_t n;
    const Check *all = checks_of(kind_named("unit"), &n, NULL), *check = &all[2];
    CHECK(check->knows && check_fits(check, "/etc/systemd/journald.conf", "", 0));
    CHECK(!check_fits(check, "/etc/systemd/system/a.service", "", 0));
    CHECK(kind_named("network-unit")->risky);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Problems found = {0};
        Bytes out = {0};
        const char *want = cases[i].want;
        check_case(cases[i].text);
        CheckSaid said = {cases[i].said, strlen(cases[i].said), 0, 0, false};
        Err why;
        Verdict v = check_judge(check, &said, cases[i].text, strlen(cases[i].text), NULL, &found, &why);
        CHECK_INT(v, !want ? VERDICT_NONE : *want ? VERDICT_WRONG : VERDICT_RIGHT);
        add_found(&found, &out);
        if (!want || !*want)
            CHECK_STR(bytes_str(&out), "");
        else
            check_parts(bytes_str(&out), want);
        bytes_free(&out);
        problems_free(&found);
    }
    check_case(NULL);
}

/* One that needs the whole folder gets a copy of it, in which everything leads to the copy. */
TEST(a_folder_is_copied)
{
    char tree[200], other[200];
    Err e = {""};
    Text text = {0};
    CheckPlace place = {0};
    snprintf(tree, sizeof tree, "%s", check_path("tree"));
    snprintf(other, sizeof other, "%s", check_path("other"));
    const char *const run[] = {"quay", "-c", "FOLDER/main", "x=FOLDER/y", "FILE", NULL};
    const Check check = {.name = "quay", .run = run, .in_folder = tree};
    char *large = mem_get(2 << 20), line[600];
    memset(large, 'x', (2 << 20) - 1);
    mkdir(tree, 0755);
    mkdir(check_path("tree/parts"), 0755);
    mkdir(check_path("tree/used"), 0755);
    snprintf(line, sizeof line, "include %s/used/*;\nnot %s-old/x\n", tree, tree);
    check_put("tree/main", line);
    check_put("tree/parts/a", "berth 1\n");
    check_put("tree/large", large);
    check_put("tree/key", "secret\n");
    chmod(check_path("tree/key"), 0600);
    check_put("other", "elsewhere\n");
    CHECK(symlink("../parts/a", check_path("tree/used/a")) == 0);
    CHECK(symlink(other, check_path("tree/used/other")) == 0);
    CHECK(symlink("nowhere", check_path("tree/used/gone")) == 0);
    snprintf(line, sizeof line, "berth 2 of %s\n", tree);
    CHECK(text_insert(&text, 0, line, strlen(line)));
    CHECK(check_fits(&check, check_path("tree/parts/a"), "", 0));
    CHECK(!check_fits(&check, other, "", 0));
    /* By the name of a link, too: what it leads to is meant. */
    CHECK(check_place_make(&place, &check, check_path("tree/used/a"), text, "/x/quay", (Stop){0}, &e));
    size_t n;
    snprintf(line, sizeof line, "include %s/used/*;\nnot %s-old/x\n", place.folder, tree);
    CHECK_STR(check_read(place_path(&place, "main"), &n), line);
    snprintf(line, sizeof line, "berth 2 of %s\n", place.folder);
    CHECK_STR(check_read(place_path(&place, "used/a"), &n), line);
    CHECK_STR(check_read(place_path(&place, "used/other"), &n), "elsewhere\n");
    CHECK(access(place_path(&place, "used/gone"), F_OK) != 0);
    struct stat st;
    CHECK(lstat(place_path(&place, "key"), &st) == 0 && S_ISLNK(st.st_mode)); /* never copied */
    check_read(place_path(&place, "large"), &n);
    CHECK_INT(n, (2 << 20) - 1);
    CHECK_STR(place.copy, place_path(&place, "parts/a"));
    CHECK_STR(place.words[1], "-c");
    CHECK_STR(place.words[2], place_path(&place, "main"));
    snprintf(line, sizeof line, "x=%s/y", place.folder);
    CHECK_STR(place.words[3], line);
    Bytes said = {0}, out = {0};
    bytes_printf(&said, "%s:3: bad\n", place.copy);
    check_place_translate(&place, &said, &out);
    snprintf(line, sizeof line, "%s/parts/a:3: bad\n", tree);
    CHECK_STR(bytes_str(&out), line);
    bytes_free(&said);
    bytes_free(&out);
    snprintf(line, sizeof line, "%s", place.folder);
    check_place_remove(&place);
    CHECK(access(line, F_OK) != 0);
    CHECK_STR(check_read(check_path("tree/parts/a"), &n), "berth 1\n");
    CHECK_STR(check_read(other, &n), "elsewhere\n");
    text_drop(&text);
    free(large);
}

/* A checker of shell scripts is for those that it knows. */
TEST(checkers_fit_their_files)
{
    static const struct {
        const char *path, *head;
        bool fits[3]; /* bash, dash, shellcheck */
    } cases[] = {
        {"/x/a.sh", "#!/bin/sh\n", {true, true, true}},
        {"/x/a", "#! /usr/bin/env bash -e\necho", {true, false, true}},
        {"/x/a", "#!/bin/zsh\n", {false}},
        {"/x/a", "#!/usr/bin/fish\n", {false}},
        {"/x/.bashrc", "alias x=y\n", {true}},
        {"/x/.zshrc", "alias x=y\n", {false}},
        {NULL, "", {true}},
    };
    size_t n;
    const Check *checks = checks_of(kind_named("shell"), &n, NULL);
    CHECK_INT(n, 3);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++)
        for (size_t k = 0; k < n && k < 3; k++) {
            check_case(cases[i].head);
            CHECK(check_fits(&checks[k], cases[i].path, cases[i].head, strlen(cases[i].head)) ==
                  cases[i].fits[k]);
        }
    check_case(NULL);
}

static Editor *checked(const char *kind, const char *text)
{
    Editor *ed = editors_start(text, strlen(text), 24, 100);
    openfile_set_kind(ed->panes.view->file, kind_named(kind));
    CHECK(checking_begin(ed->session, ed->panes.view->file, false));
    checking_finish(ed->session, ed->panes.view->file, (Stop){0});
    return ed;
}

/* What was found moves with the text, and goes when its place is changed. */
TEST(problems_follow_the_text)
{
    Editor *ed = checked("schedule", "0 1 * * * /a\n60 1 * * * /b\n0 99 * * * /c\n");
    OpenFile *f = ed->panes.view->file;
    size_t n;
    const FileProblem *all = checking_problems(f, &n);
    CHECK_INT(n, 2);
    CHECK_INT(all[0].from, 13);
    CHECK_INT(all[0].to, 15);
    editors_press(ed, "# Enter");
    all = checking_problems(f, &n);
    CHECK_INT(n, 2);
    CHECK_INT(all[0].from, 15);
    CHECK(editors_show(ed, "2 problems"));
    CHECK(strstr(editors_row(ed, 3), " 3 !60 1"));
    editors_press(ed, "F4");
    CHECK_INT(ed->panes.view->cursor.at, 15);
    CHECK(strstr(ed->notices.text, "“60” is no minute"));
    editors_press(ed, "F4");
    CHECK_INT(ed->panes.view->cursor.at, 31);
    editors_press(ed, "Shift+F4 5 Delete Delete");
    all = checking_problems(f, &n);
    CHECK_INT(n, 1);
    CHECK(!checking_is_current(f, false));
    editors_press(ed, "Ctrl+End");
    editors_now += 2500;
    app_tick(ed, editors_now);
    CHECK(editors_show(ed, "1 problem"));
    editors_press(ed, "Esc t b");
    CHECK(editors_show(ed, "“99” is no hour: 0 to 23 or *"));
    editors_press(ed, "Enter");
    CHECK(!ed->layer);
    app_free(ed);
}

/* Against a model: places of problems after random changes. */
TEST(problems_stay_at_their_words)
{
    for (int round = 0; round < 300; round++) {
        Editor *ed =
            checked("schedule", "0 1 * * * /a\n60 1 * * * /b\n0 1 * * * /c\n0 1 * * * /d\n99 1 * * * /e\n");
        OpenFile *f = ed->panes.view->file;
        for (int i = 0; i < 12; i++) {
            size_t len = text_len(doc_text(f->doc)), at = check_random((unsigned)len + 1), n;
            size_t removed = check_random(4) == 0 && at < len ? 1 : 0;
            if (check_random(8) == 0)
                doc_undo(f->doc, &at);
            else
                CHECK(doc_replace(f->doc, at, removed, "x", check_random(2), STEP_WHOLE, at));
            const FileProblem *all = checking_problems(f, &n);
            CHECK(n <= 2);
            for (size_t k = 0; k < n; k++) {
                char two[3] = "";
                CHECK(all[k].to <= text_len(doc_text(f->doc)) && all[k].from < all[k].to);
                text_read(doc_text(f->doc), all[k].from, two, 2);
                CHECK(strcmp(two, "60") == 0 || strcmp(two, "99") == 0);
            }
        }
        app_free(ed);
        if (check_failed())
            break;
    }
}

/* ---- what is told of a place ---- */

TEST(next_run_of_a_schedule)
{
    /* From Fri 27 Nov 2026, 13:10:20 UTC. */
    static const struct {
        const char *line, *next;
    } cases[] = {
        {"30 3 * * * /x", "Sat 28 Nov 2026 03:30"},
        {"*/15 * * * * /x", "Fri 27 Nov 2026 13:15"},
        {"10 13 * * * /x", "Sat 28 Nov 2026 13:10"},
        {"11 13 * * * /x", "Fri 27 Nov 2026 13:11"},
        {"0 0 1 * * /x", "Tue 1 Dec 2026 00:00"},
        {"0 6 * * tue /x", "Tue 1 Dec 2026 06:00"},
        {"0 6 * * 7 /x", "Sun 29 Nov 2026 06:00"},
        {"0 6 31 * * /x", "Thu 31 Dec 2026 06:00"},
        {"0 6 29 feb * /x", "Tue 29 Feb 2028 06:00"},
        {"0 6 1 * sat /x", "Sat 28 Nov 2026 06:00"},
        {"0 6 1 * 1-5 /x", "Mon 30 Nov 2026 06:00"},
        {"0 8-18/5 * * * /x", "Fri 27 Nov 2026 18:00"},
        {"5,50 13 27 11 * /x", "Fri 27 Nov 2026 13:50"},
        {"0 6 31 2 * /x", "never"},
        {"@hourly /x", "Fri 27 Nov 2026 14:00"},
        {"@weekly /x", "Sun 29 Nov 2026 00:00"},
        {"@reboot /x", "at each start"},
        {"x y * * * /x", ""},
        {"MAILTO=mira", ""},
        {"# 1 2 3 4 5 /x", ""},
    };
    setenv("TZ", "UTC", 1);
    tzset();
    const Fields *f = fields_of(kind_named("schedule"), NULL);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        time_t next = 0;
        char words[60] = "";
        check_case(cases[i].line);
        ScheduleNext is = schedule_next(f, cases[i].line, strlen(cases[i].line), 1795785020, &next);
        if (is == SCHEDULE_AT)
            strftime(words, sizeof words, "%a %-d %b %Y %H:%M", gmtime(&next));
        else if (is != SCHEDULE_NONE)
            snprintf(words, sizeof words, "%s", is == SCHEDULE_NEVER ? "never" : "at each start");
        CHECK_STR(words, cases[i].next);
    }
    check_case(NULL);
    /* The night of 28 March 2027 has no hour from 2 to 3 there. */
    static const struct {
        const char *line, *next;
    } spring[] = {
        {"30 2 * * * /x", "28 Mar 03:00"}, {"*/20 * * * * /x", "28 Mar 01:20"},
        {"30 * * * * /x", "28 Mar 01:30"}, {"*/30 2 * * * /x", "29 Mar 02:00"},
        {"30 3 * * * /x", "28 Mar 03:30"},
    };
    setenv("TZ", "CET-1CEST,M3.5.0,M10.5.0/3", 1);
    tzset();
    for (size_t i = 0; i < sizeof spring / sizeof *spring; i++) {
        time_t next = 0;
        char words[60] = "";
        check_case(spring[i].line);
        CHECK_INT(schedule_next(f, spring[i].line, strlen(spring[i].line), 1806192000 + 600, &next),
                  SCHEDULE_AT);
        strftime(words, sizeof words, "%-d %b %H:%M", localtime(&next));
        CHECK_STR(words, spring[i].next);
    }
    check_case(NULL);
    setenv("TZ", "UTC", 1);
    tzset();
}

/* As systemd-analyze(1) has it, where that is installed. */
static void a_calendar(char *out, size_t cap)
{
    static const char *const days[] = {"Mon", "Tue..Thu", "Sat,Sun", "fri", "Mon,Wed,Fri..Sun", "sunday"};
    static const char *const dates[] = {
        "*-*-*",       "*-*-01",  "*-*-1..7",   "*-02~01",  "*-*~03/1", "*-1/3-15", "2026..2028-*-5,20",
        "*-03-28..31", "*-02-29", "6-1",        "*-*-10/5", "2020-*-*", "*-*~1..3", "27-2-3",
        "*-11-30",     "*-02-31", "*-10-20..31"};
    static const char *const times[] = {"10:00",    "0/6:30", "*:*:10/20", "02:30", "23:59:59", "1,5..7:0/15",
                                        "02..03:*", "*:05",   "4..10/3:0", "00:00", "*:*"};
    static const char *const shorts[] = {"daily",  "weekly", "monthly",      "quarterly",
                                         "yearly", "hourly", "minutely UTC", "semiannually"};
    if (check_random(10) == 0) {
        snprintf(out, cap, "%s", shorts[check_random(sizeof shorts / sizeof *shorts)]);
        return;
    }
    unsigned which = 1 + check_random(7);
    snprintf(out, cap, "%s%s%s%s%s%s", which & 1 ? days[check_random(sizeof days / sizeof *days)] : "",
             (which & 1) && (which & 6) ? " " : "",
             which & 2 ? dates[check_random(sizeof dates / sizeof *dates)] : "",
             (which & 2) && (which & 4) ? " " : "",
             which & 4 ? times[check_random(sizeof times / sizeof *times)] : "",
             check_random(6) ? "" : " UTC");
}

TEST(next_run_of_a_timer)
{
    static const struct {
        const char *words, *next;
    } cases[] = {
        {"*-*-* 06:00", "Sat 28 Nov 2026 06:00"},
        {"Mon..Fri 22:30", "Fri 27 Nov 2026 22:30"},
        {"*-*-1/2", "Sun 29 Nov 2026 00:00"},
        {"*-02~01", "Sun 28 Feb 2027 00:00"},
        {"Mon *-05~07/1", "Mon 31 May 2027 00:00"},
        {"*:0/15", "Fri 27 Nov 2026 13:15"},
        {"weekly", "Mon 30 Nov 2026 00:00"},
        {"2027-03-04 05:06:07 UTC", "Thu 4 Mar 2027 05:06"},
        {"2020-01-01", "never"},
        {"*-02-31", "never"},
        {"99-1-1", "never"},
        {"*/2:00", ""},
        {"Sun..Mon", ""},
        {"25:00", ""},
        {"10:00 Europe/Harrow", ""},
        {"5min", ""},
        {"", ""},
    };
    const time_t now = 1795785020; /* Fri 27 Nov 2026, 13:10:20 UTC */
    time_t next = 0;
    setenv("TZ", "UTC", 1);
    tzset();
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char words[60] = "";
        check_case(cases[i].words);
        CalendarNext is = calendar_next(cases[i].words, strlen(cases[i].words), now, &next);
        if (is == CALENDAR_NEVER)
            snprintf(words, sizeof words, "never");
        else if (is == CALENDAR_AT)
            strftime(words, sizeof words, "%a %-d %b %Y %H:%M", gmtime(&next));
        CHECK_STR(words, cases[i].next);
    }
    check_case(NULL);
    if (!check_shell(
            "command -v systemd-analyze >/dev/null && systemd-analyze calendar daily >/dev/null 2>&1"))
        return;
    setenv("TZ", "Europe/Berlin", 1); /* where the clock is set twice a year */
    tzset();
    for (int i = check_rounds(20); i > 0 && !check_failed(); i--) {
        char words[100], line[300], is[60] = "never";
        time_t base = now + (time_t)check_random(3600 * 24 * 700);
        size_t n;
        a_calendar(words, sizeof words);
        snprintf(line, sizeof line,
                 "systemd-analyze --base-time=@%lld calendar '%s' | sed -n 's/^ *Next elapse: //p'",
                 (long long)base, words);
        CHECK_INT(check_shell_said(line), 0);
        const char *said = check_read(check_path("said"), &n);
        if (calendar_next(words, strlen(words), base, &next) == CALENDAR_AT)
            strftime(is, sizeof is, "%a %Y-%m-%d %H:%M:%S", localtime(&next));
        check_result(said && strncmp(said, is, strlen(is)) == 0, __FILE__, __LINE__,
                     "%s from %lld: %s, not %s", words, (long long)base, is, said ? said : "");
    }
    setenv("TZ", "UTC", 1);
    tzset();
}

TEST(meanings_of_words)
{
    static const struct {
        const char *word, *want;
    } cases[] = {
        {"0644", "0644 is rw-r--r--"},
        {"0750", "0750 is rwxr-x---"},
        {"4755", "4755 is rwsr-xr-x"},
        {"01777", "01777 is rwxrwxrwt"},
        {"2640", "2640 is rw-r-S---"},
        {"0888", ""},
        {"644", ""},
        {"10.20.3.17/24", "10.20.3.0 to 10.20.3.255, mask 255.255.255.0"},
        {"10.20.3.17/0", "0.0.0.0 to 255.255.255.255, mask 0.0.0.0"},
        {"10.20.3.17/32", "10.20.3.17 to 10.20.3.17, mask 255.255.255.255"},
        {"10.20.3.17/33", ""},
        {"10.20.3.300/24", ""},
        {"/srv/x", ""},
        {"1795785020", "1795785020 is Fri 27 Nov 2026 13:10:20"},
        {"0000000001", ""},
        {"", ""},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes out = {0};
        check_case(cases[i].word);
        meaning_of(cases[i].word, strlen(cases[i].word), &out);
        CHECK_STR(bytes_str(&out), cases[i].want);
        bytes_free(&out);
    }
    check_case(NULL);
}

TEST(fields_are_told_and_gone_to)
{
    static const char text[] = "# night\n30 3 * * sun /usr/bin/tide --log now\nMAILTO=mira\n";
    Editor *ed = editors_start(text, sizeof text - 1, 24, 100);
    openfile_set_kind(ed->panes.view->file, kind_named("schedule"));
    CHECK(!editors_show(ed, "field "));
    editors_press(ed, "Down");
    CHECK(editors_show(ed, "field 1 of 6: minute, 0 to 59 or * · next: S"));
    editors_press(ed, "Esc g i");
    CHECK(editors_show(ed, "field 2 of 6: hour"));
    CHECK_INT(ed->panes.view->cursor.at, 11);
    editors_press(ed, "Esc 2 g i");
    CHECK(editors_show(ed, "field 4 of 6: month"));
    editors_press(ed, "Esc g i Esc g i Esc g i");
    CHECK(strstr(ed->notices.text, "There is no field after this in this line"));
    editors_press(ed, "Esc g u");
    editors_now += 2500;
    app_tick(ed, editors_now);
    CHECK(editors_show(ed, "field 5 of 6"));
    editors_press(ed, "Down");
    CHECK(!editors_show(ed, "field "));
    app_free(ed);
}

/* However deep, and however many openers: found out in no time. */
TEST(nesting_is_bounded)
{
    static const struct {
        const char *kind, *opener;
        size_t n;
    } cases[] = {{"yaml", "[", 1000000},
                 {"yaml", "- ", 3000},
                 {"yaml", "{a: ", 50000},
                 {"json", "[", 1000000},
                 {"xml", "<a>", 100000}};
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes text = {0}, found = {0};
        check_case(cases[i].opener);
        for (size_t k = 0; k < cases[i].n; k++)
            bytes_add_str(&text, cases[i].opener);
        found_in(cases[i].kind, text.at, false, &found);
        CHECK(found.len > 0);
        bytes_free(&text);
        bytes_free(&found);
    }
    check_case(NULL);
}
