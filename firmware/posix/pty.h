/* A pseudo-terminal that looks like a serial port to whoever opens it. */
#ifndef VANTEL_PTY_H
#define VANTEL_PTY_H

/* Opens one, raw, and leaves a link to it at this path. Gives its near end; ends the program with a sentence where that cannot be. */
int open_pty(const char *link_path);

#endif
