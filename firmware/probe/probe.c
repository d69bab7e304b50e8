/*
 * Holds the board's half against any lines, with its clock in the hands of whoever asks. One command a line on standard input:
 *   t 123456   the clock stands at so many µs
 *   b 56203223 these bytes come in, as hexadecimal digits
 *   f 0        a frame of this group begins
 *   o          tell what was told: the counts by channel, "-" for no signal
 * Everything that the board says goes to standard output as it is.
 */
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "../posix/about.h"

static uint32_t now_us;
static long put_out[VB_CHANNELS];

void vb_put(uint8_t byte) { putchar(byte); }
uint32_t vb_now_us(void) { return now_us; }
void vb_set_count(uint8_t channel, vb_count count) { put_out[channel] = (long)count; }
void vb_no_signal(uint8_t channel) { put_out[channel] = -1; }
uint8_t vb_read(uint8_t channel, uint32_t *position, uint32_t *current_ma) {
  (void)channel, (void)position, (void)current_ma;
  return 0;
}

int main(int count, char **words) {
  static char line[1 << 16];
  struct vb_group groups[GROUPS_AT_MOST];
  struct vb_about about = {.name = "probe", .unit = "count", .silence_ms = 500, .silence = VB_RELEASE};
  if (count != 2 || !read_groups(words[1], groups, &about)) return 2;
  vb_begin(&about);
  while (fgets(line, sizeof line, stdin)) {
    if (line[0] == 't') now_us = (uint32_t)strtoul(line + 2, NULL, 10);
    else if (line[0] == 'f') vb_frame((uint8_t)atoi(line + 2));
    else if (line[0] == 'l') vb_look();
    else if (line[0] == 'b') {
      unsigned byte;
      for (const char *at = line + 2; sscanf(at, "%2x", &byte) == 1; at += 2) vb_take((uint8_t)byte);
    } else if (line[0] == 'o') {
      printf("o");
      for (uint8_t channel = 0; channel < about.channels; channel++) {
        if (put_out[channel] < 0) printf(" -");
        else printf(" %ld", put_out[channel]);
      }
      printf("\n");
    }
  }
  return 0;
}
