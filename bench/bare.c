/* The least a full-screen program does: start curses and paint. What starting is measured against. */
#include <curses.h>
#include <locale.h>

int main(void)
{
    setlocale(LC_ALL, "");
    initscr();
    raw();
    start_color();
    for (int row = 0; row < LINES; row++)
        mvprintw(row, 0, "line %d of a bare program, F1", row);
    refresh();
    while (getch() != 'q')
        continue;
    endwin();
    return 0;
}
