/*
 * A board on this computer, with made-up pins: on a pseudo-terminal or a TCP port, every edge of every pin written as a waveform (VCD). It is what
 * the tests hold the host against, and an example of a port.
 *
 *   vantel-board --pty LINK | --tcp PORT  [--name NAME] [--groups G] [--silence MS release|hold] [--vcd FILE] [--log FILE]
 *
 * Its pulses are made as a timer makes them: a count is taken up when a frame begins, and what has begun goes on whatever the program does. So a
 * program that is stopped for a second leaves the pins as they were, and makes up for their edges when it goes on.
 */
#define _GNU_SOURCE
#include <arpa/inet.h>
#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/socket.h>
#include <time.h>
#include <unistd.h>

#include "about.h"
#include "pty.h"

/* The pins: what a timer would hold. */
struct pin {
  /* The pulse that the next frame begins with; 0 for none. */
  uint64_t pulse_ns;
  /* When the pulse that has begun ends; 0 for none. */
  uint64_t falls_ns;
};

static struct pin pins[VB_CHANNELS];
static struct vb_group groups[GROUPS_AT_MOST];
static struct vb_about about = {.name = "posix", .unit = "count", .silence_ms = 500, .silence = VB_RELEASE};
static uint64_t frame_ns[GROUPS_AT_MOST];
static uint64_t began_ns;
static FILE *vcd;
static uint64_t vcd_ns;
/* Every line that comes in, with its time in ns. */
static FILE *line_log;
static int wire = -1;
static volatile sig_atomic_t is_over;

static char out[4096];
static size_t out_length;

static void end(int signal_number) {
  (void)signal_number;
  is_over = 1;
}

static uint64_t now_ns(void) {
  struct timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  return (uint64_t)now.tv_sec * 1000000000u + (uint64_t)now.tv_nsec - began_ns;
}

/* ---- What the board's half asks of a port ---- */

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

uint32_t vb_now_us(void) { return (uint32_t)(now_ns() / 1000); }

void vb_set_count(uint8_t channel, vb_count count) {
  const struct vb_group *group = groups;
  while (channel > group->last) group++;
  const int64_t span = (int64_t)group->at_highest - (int64_t)group->at_lowest;
  const int64_t pulse_ns = (int64_t)group->at_lowest +
                           (int64_t)(count - group->lowest) * span / (int64_t)(group->highest - group->lowest);
  pins[channel].pulse_ns = pulse_ns > 0 ? (uint64_t)pulse_ns : 0;
}

void vb_no_signal(uint8_t channel) { pins[channel].pulse_ns = 0; }

uint8_t vb_read(uint8_t channel, uint32_t *position, uint32_t *current_ma) {
  (void)channel, (void)position, (void)current_ma;
  return 0;
}

/* ---- The waveform ---- */

static void begin_vcd(const char *path) {
  vcd = fopen(path, "w");
  if (!vcd) {
    perror(path);
    exit(1);
  }
  fprintf(vcd, "$timescale 1 ns $end\n$scope module %s $end\n", about.name);
  for (uint8_t channel = 0; channel < about.channels; channel++)
    fprintf(vcd, "$var wire 1 %c pin%u $end\n", '!' + channel, channel);
  fprintf(vcd, "$upscope $end\n$enddefinitions $end\n#0\n");
  for (uint8_t channel = 0; channel < about.channels; channel++) fprintf(vcd, "0%c\n", '!' + channel);
}

static void edge(uint64_t at_ns, uint8_t channel, int level) {
  if (!vcd) return;
  if (at_ns != vcd_ns) fprintf(vcd, "#%llu\n", (unsigned long long)at_ns);
  vcd_ns = at_ns;
  fprintf(vcd, "%d%c\n", level, '!' + channel);
}

/* All pulses that end by then, in the order of time. */
static void fall_until(uint64_t until_ns) {
  for (;;) {
    int next = -1;
    for (uint8_t channel = 0; channel < about.channels; channel++)
      if (pins[channel].falls_ns && pins[channel].falls_ns <= until_ns &&
          (next < 0 || pins[channel].falls_ns < pins[next].falls_ns))
        next = channel;
    if (next < 0) return;
    edge(pins[next].falls_ns, (uint8_t)next, 0);
    pins[next].falls_ns = 0;
  }
}

static void begin_frame(uint8_t group, uint64_t at_ns) {
  fall_until(at_ns);
  vb_frame(group);
  for (uint8_t channel = groups[group].first; channel <= groups[group].last; channel++) {
    if (!pins[channel].pulse_ns) continue;
    if (!pins[channel].falls_ns) edge(at_ns, channel, 1);
    pins[channel].falls_ns = at_ns + pins[channel].pulse_ns;
  }
}

/* Lets the timers run up to this moment, group by group in the order of time. */
static uint64_t run_until(uint64_t until_ns) {
  for (;;) {
    uint8_t next = 0;
    for (uint8_t group = 1; group < about.group_count; group++)
      if (frame_ns[group] < frame_ns[next]) next = group;
    if (frame_ns[next] > until_ns) {
      fall_until(until_ns);
      if (vcd) fflush(vcd);
      return frame_ns[next];
    }
    begin_frame(next, frame_ns[next]);
    frame_ns[next] += groups[next].period_ns;
  }
}

/* ---- The wire ---- */

static int open_tcp(int port) {
  const int listener = socket(AF_INET, SOCK_STREAM, 0);
  const int yes = 1;
  struct sockaddr_in address = {.sin_family = AF_INET, .sin_port = htons((uint16_t)port)};
  address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
  setsockopt(listener, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
  if (bind(listener, (struct sockaddr *)&address, sizeof address) || listen(listener, 1)) {
    perror("TCP port");
    exit(1);
  }
  return listener;
}

static void take_bytes(void) {
  uint8_t bytes[512];
  const ssize_t count = read(wire, bytes, sizeof bytes);
  static int is_within;
  for (ssize_t at = 0; at < count; at++) {
    if (line_log) {
      if (!is_within) fprintf(line_log, "%llu ", (unsigned long long)now_ns());
      fputc(bytes[at], line_log);
      is_within = bytes[at] != '\n';
      if (!is_within) fflush(line_log);
    }
    vb_take(bytes[at]);
  }
}

static void usage(void) {
  fprintf(stderr, "vantel-board --pty LINK | --tcp PORT  [--name NAME] [--groups G] [--silence MS release|hold] [--vcd FILE] [--log FILE]\n");
  exit(2);
}

int main(int count, char **words) {
  const char *pty = NULL, *vcd_path = NULL, *log_path = NULL, *group_words = "0-11:20000000:0:0:20000:20000000";
  int tcp = -1, listener = -1;
  for (int at = 1; at < count; at++) {
    const char *word = words[at];
    if (at + 1 == count) usage();
    if (!strcmp(word, "--pty")) pty = words[++at];
    else if (!strcmp(word, "--tcp")) tcp = atoi(words[++at]);
    else if (!strcmp(word, "--name")) about.name = words[++at];
    else if (!strcmp(word, "--groups")) group_words = words[++at];
    else if (!strcmp(word, "--vcd")) vcd_path = words[++at];
    else if (!strcmp(word, "--log")) log_path = words[++at];
    else if (!strcmp(word, "--silence") && at + 2 < count) {
      about.silence_ms = (uint16_t)atoi(words[++at]);
      about.silence = strcmp(words[++at], "hold") ? VB_RELEASE : VB_HOLD;
    } else usage();
  }
  if (!read_groups(group_words, groups, &about) || !is_name(about.name) || (!pty && tcp < 0)) usage();

  struct timespec start;
  clock_gettime(CLOCK_MONOTONIC, &start);
  began_ns = (uint64_t)start.tv_sec * 1000000000u + (uint64_t)start.tv_nsec;
  for (uint8_t group = 0; group < about.group_count; group++) frame_ns[group] = groups[group].period_ns;
  vb_begin(&about);
  if (vcd_path) begin_vcd(vcd_path);
  if (log_path && !(line_log = fopen(log_path, "w"))) {
    perror(log_path);
    return 1;
  }
  signal(SIGINT, end);
  signal(SIGTERM, end);
  signal(SIGPIPE, SIG_IGN);
  if (pty) wire = open_pty(pty);
  else listener = open_tcp(tcp);

  while (!is_over) {
    const uint64_t next_ns = run_until(now_ns());
    vb_look();
    flush_out();
    const uint64_t rest_ns = next_ns > now_ns() ? next_ns - now_ns() : 0;
    struct timespec rest = {0, (long)(rest_ns > 50000000 ? 50000000 : rest_ns)};
    struct pollfd on = {wire >= 0 ? wire : listener, POLLIN, 0};
    if (ppoll(&on, 1, &rest, NULL) <= 0) continue;
    if (wire < 0) {
      wire = accept(listener, NULL, NULL);
      continue;
    }
    /* Frames that have begun meanwhile come before what is said now. */
    run_until(now_ns());
    if (on.revents & POLLIN) {
      uint8_t byte;
      if (listener >= 0 && recv(wire, &byte, 1, MSG_PEEK) <= 0) on.revents |= POLLHUP;
      else take_bytes();
    }
    flush_out();
    if (listener >= 0 && (on.revents & (POLLHUP | POLLERR))) {
      close(wire);
      wire = -1;
    }
  }
  if (vcd) fclose(vcd);
  if (pty) unlink(pty);
  return 0;
}
