/*
 * Pins timed by software, in a thread of its own with real-time priority on a processor of its own. Nothing makes such pulses exact: how late its edges were
 * it counts, so that the bench can be told what this machine really does.
 */
#ifndef VANTEL_PINS_H
#define VANTEL_PINS_H

#include <stdint.h>

#define PINS_AT_MOST 32

/* Files that take "1" and "0", as the kernel's interface to single pins has them: ROOT/gpioN/value. Gives 0, with a sentence, where one cannot be had. */
int open_pins(const char *root, const unsigned *numbers, unsigned count, uint32_t period_ns, int processor);

/* The pulse of a pin from its next frame on; 0 for none. */
void set_pin(unsigned pin, uint32_t pulse_ns);

/* How late edges were since this was last asked, in us: the median, and 99 of 100. Gives 0 where there was none. */
int pin_lateness(uint32_t *median_us, uint32_t *late99_us);

/* Ends the thread, every pin low. */
void close_pins(void);

#endif
