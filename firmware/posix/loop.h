/* The loop of a board on this computer: bytes in and out, the clock, and the frames, until somebody ends it. */
#ifndef VANTEL_LOOP_H
#define VANTEL_LOOP_H

#include <stdint.h>

/* Where the host is: one of the three. */
struct wire_words {
  /* A link to a pseudo-terminal, made by this program. */
  const char *pty;
  /* A TCP port of this machine; 0 for none. */
  int tcp;
  /* Every line that comes in is written there, with its time in ns; NULL for nowhere. */
  const char *log_path;
};

/* Nanoseconds since the program began. */
uint64_t now_ns(void);

/* Begins to count time. To be called before anything else. */
void begin_clock(void);

/*
 * Opens the wire, and serves the host until the program is ended. `run_until` lets frames begin up to a moment, and gives when the next one begins, both
 * in ns: frames that have begun come before what is said after them.
 */
void run_loop(const struct wire_words *words, uint64_t (*run_until)(uint64_t until_ns));

#endif
