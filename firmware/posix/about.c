#include "about.h"

#include <stdio.h>
#include <string.h>

int is_name(const char *text) {
  const size_t length = strlen(text);
  return length >= 1 && length <= 40 &&
         strspn(text, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-") == length;
}

int read_groups(const char *text, struct vb_group *groups, struct vb_about *about) {
  unsigned channels = 0;
  about->groups = groups;
  about->group_count = 0;
  while (*text) {
    unsigned first, last;
    unsigned long period_ns, lowest, at_lowest, highest, at_highest;
    int length = 0;
    if (sscanf(text, "%u-%u:%lu:%lu:%lu:%lu:%lu%n", &first, &last, &period_ns, &lowest, &at_lowest, &highest, &at_highest,
               &length) != 7 ||
        (text[length] && text[length] != ',')) {
      fprintf(stderr, "A group is first-last:period:low:atlow:high:athigh, not “%s”.\n", text);
      return 0;
    }
    if (first != channels || last < first || last >= VB_CHANNELS || about->group_count == GROUPS_AT_MOST) {
      fprintf(stderr, "Groups follow one another from channel 0, up to %d.\n", VB_CHANNELS - 1);
      return 0;
    }
    if (period_ns < 100000 || lowest >= highest || highest > VB_COUNT_MAX) {
      fprintf(stderr, "A frame is 100000 ns or longer, and counts rise to %lu at most.\n", (unsigned long)VB_COUNT_MAX);
      return 0;
    }
    groups[about->group_count++] = (struct vb_group){
        (uint8_t)first,    (uint8_t)last,      (uint32_t)period_ns, (vb_count)lowest,
        (uint32_t)at_lowest, (vb_count)highest, (uint32_t)at_highest};
    channels = last + 1;
    text += length + (text[length] == ',');
  }
  about->channels = (uint8_t)channels;
  if (channels == 0) fprintf(stderr, "A board has at least one channel.\n");
  return channels > 0;
}
