#include "kinds/value.h"

#include "kinds/expression.h"
#include "kinds/kind_data.h"

#include <arpa/inet.h>
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

enum {
    VALUE_MOST = 1000,    /* bytes; longer ones are taken for right */
    WORDS_OF_LIST = 2000, /* that may be named */
    NONE = -1,            /* of this machine's lists */
};

/* ---- types ---- */

static bool is_ip4(const char *s)
{
    struct in_addr a;
    return inet_pton(AF_INET, s, &a) == 1;
}

/* Perhaps with the interface that it is of: fe80::1%eth0. */
static bool is_ip6(const char *s)
{
    struct in6_addr a;
    char without[INET6_ADDRSTRLEN + 1];
    size_t n = strcspn(s, "%");
    if (n >= sizeof without || (s[n] && !s[n + 1]))
        return false;
    memcpy(without, s, n);
    without[n] = 0;
    return inet_pton(AF_INET6, without, &a) == 1;
}

static bool is_address(const char *s)
{
    return is_ip4(s) || is_ip6(s);
}

static bool is_number_to(const char *s, unsigned long most)
{
    size_t n = strspn(s, "0123456789");
    return n && n < 10 && !s[n] && strtoul(s, NULL, 10) <= most;
}

/* An address and how many of its bits count: 10.0.0.0/8. */
static bool is_prefix(const char *s)
{
    char address[64];
    size_t n = strcspn(s, "/");
    if (!s[n] || n >= sizeof address)
        return false;
    memcpy(address, s, n);
    address[n] = 0;
    return (is_ip4(address) && (is_number_to(s + n + 1, 32) || is_ip4(s + n + 1))) ||
           (is_ip6(address) && is_number_to(s + n + 1, 128));
}

/* Six or eight bytes in hexadecimal, with : or - between. */
static bool is_hardware_address(const char *s)
{
    size_t n = strlen(s);
    for (size_t i = 0; i < n; i++)
        if (i % 3 == 2 ? s[i] != ':' && s[i] != '-' : !isxdigit((unsigned char)s[i]))
            return false;
    return n == 17 || n == 23;
}

/* Labels of letters, digits and hyphens with dots between; a _ is common in names of services. */
static bool is_host_name(const char *s)
{
    size_t label = 0, all = strlen(s);
    if (!all || all > 254)
        return false;
    for (size_t i = 0; i < all; i++) {
        unsigned char c = (unsigned char)s[i];
        bool end = c == '.';
        if (end ? label == 0 || s[i - 1] == '-'
                : !isalnum(c) && c != '_' && (c != '-' || label == 0) && c < 0x80)
            return false;
        label = end ? 0 : label + 1;
        if (label > 63)
            return false;
    }
    return s[all - 1] != '-';
}

static bool is_port(const char *s)
{
    return is_number_to(s, 65535);
}

/* As IANA has them, and what is used besides. */
static bool is_port_name(const char *s)
{
    size_t n = 0;
    bool letter = false;
    for (; s[n]; n++) {
        if (!isalnum((unsigned char)s[n]) && !strchr("-_+.", s[n]))
            return false;
        letter = letter || isalpha((unsigned char)s[n]);
    }
    return letter && n <= 32;
}

static bool is_path(const char *s)
{
    return s[0] == '/';
}

static bool is_user(const char *s)
{
    size_t n = strlen(s);
    if (!isalpha((unsigned char)s[0]) && s[0] != '_')
        return false;
    for (size_t i = 1; i < n; i++)
        if (!isalnum((unsigned char)s[i]) && !strchr("_.-@", s[i]) && (s[i] != '$' || i + 1 < n))
            return false;
    return n <= 256;
}

static bool is_id(const char *s)
{
    return is_number_to(s, 999999999) ||
           (strlen(s) == 10 && strspn(s, "0123456789") == 10 && strcmp(s, "4294967294") <= 0);
}

/* "5min 20s", as systemd.time(7) has it; a number alone is in the setting's own unit. */
static bool is_duration(const char *s)
{
    static const char *const units[] = {
        "usec",   "us",    "µs",     "μs",    "msec", "ms",    "seconds", "second", "sec",  "s",    "minutes",
        "minute", "min",   "months", "month", "m",    "hours", "hour",    "hr",     "h",    "days", "day",
        "d",      "weeks", "week",   "w",     "M",    "years", "year",    "y",      "nsec", "ns"};
    if (!*s)
        return false;
    while (*s) {
        size_t n = strspn(s, "0123456789");
        s += n;
        if (n && *s == '.' && isdigit((unsigned char)s[1]))
            s += 1 + strspn(s + 1, "0123456789");
        if (!n)
            return false;
        s += strspn(s, " ");
        size_t unit = strcspn(s, " 0123456789");
        bool known = unit == 0;
        for (size_t i = 0; i < sizeof units / sizeof *units && !known; i++)
            known = strlen(units[i]) == unit && strncmp(units[i], s, unit) == 0;
        if (!known)
            return false;
        s += unit;
        s += strspn(s, " ");
    }
    return true;
}

/* "64M", "1.5G", "10MB", "2 GiB", a number alone. */
static bool is_size(const char *s)
{
    size_t n = strspn(s, "0123456789");
    if (!n)
        return false;
    s += n;
    if (*s == '.' && isdigit((unsigned char)s[1]))
        s += 1 + strspn(s + 1, "0123456789");
    s += strspn(s, " ");
    if (*s && strchr("kKmMgGtTpPeE", *s))
        s++;
    s += *s == 'i';
    s += *s == 'b' || *s == 'B';
    return !*s;
}

static bool is_mode(const char *s)
{
    size_t n = strspn(s, "01234567");
    return n >= 3 && n <= 5 && !s[n];
}

static bool is_date(const char *s)
{
    static const int days[] = {31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31};
    int year, month, day, used = 0;
    if (sscanf(s, "%4d-%2d-%2d%n", &year, &month, &day, &used) != 3 || s[used] || used != 10)
        return false;
    bool leap = (year % 4 == 0 && year % 100) || year % 400 == 0;
    return month >= 1 && month <= 12 && day >= 1 && day <= days[month - 1] &&
           (month != 2 || day < 29 || leap);
}

static bool is_yes_or_no(const char *s)
{
    static const char *const words[] = {"yes", "no", "true", "false", "on", "off",
                                        "1",   "0",  "y",    "n",     "t",  "f"};
    for (size_t i = 0; i < sizeof words / sizeof *words; i++)
        if (strcasecmp(words[i], s) == 0)
            return true;
    return false;
}

/* The kernel takes 15 bytes. */
static bool is_interface(const char *s)
{
    size_t n = strlen(s);
    return n && n < 16 && !strpbrk(s, "/ \t:");
}

static bool is_word(const char *s)
{
    return *s && !strpbrk(s, " \t");
}

static bool is_pam_module(const char *s)
{
    size_t n = strlen(s);
    return s[0] == '/' || (n > 3 && strcmp(s + n - 3, ".so") == 0) || !strpbrk(s, "/ \t");
}

/* "ssh.service", also of a template's: "tide@north.service". */
static bool is_unit(const char *s)
{
    static const char *const endings[] = {".service",   ".socket", ".target", ".timer",  ".path", ".mount",
                                          ".automount", ".slice",  ".scope",  ".device", ".swap"};
    const char *dot = strrchr(s, '.');
    for (size_t i = 0; dot && dot > s && i < sizeof endings / sizeof *endings; i++)
        if (strcmp(dot, endings[i]) == 0)
            return true;
    return strchr(s, '%') != NULL; /* only known when it is used */
}

static bool is_url(const char *s)
{
    size_t n = 0;
    while (isalnum((unsigned char)s[n]) || (n && s[n] && strchr("+.-", s[n])))
        n++;
    return n && isalpha((unsigned char)s[0]) && s[n] == ':' && s[n + 1] && !strpbrk(s, " \t<>\"");
}

static const struct ValueType {
    const char *name, *about;
    bool (*right)(const char *s);
    int thing; /* of this machine, that it must be; NONE */
} types[] = {
    {"ip4", "an address of IPv4", is_ip4, NONE},
    {"ip6", "an address of IPv6", is_ip6, NONE},
    {"address", "an address of IPv4 or IPv6", is_address, NONE},
    {"prefix", "an address with the number of its bits, such as 10.20.0.0/16", is_prefix, NONE},
    {"hardware-address", "an address such as 02:00:5e:10:00:01", is_hardware_address, NONE},
    {"word", "a word without blanks", is_word, NONE},
    {"host-name", "a machine's name", is_host_name, NONE},
    {"port", "a port from 0 to 65535", is_port, NONE},
    {"port-name", "a port's name, such as ssh", is_port_name, MACHINE_PORT_NAME},
    {"path", "a path from /", is_path, NONE},
    {"file", "the path of a file", is_path, MACHINE_PATH},
    {"user", "a user's name", is_user, MACHINE_USER},
    {"new-user", "a user's name", is_user, NONE},
    {"group", "a group's name", is_user, MACHINE_GROUP},
    {"id", "a number", is_id, NONE},
    {"shell", "the path of a shell", is_path, MACHINE_SHELL},
    {"duration", "a time, such as 30s or 5min", is_duration, NONE},
    {"size", "a size, such as 512K or 2G", is_size, NONE},
    {"mode", "rights in octal, such as 0755", is_mode, NONE},
    {"date", "a date, such as 2027-03-31", is_date, NONE},
    {"yes-no", "yes or no", is_yes_or_no, NONE},
    {"interface", "a network interface", is_interface, MACHINE_INTERFACE},
    {"kernel-setting", "a setting of the kernel", is_word, MACHINE_KERNEL_SETTING},
    {"kernel-module", "a module of the kernel", is_word, MACHINE_KERNEL_MODULE},
    {"pam-module", "a module or a file of PAM", is_pam_module, MACHINE_PAM_MODULE},
    {"file-system", "a type of file system", is_word, NONE},
    {"unit", "a unit of systemd", is_unit, NONE},
    {"time-zone", "a time zone, such as UTC", is_word, NONE},
    {"url", "an address such as https://…", is_url, NONE},
};

/* What completion offers for those that are not looked up when they are checked. */
static int thing_of(size_t type)
{
    static const struct {
        const char *name;
        MachineThing thing;
    } more[] = {{"file-system", MACHINE_FILE_SYSTEM},
                {"unit", MACHINE_UNIT},
                {"time-zone", MACHINE_TIME_ZONE},
                {"path", MACHINE_MOUNT_POINT}};
    for (size_t i = 0; i < sizeof more / sizeof *more; i++)
        if (strcmp(types[type].name, more[i].name) == 0)
            return (int)more[i].thing;
    return types[type].thing;
}

enum { TYPES = sizeof types / sizeof *types };

/* ---- reading ---- */

static bool read_types(ValueRule *r, const PlainValue *v, const PlainReport *report)
{
    KindWords names;
    bool ok = kind_words(v, "is", TYPES, &names, report);
    for (KindWords name = names; ok && name && *name; name++) {
        size_t i = 0;
        while (i < TYPES && strcmp(types[i].name, *name) != 0)
            i++;
        if (i == TYPES)
            ok = plain_wrong(report, v->line, "is: there is no type “%s”", *name);
        else
            r->types |= 1u << i;
    }
    free((void *)names);
    return ok;
}

bool value_rule_read(ValueRule *r, const PlainValue *v, const PlainReport *report)
{
    enum { NUMBER_MOST = 999999999 };
    const PlainValue *each = plain_data_find(v, "each"), *like = plain_data_find(v, "like"),
                     *may = plain_data_find(v, "may_like");
    *r = (ValueRule){.to = NUMBER_MOST};
    r->number = plain_data_find(v, "from") && plain_data_find(v, "to");
    if (each && (each->type != PLAIN_TEXT || !each->text[0]))
        return plain_wrong(report, each->line, "each: the signs between the values are expected");
    r->each = each ? each->text : NULL;
    r->like = kind_expression(like, 0, report);
    r->may_like = kind_expression(may, 0, report);
    return (r->like || !like) && (r->may_like || !may) && kind_truth(v, "empty", &r->empty, report) &&
           read_types(r, v, report) && kind_words(v, "one_of", WORDS_OF_LIST, &r->one_of, report) &&
           kind_words(v, "such_as", WORDS_OF_LIST, &r->such_as, report) &&
           kind_truth(v, "any_case", &r->any_case, report) &&
           kind_number_in(v, "from", -NUMBER_MOST, NUMBER_MOST, &r->from, report) &&
           kind_number_in(v, "to", r->from, NUMBER_MOST, &r->to, report);
}

void value_rule_free(ValueRule *r)
{
    free((void *)r->one_of);
    free((void *)r->such_as);
    expression_free(r->like);
    expression_free(r->may_like);
    *r = (ValueRule){0};
}

/* ---- judging ---- */

static bool is_number_in(const ValueRule *r, const char *s)
{
    char *end;
    long value = strtol(s, &end, 10);
    return r->number && *s && !isspace((unsigned char)*s) && !*end && strlen(s) < 12 && value >= r->from &&
           value <= r->to;
}

static bool is_listed(const ValueRule *r, const char *s)
{
    for (KindWords w = r->one_of; w && *w; w++)
        if ((r->any_case ? strcasecmp : strcmp)(*w, s) == 0)
            return true;
    return false;
}

bool value_is_listed(const ValueRule *r, const char *s, size_t n)
{
    char one[VALUE_MOST + 1];
    if (n > VALUE_MOST)
        return false;
    memcpy(one, s, n);
    one[n] = 0;
    return is_listed(r, one);
}

static ValueVerdict judge_one(const ValueRule *r, const char *s, bool machine)
{
    bool form = false;
    if (r->like && !expression_fits_all(r->like, s, strlen(s), true))
        return VALUE_WRONG;
    if ((!r->types && !r->one_of && !r->number && !r->may_like) || is_number_in(r, s) || is_listed(r, s) ||
        (r->may_like && expression_fits_all(r->may_like, s, strlen(s), true)))
        return VALUE_RIGHT;
    for (size_t i = 0; i < TYPES; i++) {
        if (!(r->types & 1u << i) || !types[i].right(s))
            continue;
        bool cannot_tell = types[i].thing == MACHINE_PATH && strchr(s, '\\'); /* as fstab writes blanks */
        if (!machine || types[i].thing == NONE || cannot_tell ||
            machine_has((MachineThing)types[i].thing, s) != MACHINE_HAS_NOT)
            return VALUE_RIGHT;
        form = true;
    }
    return form ? VALUE_NOT_HERE : VALUE_WRONG;
}

/* Quotes around all of it are the file's, not the value's. */
static void without_quotes(const char **s, size_t *n)
{
    if (*n >= 2 && ((*s)[0] == '"' || (*s)[0] == '\'') && (*s)[*n - 1] == (*s)[0]) {
        ++*s;
        *n -= 2;
    }
}

ValueVerdict value_judge(const ValueRule *r, const char *s, size_t n, bool machine, size_t *at, size_t *len)
{
    const char *signs = r->each;
    if (n == 0 && r->empty)
        return VALUE_RIGHT;
    for (size_t from = 0; from <= n;) {
        size_t to = from;
        char one[VALUE_MOST + 1];
        while (to < n && (!signs || !strchr(signs, s[to]) || !s[to]))
            to++;
        const char *part = s + from;
        size_t part_n = to - from;
        while (signs && part_n && (*part == ' ' || *part == '\t'))
            part++, part_n--;
        while (signs && part_n && (part[part_n - 1] == ' ' || part[part_n - 1] == '\t'))
            part_n--;
        without_quotes(&part, &part_n);
        *at = (size_t)(part - s);
        *len = part_n;
        from = to + 1;
        if (part_n > VALUE_MOST || memchr(part, 0, part_n) || (signs && !part_n && strpbrk(signs, " \t")))
            continue;
        memcpy(one, part, part_n);
        one[part_n] = 0;
        ValueVerdict v = judge_one(r, one, machine);
        if (v != VALUE_RIGHT)
            return v;
    }
    return VALUE_RIGHT;
}

/* ---- telling ---- */

void value_about(const ValueRule *r, char *out, size_t room)
{
    enum { LISTED = 8 };
    size_t n = 0, parts = 0, listed = 0;
    out[0] = 0;
    for (KindWords w = r->one_of; w && *w; w++)
        listed++;
    for (KindWords w = r->one_of; w && *w && parts < LISTED && n < room; w++, parts++)
        n += (size_t)snprintf(out + n, room - n, "%s%s", parts ? ", " : "", *w);
    if (listed > LISTED && n < room)
        n += (size_t)snprintf(out + n, room - n, " …");
    for (size_t i = 0; i < TYPES && n < room; i++)
        if (r->types & 1u << i)
            n += (size_t)snprintf(out + n, room - n, "%s%s", n ? ", or " : "", types[i].about);
    if (r->number && n < room)
        snprintf(out + n, room - n, "%s%ld to %ld", n ? ", or " : "", r->from, r->to);
}

void value_each(const ValueRule *r, bool machine, bool (*each)(void *ctx, const char *name), void *ctx)
{
    for (KindWords w = r->one_of; w && *w; w++)
        if (!each(ctx, *w))
            return;
    for (KindWords w = r->such_as; w && *w; w++)
        if (!each(ctx, *w))
            return;
    for (size_t i = 0; i < TYPES; i++)
        if ((r->types & 1u << i) && strcmp(types[i].name, "yes-no") == 0) {
            if (!each(ctx, "yes") || !each(ctx, "no"))
                return;
        } else if (machine && (r->types & 1u << i) && thing_of(i) != NONE) {
            machine_each((MachineThing)thing_of(i), each, ctx);
        }
}
