/*
 * A board of a small computer's own: the kernel's PWM channels, or a pulse chip on I2C.
 *
 *   vantel-linux --pty LINK | --tcp PORT  [--name NAME] [--hz 50] [--silence MS release|hold]
 *       --pwm CHIP:CHANNEL …  [--root /sys/class/pwm]
 *     | --i2c BUS --address A --channels N --oscillator HZ --bits B --prescale-register R --first-register R
 *         --mode-register R --sleeps V --runs V
 *     | --pin N …  [--gpio /sys/class/gpio] [--processor P]
 *
 * Counts of the PWM interface and of single pins are microseconds; those of a chip are its own. Single pins are timed by software: how late their edges are
 * is said once a second, as the inputs late.median and late.99 in us.
 */
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "../posix/about.h"
#include "../posix/loop.h"
#include "outputs.h"
#include "pins.h"

#define NS_PER_US 1000u

static struct vb_group group;
static struct vb_about about = {.name = "linux", .unit = "count", .groups = &group, .group_count = 1, .silence_ms = 500, .silence = VB_RELEASE};
static struct kernel_pwm pwms[VB_CHANNELS];
static struct pulse_chip chip;
static int has_chip, has_pins;
/* What each output was last given: only what changes is written. */
static uint32_t given[VB_CHANNELS];
static uint64_t frame_at_ns;

static void give(uint8_t channel, uint32_t count) {
  if (given[channel] == count) return;
  given[channel] = count;
  if (has_chip) set_pulse_chip(&chip, channel, count);
  else if (has_pins) set_pin(channel, count * NS_PER_US);
  else set_kernel_pwm(&pwms[channel], count * NS_PER_US);
}

void vb_set_count(uint8_t channel, vb_count count) { give(channel, count); }
void vb_no_signal(uint8_t channel) { give(channel, 0); }

uint8_t vb_read(uint8_t channel, uint32_t *position, uint32_t *current_ma) {
  (void)channel, (void)position, (void)current_ma;
  return 0;
}

static void say_input(const char *name, uint32_t value) {
  char text[64];
  snprintf(text, sizeof text, "%s=%lu\n", name, (unsigned long)value);
  for (const char *at = text; *at; at++) vb_put((uint8_t)*at);
}

/* What this machine really does, for whoever judges its wobble. Between two lines, never within one. */
static void report_lateness(uint64_t at_ns) {
  static uint64_t said_ns;
  uint32_t median_us, late99_us;
  if (!has_pins || at_ns - said_ns < 1000000000u) return;
  said_ns = at_ns;
  if (!pin_lateness(&median_us, &late99_us)) return;
  say_input("late.median", median_us);
  say_input("late.99", late99_us);
}

/* Kernel and chip make the pulses by themselves: a frame here is when they are given new ones. They take them up with their own next frame. */
static uint64_t run_until(uint64_t until_ns) {
  if (frame_at_ns > until_ns) return frame_at_ns;
  vb_frame(0);
  report_lateness(until_ns);
  /* After a stall there is nothing to make up for. */
  while (frame_at_ns <= until_ns) frame_at_ns += group.period_ns;
  return frame_at_ns;
}

static void usage(void) {
  fprintf(stderr, "vantel-linux --pty LINK | --tcp PORT [--name NAME] [--hz HZ] [--silence MS release|hold] --pwm CHIP:CHANNEL ... | --i2c BUS ... | --pin N ...\n");
  fprintf(stderr, "docs/firmware.md tells what each is for.\n");
  exit(2);
}

static unsigned number(const char *text) {
  char *end;
  const unsigned long value = strtoul(text, &end, 0);
  if (*end || end == text || value > 1000000000ul) usage();
  return (unsigned)value;
}

int main(int count, char **words) {
  const char *root = "/sys/class/pwm", *gpio = "/sys/class/gpio", *bus = NULL;
  unsigned pins[PINS_AT_MOST], pin_count = 0;
  int processor = -1;
  struct wire_words wire = {0};
  unsigned told = 0, hz = 50, wanted[VB_CHANNELS][2], pwm_count = 0, channels = 16;
  for (int at = 1; at < count; at++) {
    const char *word = words[at], *value = at + 1 < count ? words[++at] : (usage(), "");
    if (!strcmp(word, "--pty")) wire.pty = value;
    else if (!strcmp(word, "--tcp")) wire.tcp = (int)number(value);
    else if (!strcmp(word, "--log")) wire.log_path = value;
    else if (!strcmp(word, "--name")) about.name = value;
    else if (!strcmp(word, "--hz")) hz = number(value);
    else if (!strcmp(word, "--root")) root = value;
    else if (!strcmp(word, "--pwm") && pwm_count < VB_CHANNELS && sscanf(value, "%u:%u", &wanted[pwm_count][0], &wanted[pwm_count][1]) == 2) pwm_count++;
    else if (!strcmp(word, "--pin") && pin_count < PINS_AT_MOST) pins[pin_count++] = number(value);
    else if (!strcmp(word, "--gpio")) gpio = value;
    else if (!strcmp(word, "--processor")) processor = (int)number(value);
    else if (!strcmp(word, "--i2c")) bus = value;
    else if (!strcmp(word, "--address")) chip.address = number(value), told++;
    else if (!strcmp(word, "--channels")) channels = number(value);
    else if (!strcmp(word, "--oscillator")) chip.oscillator_hz = number(value);
    else if (!strcmp(word, "--bits")) chip.bits = number(value);
    else if (!strcmp(word, "--prescale-register")) chip.prescale_register = number(value), told++;
    else if (!strcmp(word, "--first-register")) chip.first_register = number(value), told++;
    else if (!strcmp(word, "--mode-register")) chip.mode_register = number(value), told++;
    else if (!strcmp(word, "--sleeps")) chip.mode_sleeps = number(value), told++;
    else if (!strcmp(word, "--runs")) chip.mode_runs = number(value), told++;
    else if (!strcmp(word, "--silence") && at + 1 < count) {
      about.silence_ms = (uint16_t)number(value);
      about.silence = strcmp(words[++at], "hold") ? VB_RELEASE : VB_HOLD;
    } else usage();
  }
  if (!is_name(about.name) || (!wire.pty && !wire.tcp) || hz < 20 || hz > 500 || (bus != NULL) + (pwm_count > 0) + (pin_count > 0) != 1) usage();
  has_chip = bus != NULL;
  has_pins = pin_count > 0;
  if (has_chip) {
    if (told != 6) {
      fprintf(stderr, "A chip is told by address, first, prescale and mode register, and by what sleeps it and what runs it.\n");
      return 2;
    }
    if (chip.oscillator_hz < 100000 || chip.bits < 8 || chip.bits > 16 || channels < 1 || channels > VB_CHANNELS) usage();
    const uint32_t counts = (uint32_t)1 << chip.bits;
    const unsigned wished = (unsigned)((chip.oscillator_hz + (uint64_t)counts * hz / 2) / ((uint64_t)counts * hz));
    const unsigned prescale = wished < 1 ? 0 : wished > 256 ? 255 : wished - 1;
    if (!open_pulse_chip(&chip, bus, prescale)) return 1;
    /* The frame as the chip really makes it, which is what the host is told. */
    const uint64_t count_ns_times_hz = 1000000000ull * (prescale + 1);
    group.period_ns = (uint32_t)(count_ns_times_hz * counts / chip.oscillator_hz);
    group.highest = counts - 1;
    group.at_highest = (uint32_t)(count_ns_times_hz * (counts - 1) / chip.oscillator_hz);
    about.channels = (uint8_t)channels;
  } else {
    group.period_ns = 1000000000u / hz;
    group.highest = group.period_ns / NS_PER_US;
    group.at_highest = group.highest * NS_PER_US;
    about.channels = (uint8_t)(has_pins ? pin_count : pwm_count);
    for (unsigned at = 0; at < pwm_count; at++)
      if (!open_kernel_pwm(&pwms[at], root, wanted[at][0], wanted[at][1], group.period_ns)) return 1;
    if (has_pins && !open_pins(gpio, pins, pin_count, group.period_ns, processor)) return 1;
  }
  group.last = (uint8_t)(about.channels - 1);
  begin_clock();
  frame_at_ns = group.period_ns;
  /* Whatever was left on: no pulse until a host says one. */
  for (uint8_t channel = 0; channel < about.channels; channel++) given[channel] = 1;
  vb_begin(&about);
  run_loop(&wire, run_until);
  for (uint8_t channel = 0; channel < about.channels; channel++) vb_no_signal(channel);
  if (has_pins) close_pins();
  return 0;
}
