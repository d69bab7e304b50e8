/* What makes the pulses of a small computer. Each gives 0, with a sentence on standard error, where it cannot be had. */
#ifndef VANTEL_OUTPUTS_H
#define VANTEL_OUTPUTS_H

#include <stdint.h>

/* ---- The kernel's PWM interface: a folder for each chip, in it one for each channel that was exported. ---- */

struct kernel_pwm {
  int duty;
};

/* `root` is /sys/class/pwm, or a tree that looks like it. */
int open_kernel_pwm(struct kernel_pwm *pwm, const char *root, unsigned chip, unsigned channel, uint32_t period_ns);

/* A pulse of this length from the next period on; 0 for none. */
void set_kernel_pwm(struct kernel_pwm *pwm, uint32_t pulse_ns);

/* ---- A pulse chip on I²C, told by the numbers of its data sheet. ---- */

struct pulse_chip {
  int bus;
  unsigned address;
  /* The frame is (prescale + 1) * 2^bits / oscillator. */
  uint32_t oscillator_hz;
  unsigned bits;
  /* Where the prescaler is loaded, and the register of the first channel: four bytes each, on and off, low byte first. */
  unsigned prescale_register, first_register;
  /* The mode register, what sleeps it (the prescaler is loaded then) and what runs it. */
  unsigned mode_register, mode_sleeps, mode_runs;
};

int open_pulse_chip(struct pulse_chip *chip, const char *path, unsigned prescale);
void set_pulse_chip(const struct pulse_chip *chip, unsigned channel, uint32_t count);

#endif
