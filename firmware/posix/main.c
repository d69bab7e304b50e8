/*
 * A board on this computer, with made-up pins: on a pseudo-terminal or a TCP port, every edge of every pin written as a waveform (VCD). It is what
 * the tests hold the host against, and an example of a port.
 *
 *   vantel-board --pty LINK | --tcp PORT  [--name NAME] [--groups G] [--silence MS release|hold] [--vcd FILE] [--log FILE]
 *
 * Its pulses are made as a timer makes them: a count is taken up when a frame begins, and what has begun goes on whatever the program does. So a
 * program that is stopped for a second leaves the pins as they were, and makes up for their edges when it goes on.
 */
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "about.h"
#include "loop.h"

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
static FILE *vcd;
static uint64_t vcd_ns;

/* ---- What the board's half asks of a port ---- */

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

static void usage(void) {
  fprintf(stderr, "vantel-board --pty LINK | --tcp PORT  [--name NAME] [--groups G] [--silence MS release|hold] [--vcd FILE] [--log FILE]\n");
  exit(2);
}

int main(int count, char **words) {
  const char *vcd_path = NULL, *group_words = "0-11:20000000:0:0:20000:20000000";
  struct wire_words wire = {0};
  for (int at = 1; at < count; at++) {
    const char *word = words[at];
    if (at + 1 == count) usage();
    if (!strcmp(word, "--pty")) wire.pty = words[++at];
    else if (!strcmp(word, "--tcp")) wire.tcp = atoi(words[++at]);
    else if (!strcmp(word, "--name")) about.name = words[++at];
    else if (!strcmp(word, "--groups")) group_words = words[++at];
    else if (!strcmp(word, "--vcd")) vcd_path = words[++at];
    else if (!strcmp(word, "--log")) wire.log_path = words[++at];
    else if (!strcmp(word, "--silence") && at + 2 < count) {
      about.silence_ms = (uint16_t)atoi(words[++at]);
      about.silence = strcmp(words[++at], "hold") ? VB_RELEASE : VB_HOLD;
    } else usage();
  }
  if (!read_groups(group_words, groups, &about) || !is_name(about.name) || (!wire.pty && !wire.tcp)) usage();
  begin_clock();
  for (uint8_t group = 0; group < about.group_count; group++) frame_ns[group] = groups[group].period_ns;
  vb_begin(&about);
  if (vcd_path) begin_vcd(vcd_path);
  run_loop(&wire, run_until);
  if (vcd) fclose(vcd);
  return 0;
}
