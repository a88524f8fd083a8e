#include "ui/menu.h"

#include "base/mem.h"
#include "ui/command.h"
#include "ui/hints.h"

#include <ctype.h>
#include <stdio.h>
#include <string.h>

enum { COUNT_MAX = 9999 };

typedef struct MenuLayer {
    Layer layer;
    size_t menu;       /* the chosen title */
    bool open;         /* it has dropped down */
    size_t entry, top; /* chosen entry, first one shown */
    unsigned count;
    bool counted;
    bool fresh; /* opened by Esc, nothing pressed since */
    bool ruled; /* lines are drawn between its groups */
    /* where the box stands, for the mouse */
    int box_row, box_col, box_width, box_rows;
    int edge; /* cells at its right that are kept for the signs that there is more */
} MenuLayer;

/* ---- running what was chosen ---- */

static void run_entry(Editor *ed, const Command *c, const char *args)
{
    MenuLayer m = *(MenuLayer *)ed->layer;
    char words[TASK_WORDS_MAX];
    const char *why = command_disabled_reason(ed, c, words);
    if (why) { /* the menu stays, so that something else can be chosen */
        decline(ed, "%s: %s", c->label, why);
        return;
    }
    layers_pop(ed);
    command_run(ed, c, m.counted ? m.count : 1, m.counted, args);
}

static const Menu *menu_of(const Editor *ed, const MenuLayer *m)
{
    return &ed->config.registry.menus[m->menu];
}

static bool run_letter(Editor *ed, MenuLayer *m, uint32_t ch)
{
    const Menu *menu = menu_of(ed, m);
    const char letters[] = {menu->letter, (char)ch, 0};
    const OwnRoute *own = ch < 128 ? config_route(&ed->config, letters) : NULL;
    if (own) {
        run_entry(ed, own->command, own->args ? own->args : "");
        return true;
    }
    for (size_t i = 0; i < menu->n; i++)
        if ((uint32_t)menu->commands[i]->letter == ch) {
            m->entry = i;
            run_entry(ed, menu->commands[i], "");
            return true;
        }
    return false;
}

static void digit(Editor *ed, MenuLayer *m, unsigned d)
{
    unsigned n = m->count * 10 + d;
    if (n > COUNT_MAX) {
        say(ed, "A count goes up to %d", COUNT_MAX);
        return;
    }
    m->count = n;
    m->counted = true;
}

static uint32_t menu_char(const Editor *ed, uint32_t ch)
{
    if (ch >= 128)
        ch = settings_menu_letter(&ed->config, ch);
    return ch < 128 ? (uint32_t)tolower((int)ch) : ch;
}

static void bar_char(Editor *ed, MenuLayer *m, uint32_t typed)
{
    uint32_t ch = menu_char(ed, typed);
    if (ch >= '0' && ch <= '9') {
        digit(ed, m, (unsigned)(ch - '0'));
        return;
    }
    const Registry *r = &ed->config.registry;
    size_t menu = ch < 128 ? registry_title(r, (char)ch) : r->n_titles;
    if (menu < r->n_titles) {
        m->menu = menu;
        m->open = true;
        m->entry = m->top = 0;
        return;
    }
    char name[KEY_NAME_MAX];
    decline(ed, "No menu has the letter %s", key_written((Key){.code = K_CHAR, .ch = typed}, name));
}

static void open_char(Editor *ed, MenuLayer *m, uint32_t typed)
{
    char name[KEY_NAME_MAX];
    if (!run_letter(ed, m, menu_char(ed, typed)))
        decline(ed, "Nothing in %s has the letter %s", menu_of(ed, m)->title,
                key_written((Key){.code = K_CHAR, .ch = typed}, name));
}

/* ---- keys ---- */

static size_t step(size_t at, size_t n, int by)
{
    return n ? (at + n + (size_t)by) % n : 0;
}

static void turn_page(MenuLayer *m, size_t n, bool back)
{
    size_t page = m->box_rows > 1 ? (size_t)m->box_rows - 1 : 1;
    if (back)
        m->entry -= page < m->entry ? page : m->entry;
    else
        m->entry = m->entry + page < n ? m->entry + page : n - 1;
}

static bool arrow_key(Editor *ed, MenuLayer *m, KeyCode code)
{
    const Menu *menu = menu_of(ed, m);
    size_t titles = ed->config.registry.n_titles;
    switch (code) {
    case K_LEFT:
    case K_RIGHT:
        m->menu = step(m->menu, titles, code == K_LEFT ? -1 : 1);
        m->entry = m->top = 0;
        return true;
    case K_UP:
    case K_DOWN:
        if (!m->open && m->box_rows) /* on a narrow screen the titles stand in a column */
            m->menu = step(m->menu, titles, code == K_UP ? -1 : 1);
        else if (!m->open)
            m->open = true;
        else
            m->entry = step(m->entry, menu->n, code == K_UP ? -1 : 1);
        return true;
    case K_HOME:
    case K_END:
        m->entry = code == K_HOME ? 0 : menu->n - 1;
        return m->open;
    case K_PAGE_UP:
    case K_PAGE_DOWN:
        turn_page(m, menu->n, code == K_PAGE_UP);
        return m->open;
    case K_ENTER:
        if (m->open)
            run_entry(ed, menu->commands[m->entry], "");
        else
            m->open = true;
        return true;
    default:
        return false;
    }
}

/* With a count, a key means what it means in the text, that often. */
static bool counted_key(Editor *ed, MenuLayer *m, Key k)
{
    unsigned count = m->count;
    if (k.code == K_ENTER) {
        layers_pop(ed);
        command_run(ed, command_named(ed, "repeat-character"), count, true, "");
        return true;
    }
    if (k.code == K_BACKSPACE && !m->open) {
        m->count /= 10;
        m->counted = m->count > 0;
        return true;
    }
    const Binding *b = keymap_find(&ed->config.keys, k);
    if (!b || !b->command)
        return false;
    layers_pop(ed);
    command_run_binding(ed, b, count, true);
    return true;
}

static bool menu_key(Editor *ed, Layer *l, const Input *in)
{
    MenuLayer *m = (MenuLayer *)l;
    Key k = in->key;
    m->fresh = false;
    if (k.code == K_CHAR &&
        (k.mods & ~(unsigned)MOD_SHIFT) == MOD_ALT) { /* back to the bar, then that letter */
        m->open = false;
        bar_char(ed, m, k.ch);
        return true;
    }
    if (k.code == K_CHAR && key_types(k)) {
        if (m->open)
            open_char(ed, m, k.ch);
        else
            bar_char(ed, m, k.ch);
        return true;
    }
    if (m->counted && !m->open && counted_key(ed, m, k))
        return true;
    if (k.mods == 0 && arrow_key(ed, m, k.code))
        return true;
    const Binding *b = keymap_find(&ed->config.keys, k);
    if (!b || !b->command || strcmp(b->command->name, "help") == 0)
        return false;
    layers_pop(ed); /* a chord does what it says, and closes the menu */
    command_run_binding(ed, b, 1, false);
    return true;
}

/* One step back: from the entries to the titles, from there to the text. */
static void menu_cancel(Editor *ed, Layer *l)
{
    MenuLayer *m = (MenuLayer *)l;
    if (m->counted && !m->open)
        say(ed, "Nothing is repeated");
    if (!m->open)
        return;
    MenuLayer *again = mem_get(sizeof *again);
    again->layer.kind = l->kind;
    again->menu = m->menu;
    again->count = m->count;
    again->counted = m->counted;
    layers_push(ed, &again->layer);
}

/* ---- painting ---- */

static int titles_width(const Registry *r, int gap)
{
    int width = 0;
    for (size_t i = 0; i < r->n_titles; i++)
        width += (int)strlen(r->menus[i].title) + gap;
    return width;
}

static int title_gap(int cols)
{
    return cols >= 100 ? 2 : 1; /* the path needs its room */
}

static bool titles_fit(const Registry *r, int cols)
{
    return titles_width(r, 1) < cols;
}

int menu_paint_titles(const Registry *r, Frame *f, int col, size_t now, bool awake)
{
    int gap = title_gap(f->cols);
    for (size_t i = 0; i < r->n_titles; i++) {
        Style style = awake && i == now ? ST_BAR_NOW : ST_BAR;
        int end = frame_text(f, 0, col, f->cols, style, r->menus[i].title);
        if (awake && i != now)
            frame_restyle(f, 0, col, col + 1, ST_BAR_KEY);
        col = end + gap;
    }
    return col;
}

size_t menu_at_column(const Editor *ed, int col)
{
    const Registry *r = &ed->config.registry;
    int at = 1, gap = title_gap(ed->frame.cols);
    for (size_t i = 0; i < r->n_titles; i++) {
        int end = at + (int)strlen(r->menus[i].title);
        if (col >= at && col < end)
            return i;
        at = end + gap;
    }
    return r->n_titles;
}

/* Where menu m drops down from. */
static int title_column(const Registry *r, const Frame *f, size_t m)
{
    int at = 1, gap = title_gap(f->cols);
    for (size_t i = 0; i < m; i++)
        at += (int)strlen(r->menus[i].title) + gap;
    return at;
}

static const char *entry_key(const Editor *ed, const Command *c, char out[KEY_NAME_MAX])
{
    return keymap_key_of(&ed->config.keys, c, 0, out);
}

static int entries_width(const Editor *ed, const Frame *f, const Menu *menu)
{
    int width = 0;
    char key[KEY_NAME_MAX];
    for (size_t i = 0; i < menu->n; i++) {
        const Command *c = menu->commands[i];
        int w = 4 + frame_width(f, c->label) + 5 + frame_width(f, entry_key(ed, c, key)) + 1;
        width = w > width ? w : width;
    }
    return width;
}

static void paint_entry(Editor *ed, Frame *f, int row, const MenuLayer *m, const Command *c, bool now)
{
    int col = m->box_col, end = col + m->box_width;
    char words[TASK_WORDS_MAX];
    bool dim = command_disabled_reason(ed, c, words) != NULL;
    Style style = now ? ST_BOX_NOW : dim ? ST_BOX_DIM : ST_BOX;
    char letter[2] = {c->letter}, key[KEY_NAME_MAX], label[80];
    frame_blank(f, row, col, end, style);
    if (now) /* not by colour alone */
        frame_text(f, row, col, end, style, "▸");
    frame_text(f, row, col + 1, end, now || dim ? style : ST_BOX_KEY, letter);
    if (dim) /* not by colour alone */
        snprintf(label, sizeof label, "(%s)", c->label);
    else
        snprintf(label, sizeof label, "%s", c->label);
    end -= m->edge;
    int stop = frame_text(f, row, col + 4, end, style, label);
    entry_key(ed, c, key);
    int width = frame_width(f, key);
    if (stop + 2 + width < end) /* they never touch */
        frame_text(f, row, end - width - 1, end, style, key);
}

/* Lines that group the entries before entry i; none when the screen is too low to show all. */
static int rules_before(const Menu *menu, const MenuLayer *m, size_t i)
{
    int n = 0;
    for (size_t k = 1; m->ruled && k <= i && k < menu->n; k++)
        n += (int)(menu->groups >> k & 1);
    return n;
}

/* The entry in a row of the box, or menu->n for a line. */
static size_t entry_in_row(const Menu *menu, const MenuLayer *m, int row)
{
    size_t i = m->top;
    while (i < menu->n && (int)(i - m->top) + rules_before(menu, m, i) < row)
        i++;
    return i < menu->n && (int)(i - m->top) + rules_before(menu, m, i) == row ? i : menu->n;
}

static void paint_open(Editor *ed, MenuLayer *m, Frame *f)
{
    const Registry *r = &ed->config.registry;
    const Menu *menu = menu_of(ed, m);
    int room = f->status_row > 2 ? f->status_row - 1 : 1;
    m->ruled = true;
    int all = (int)menu->n + rules_before(menu, m, menu->n);
    m->ruled = all <= room;
    m->box_rows = m->ruled ? all : (int)menu->n < room ? (int)menu->n : room;
    size_t shown = m->ruled ? menu->n : (size_t)m->box_rows;
    m->edge = shown < menu->n ? 2 : 0;
    m->box_width = entries_width(ed, f, menu) + m->edge;
    if (m->box_width > f->cols)
        m->box_width = f->cols;
    m->box_row = 1;
    m->box_col = titles_fit(r, f->cols) ? title_column(r, f, m->menu) - 1 : 0;
    if (m->box_col + m->box_width > f->cols)
        m->box_col = f->cols - m->box_width;
    if (m->entry < m->top)
        m->top = m->entry;
    if (m->entry >= m->top + shown)
        m->top = m->entry + 1 - shown;
    if (m->top + shown > menu->n) /* the screen has grown */
        m->top = menu->n - shown;
    int edge = m->box_col + m->box_width - 1;
    for (int i = 0; i < m->box_rows; i++) {
        size_t e = entry_in_row(menu, m, i);
        if (e < menu->n) {
            paint_entry(ed, f, m->box_row + i, m, menu->commands[e], e == m->entry);
            continue;
        }
        frame_blank(f, m->box_row + i, m->box_col, edge + 1, ST_BOX_DIM);
        for (int col = m->box_col + 1; col < edge; col++)
            frame_text(f, m->box_row + i, col, edge, ST_BOX_DIM, "─");
    }
    if (m->top > 0)
        frame_text(f, m->box_row, edge, edge + 1, ST_BOX_TITLE, "^");
    if (m->top + shown < menu->n)
        frame_text(f, m->box_row + m->box_rows - 1, edge, edge + 1, ST_BOX_TITLE, "v");
    f->cursor_row = m->box_row + (int)(m->entry - m->top) + rules_before(menu, m, m->entry);
    f->cursor_col = m->box_col + 1;
}

/* On a narrow screen the titles stand below each other. */
static void paint_title_column(const Registry *r, MenuLayer *m, Frame *f)
{
    m->box_row = 1;
    m->box_col = 0;
    m->box_width = 12;
    m->box_rows = (int)r->n_titles < f->status_row ? (int)r->n_titles : f->status_row;
    for (int i = 0; i < m->box_rows; i++) {
        bool now = (size_t)i == m->menu;
        frame_blank(f, 1 + i, 0, m->box_width, now ? ST_BOX_NOW : ST_BOX);
        frame_text(f, 1 + i, 0, m->box_width, now ? ST_BOX_NOW : ST_BOX, now ? "▸" : " ");
        frame_text(f, 1 + i, 1, m->box_width, now ? ST_BOX_NOW : ST_BOX, r->menus[i].title);
        if (!now)
            frame_restyle(f, 1 + i, 1, 2, ST_BOX_KEY);
    }
    f->cursor_row = 1 + (int)m->menu;
    f->cursor_col = 1;
}

static void menu_paint(Editor *ed, Layer *l, Frame *f)
{
    MenuLayer *m = (MenuLayer *)l;
    const Registry *r = &ed->config.registry;
    m->box_rows = 0;
    frame_blank(f, 0, 0, f->cols, ST_BAR);
    if (titles_fit(r, f->cols)) {
        menu_paint_titles(r, f, 1, m->menu, true);
        f->cursor_row = 0;
        f->cursor_col = title_column(r, f, m->menu);
    } else {
        frame_text(f, 0, 1, f->cols, ST_BAR, m->open ? menu_of(ed, m)->title : "Menus");
        if (!m->open)
            paint_title_column(r, m, f);
    }
    if (m->open)
        paint_open(ed, m, f);
    if (!m->counted && !m->open)
        return;
    if (ed->notices.text[0] && (!m->counted || ed->notices.since >= ed->clock.last_key))
        return;
    char text[160];
    const Command *c = menu_of(ed, m)->commands[m->entry];
    int used = m->counted ? snprintf(text, sizeof text, "%u times", m->count) : 0;
    char words[TASK_WORDS_MAX];
    const char *why = command_disabled_reason(ed, c, words);
    if (m->open)
        snprintf(text + used, sizeof text - (size_t)used, "%s%s", used ? ": " : "", why ? why : c->help);
    frame_blank(f, f->status_row, 0, f->cols, ST_STATUS);
    frame_text(f, f->status_row, 1, f->cols, ST_MESSAGE, text);
}

static size_t menu_hints(Editor *ed, Layer *l, Hint *out)
{
    MenuLayer *m = (MenuLayer *)l;
    size_t n = 0;
    out[n++] = (Hint){"a letter", m->open ? "Run" : "Open", true};
    if (m->counted && !m->open) {
        out[n++] = (Hint){"a key", "Run it that often", false};
        out[n++] = (Hint){"Enter", "Repeat a character", false};
    } else {
        out[n++] = (Hint){"Enter", m->open ? "Run" : "Open", false};
        out[n++] = (Hint){"Arrows", "Choose", false};
        if (!m->open)
            out[n++] = (Hint){"0-9", "Repeat count", false};
    }
    if (m->open && hints_add_command(ed, "help", false, out + n))
        out[n++].label = "Help on it";
    out[n++] = (Hint){"Esc", m->open ? "Back to the bar" : "Back to the text", true};
    return n;
}

static void menu_mouse(Editor *ed, Layer *l, const Mouse *mouse)
{
    MenuLayer *m = (MenuLayer *)l;
    const Registry *r = &ed->config.registry;
    const Menu *menu = menu_of(ed, m);
    if (mouse->action == MOUSE_WHEEL_UP || mouse->action == MOUSE_WHEEL_DOWN) {
        if (m->open)
            m->entry = step(m->entry, menu->n, mouse->action == MOUSE_WHEEL_UP ? -1 : 1);
        return;
    }
    if (mouse->action != MOUSE_PRESS || mouse->button != 1)
        return;
    int row = mouse->row - m->box_row, col = mouse->col - m->box_col;
    bool inside = row >= 0 && row < m->box_rows && col >= 0 && col < m->box_width;
    size_t title =
        mouse->row == 0 && titles_fit(r, ed->frame.cols) ? menu_at_column(ed, mouse->col) : r->n_titles;
    /* The box may have been painted for another menu: keys may have come since. */
    bool thing = m->open ? entry_in_row(menu, m, row) < menu->n : (size_t)row < r->n_titles;
    if (inside && !thing)
        return;
    if (inside && m->open) {
        m->entry = entry_in_row(menu, m, row);
        run_entry(ed, menu->commands[m->entry], "");
    } else if (inside || title < r->n_titles) {
        m->menu = inside ? (size_t)row : title;
        m->open = true;
        m->entry = m->top = 0;
    } else {
        layers_pop(ed);
    }
}

static void menu_topic(Editor *ed, Layer *l, Bytes *out)
{
    const MenuLayer *m = (const MenuLayer *)l;
    if (m->open)
        bytes_printf(out, "commands#%s", menu_of(ed, m)->commands[m->entry]->name);
}

static const LayerKind menu_kind = {
    .help = "menus",
    .topic = menu_topic,
    .key = menu_key,
    .mouse = menu_mouse,
    .paint = menu_paint,
    .hints = menu_hints,
    .cancel = menu_cancel,
};

void menu_open(Editor *ed, bool from_esc)
{
    MenuLayer *m = mem_get(sizeof *m);
    m->layer.kind = &menu_kind;
    m->fresh = from_esc;
    layers_push(ed, &m->layer);
}

void menu_drop(Editor *ed, size_t menu)
{
    menu_open(ed, false);
    MenuLayer *m = (MenuLayer *)ed->layer;
    m->menu = menu;
    m->open = true;
}

bool menu_fresh_from_esc(const Editor *ed)
{
    return ed->layer && ed->layer->kind == &menu_kind && ((const MenuLayer *)ed->layer)->fresh;
}

void menu_letter(Editor *ed, uint32_t ch)
{
    menu_open(ed, false);
    bar_char(ed, (MenuLayer *)ed->layer, ch);
}
