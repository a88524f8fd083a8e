/* Copies that another program gives to be edited: sudo -e, systemctl edit, vipw, visudo, crontab -e, and
 * whoever puts a random end to a name. What the text is, and how it is checked, follows from what the copy
 * stands for.
 */
#ifndef CALLER_COPY_H
#define CALLER_COPY_H

/* The path that the one at `path` stands for, or its name alone where its folder is not known; NULL: it is no
 * such copy. *caller: who made it, "sudo -e". The caller frees it. */
char *caller_original(const char *path, const char **caller);

#endif
