#ifndef _GNU_SOURCE
#define _GNU_SOURCE
#endif
#include "loop.h"

#include <arpa/inet.h>
#include <errno.h>
#include <poll.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <sys/socket.h>
#include <time.h>
#include <unistd.h>

#include <netinet/in.h>
#include <netinet/tcp.h>

#include "../board/board.h"
#include "pty.h"

#define REST_AT_MOST_NS 50000000u

static uint64_t began_ns;
static int wire = -1;
static FILE *line_log;
static volatile sig_atomic_t is_over;
static char out[4096];
static size_t out_length;

static uint64_t clock_ns(void) {
  struct timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  return (uint64_t)now.tv_sec * 1000000000u + (uint64_t)now.tv_nsec;
}

void begin_clock(void) { began_ns = clock_ns(); }

uint64_t now_ns(void) { return clock_ns() - began_ns; }

uint32_t vb_now_us(void) { return (uint32_t)(now_ns() / 1000); }

static void flush_out(void) {
  size_t sent = 0;
  while (wire >= 0 && sent < out_length) {
    const ssize_t count = write(wire, out + sent, out_length - sent);
    if (count > 0) sent += (size_t)count;
    /* Nobody reads: what a real board would lose, this one loses too. */
    else if (errno != EINTR) break;
  }
  out_length = 0;
}

void vb_put(uint8_t byte) {
  if (out_length == sizeof out) flush_out();
  out[out_length++] = (char)byte;
}

static void end(int signal_number) {
  (void)signal_number;
  is_over = 1;
}

static int open_tcp(int port) {
  const int listener = socket(AF_INET, SOCK_STREAM, 0);
  const int yes = 1;
  struct sockaddr_in address = {.sin_family = AF_INET, .sin_port = htons((uint16_t)port)};
  /* This machine alone: whoever comes in moves servos. */
  address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
  setsockopt(listener, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
  if (bind(listener, (struct sockaddr *)&address, sizeof address) || listen(listener, 1)) {
    perror("TCP port");
    exit(1);
  }
  return listener;
}

static void take_bytes(uint64_t (*run_until)(uint64_t until_ns)) {
  static char line[2048];
  static size_t length;
  uint8_t bytes[512];
  const ssize_t count = read(wire, bytes, sizeof bytes);
  for (ssize_t at = 0; at < count; at++) {
    if (line_log && length < sizeof line) line[length++] = (char)bytes[at];
    if (bytes[at] == '\n') {
      /* Frames that have begun by now know nothing of a line that is taken now, however long this program was held up. */
      const uint64_t taken_ns = now_ns();
      run_until(taken_ns);
      if (line_log) {
        fprintf(line_log, "%llu %.*s", (unsigned long long)taken_ns, (int)length, line);
        fflush(line_log);
        length = 0;
      }
    }
    vb_take(bytes[at]);
  }
}

void run_loop(const struct wire_words *words, uint64_t (*run_until)(uint64_t until_ns)) {
  const int yes = 1;
  int listener = -1;
  signal(SIGINT, end);
  signal(SIGTERM, end);
  signal(SIGPIPE, SIG_IGN);
  if (words->pty) wire = open_pty(words->pty);
  else listener = open_tcp(words->tcp);
  /* Once it stands in its place, whoever waits for it may begin. */
  if (words->log_path && !(line_log = fopen(words->log_path, "w"))) {
    perror(words->log_path);
    exit(1);
  }
  while (!is_over) {
    const uint64_t next_ns = run_until(now_ns());
    vb_look();
    flush_out();
    const uint64_t rest_ns = next_ns > now_ns() ? next_ns - now_ns() : 0;
    struct timespec rest = {0, (long)(rest_ns > REST_AT_MOST_NS ? REST_AT_MOST_NS : rest_ns)};
    struct pollfd on = {wire >= 0 ? wire : listener, POLLIN, 0};
    if (ppoll(&on, 1, &rest, NULL) <= 0) continue;
    if (wire < 0) {
      wire = accept(listener, NULL, NULL);
      setsockopt(wire, IPPROTO_TCP, TCP_NODELAY, &yes, sizeof yes);
      continue;
    }
    if (on.revents & POLLIN) {
      uint8_t byte;
      if (listener >= 0 && recv(wire, &byte, 1, MSG_PEEK) <= 0) on.revents |= POLLHUP;
      else take_bytes(run_until);
    }
    flush_out();
    if (listener >= 0 && (on.revents & (POLLHUP | POLLERR))) {
      close(wire);
      wire = -1;
    }
  }
  if (words->pty) unlink(words->pty);
}
