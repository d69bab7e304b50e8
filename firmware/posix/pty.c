#ifndef _GNU_SOURCE
#define _GNU_SOURCE
#endif
#include "pty.h"

#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <termios.h>
#include <unistd.h>

int open_pty(const char *link_path) {
  struct termios raw;
  const int master = posix_openpt(O_RDWR | O_NOCTTY);
  if (master < 0 || grantpt(master) || unlockpt(master)) {
    perror("pseudo-terminal");
    exit(1);
  }
  /* Kept open, so that a host which closes it does not hang the line up. */
  const int slave = open(ptsname(master), O_RDWR | O_NOCTTY);
  tcgetattr(slave, &raw);
  cfmakeraw(&raw);
  tcsetattr(slave, TCSANOW, &raw);
  unlink(link_path);
  if (symlink(ptsname(master), link_path)) {
    perror(link_path);
    exit(1);
  }
  fcntl(master, F_SETFL, O_NONBLOCK);
  return master;
}
