#include "text/text_line.h"

#include "text/node.h"

size_t text_line_of(Text t, size_t at)
{
    if (at >= text_len(t))
        return text_newlines(t);
    size_t line = 0;
    const Node *node = t.root;
    while (node->height) {
        unsigned i = node_entry_right(node, &at);
        for (unsigned k = 0; k < i; k++)
            line += node->kid_newlines[k];
        node = node->kids[i];
    }
    unsigned i = node_entry_right(node, &at);
    for (unsigned k = 0; k < i; k++)
        line += node->slices[k].newlines;
    const Slice *s = &node->slices[i];
    return line + block_newlines(s->block, s->from, s->from + (uint32_t)at);
}

/* Where newline number n (from 0) stands; it must exist. */
static size_t newline_at(Text t, size_t n)
{
    size_t at = 0;
    const Node *node = t.root;
    while (node->height) {
        unsigned i = 0;
        while (node->kid_newlines[i] <= n) {
            n -= node->kid_newlines[i];
            at += node->kid_bytes[i++];
        }
        node = node->kids[i];
    }
    const Slice *s = node->slices;
    while (s->newlines <= n) {
        n -= s->newlines;
        at += s++->len;
    }
    return at + block_find_newline(s->block, s->from, (uint32_t)n) - s->from;
}

size_t text_line_start(Text t, size_t line)
{
    if (line == 0)
        return 0;
    return line <= text_newlines(t) ? newline_at(t, line - 1) + 1 : text_len(t);
}

size_t text_line_end(Text t, size_t line)
{
    return line < text_newlines(t) ? newline_at(t, line) : text_len(t);
}

size_t text_line_count(Text t)
{
    size_t n = text_newlines(t), len = text_len(t);
    return n + (len > 0 && text_byte(t, len - 1) != '\n');
}
