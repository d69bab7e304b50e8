/* Reads what a board is from the words of a command line, as its greeting has them. */
#ifndef VANTEL_ABOUT_H
#define VANTEL_ABOUT_H

#include "../board/board.h"

#define GROUPS_AT_MOST 16

/*
 * `groups` as in the greeting: "0-11:20070400:0:0:8191:20067950,…". Gives 0, with a sentence on standard error, for what makes no board.
 */
int read_groups(const char *text, struct vb_group *groups, struct vb_about *about);

/* A name of 1 to 40 letters, digits, '_' and '-'. */
int is_name(const char *text);

#endif
