#define PCRE2_CODE_UNIT_WIDTH 8
#include "kinds/expression.h"

#include <pcre2.h>

void *expression_compile(const char *like, uint32_t options, Err *e)
{
    int code;
    PCRE2_SIZE at;
    options |= PCRE2_NEVER_UTF | PCRE2_NEVER_UCP;
    pcre2_compile_context *context = pcre2_compile_context_create(NULL);
    pcre2_set_newline(context, PCRE2_NEWLINE_LF);
    pcre2_code *c = pcre2_compile((PCRE2_SPTR)like, PCRE2_ZERO_TERMINATED, options, &code, &at, context);
    pcre2_compile_context_free(context);
    if (!c && e) {
        PCRE2_UCHAR words[200];
        pcre2_get_error_message(code, words, sizeof words);
        err_set(e, "at character %zu: %s", (size_t)at + 1, (const char *)words);
    }
    return c;
}

void expression_free(void *code)
{
    pcre2_code_free(code);
}

void expression_quicken(void *code)
{
    pcre2_jit_compile(code, PCRE2_JIT_COMPLETE);
}

size_t expression_times(const char *like, bool any_case, const char *bytes, size_t n, size_t most,
                        unsigned steps)
{
    pcre2_code *c = expression_compile(like, PCRE2_MULTILINE | (any_case ? PCRE2_CASELESS : 0), NULL);
    if (!c)
        return 0;
    pcre2_match_data *data = pcre2_match_data_create(1, NULL);
    pcre2_match_context *limits = pcre2_match_context_create(NULL);
    pcre2_set_match_limit(limits, steps);
    size_t times = 0, at = 0;
    while (times < most && at <= n &&
           pcre2_match(c, (PCRE2_SPTR)bytes, n, at, most > 1 ? PCRE2_NOTEMPTY : 0, data, limits) >= 0) {
        size_t end = pcre2_get_ovector_pointer(data)[1];
        times++;
        at = end > at ? end : at + 1;
    }
    pcre2_match_context_free(limits);
    pcre2_match_data_free(data);
    pcre2_code_free(c);
    return times;
}

bool expression_fits(const char *like, bool any_case, const char *bytes, size_t n, unsigned steps)
{
    return expression_times(like, any_case, bytes, n, 1, steps) > 0;
}

enum { STEPS_MOST = 100000, LINE_MOST = 10000 /* bytes that such ones look at */ };

static int match(const void *code, const char *s, size_t n, uint32_t options, pcre2_match_data *d)
{
    pcre2_match_context *limits = pcre2_match_context_create(NULL);
    pcre2_set_match_limit(limits, STEPS_MOST);
    int result = pcre2_match(code, (PCRE2_SPTR)s, n, 0, options, d, limits);
    pcre2_match_context_free(limits);
    return result;
}

static bool fits(const void *code, const char *s, size_t n, uint32_t options, bool otherwise)
{
    if (n > LINE_MOST)
        return otherwise;
    pcre2_match_data *d = pcre2_match_data_create_from_pattern(code, NULL);
    int result = match(code, s, n, options, d);
    pcre2_match_data_free(d);
    return result >= 0 || (result != PCRE2_ERROR_NOMATCH && otherwise);
}

bool expression_finds(const void *code, const char *s, size_t n, bool otherwise)
{
    return fits(code, s, n, 0, otherwise);
}

bool expression_fits_all(const void *code, const char *s, size_t n, bool otherwise)
{
    return fits(code, s, n, PCRE2_ANCHORED | PCRE2_ENDANCHORED, otherwise);
}

bool expression_groups(const void *code, const char *s, size_t n, const char *const *names, size_t n_names,
                       size_t *from, size_t *to)
{
    if (n > LINE_MOST)
        return false;
    pcre2_match_data *d = pcre2_match_data_create_from_pattern(code, NULL);
    bool fits = match(code, s, n, 0, d) >= 0;
    const size_t *o = pcre2_get_ovector_pointer(d);
    for (size_t i = 0; fits && i < n_names; i++) {
        int number = pcre2_substring_number_from_name(code, (PCRE2_SPTR)names[i]);
        bool set = number > 0 && o[2 * number] != PCRE2_UNSET;
        from[i] = set ? o[2 * number] : 0;
        to[i] = set ? o[2 * number + 1] : 0;
    }
    pcre2_match_data_free(d);
    return fits;
}
