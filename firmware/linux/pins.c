#include "pins.h"

#include <errno.h>
#include <fcntl.h>
#include <pthread.h>
#include <sched.h>
#include <stdatomic.h>
#include <stdio.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

/* Sleep wakes late; the rest of the way is waited for with open eyes. */
#define AWAKE_NS 150000u
/* Lateness in classes of a microsecond; the last holds all beyond. */
#define CLASSES 2000

static int files[PINS_AT_MOST];
static unsigned pin_count;
static uint32_t frame_ns;
static _Atomic uint32_t pulses[PINS_AT_MOST];
static _Atomic uint32_t late[CLASSES];
static atomic_int is_over;
static pthread_t thread;

static uint64_t clock_ns(void) {
  struct timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  return (uint64_t)now.tv_sec * 1000000000u + (uint64_t)now.tv_nsec;
}

static void wait_until(uint64_t at_ns) {
  const uint64_t now = clock_ns();
  if (at_ns > now + AWAKE_NS) {
    const uint64_t wake_ns = at_ns - AWAKE_NS;
    const struct timespec wake = {(time_t)(wake_ns / 1000000000u), (long)(wake_ns % 1000000000u)};
    while (clock_nanosleep(CLOCK_MONOTONIC, TIMER_ABSTIME, &wake, NULL) == EINTR) {
    }
  }
  while (clock_ns() < at_ns) {
  }
}

static void put(unsigned pin, char level) {
  if (pwrite(files[pin], &level, 1, 0) != 1) return;
}

static void count_late(uint64_t at_ns) {
  const uint64_t late_us = (clock_ns() - at_ns) / 1000;
  atomic_fetch_add(&late[late_us < CLASSES ? late_us : CLASSES - 1], 1);
}

static void *run(void *nothing) {
  uint64_t frame_at_ns = clock_ns() + frame_ns;
  (void)nothing;
  while (!atomic_load(&is_over)) {
    uint32_t lengths[PINS_AT_MOST];
    unsigned order[PINS_AT_MOST], count = 0;
    wait_until(frame_at_ns);
    for (unsigned pin = 0; pin < pin_count; pin++) {
      unsigned at = count;
      lengths[pin] = atomic_load(&pulses[pin]);
      if (!lengths[pin]) continue;
      put(pin, '1');
      /* In the order in which they end. */
      for (; at > 0 && lengths[order[at - 1]] > lengths[pin]; at--) order[at] = order[at - 1];
      order[at] = pin;
      count++;
    }
    if (count) count_late(frame_at_ns);
    for (unsigned at = 0; at < count; at++) {
      wait_until(frame_at_ns + lengths[order[at]]);
      put(order[at], '0');
      count_late(frame_at_ns + lengths[order[at]]);
    }
    /* After a stall there is nothing to make up for. */
    do frame_at_ns += frame_ns;
    while (frame_at_ns < clock_ns());
  }
  for (unsigned pin = 0; pin < pin_count; pin++) put(pin, '0');
  return NULL;
}

int open_pins(const char *root, const unsigned *numbers, unsigned count, uint32_t period_ns, int processor) {
  const struct sched_param priority = {.sched_priority = 80};
  for (unsigned pin = 0; pin < count; pin++) {
    char path[512];
    snprintf(path, sizeof path, "%s/gpio%u/value", root, numbers[pin]);
    files[pin] = open(path, O_WRONLY);
    if (files[pin] < 0) {
      fprintf(stderr, "Pin %u cannot be had: %s: %s. Export it, and make it an output.\n", numbers[pin], path, strerror(errno));
      return 0;
    }
  }
  pin_count = count;
  frame_ns = period_ns;
  if (pthread_create(&thread, NULL, run, NULL)) {
    fprintf(stderr, "The thread of the pins cannot be begun.\n");
    return 0;
  }
  if (pthread_setschedparam(thread, SCHED_FIFO, &priority))
    fprintf(stderr, "The pins have no real-time priority: they will be late more often. Their program may be given it (CAP_SYS_NICE).\n");
  if (processor >= 0) {
    cpu_set_t own;
    CPU_ZERO(&own);
    CPU_SET((unsigned)processor, &own);
    if (pthread_setaffinity_np(thread, sizeof own, &own)) fprintf(stderr, "Processor %d is not there: the pins run on any.\n", processor);
  }
  return 1;
}

void set_pin(unsigned pin, uint32_t pulse_ns) { atomic_store(&pulses[pin], pulse_ns); }

int pin_lateness(uint32_t *median_us, uint32_t *late99_us) {
  static uint32_t counts[CLASSES];
  uint32_t all = 0, sum = 0;
  for (unsigned at = 0; at < CLASSES; at++) all += counts[at] = atomic_exchange(&late[at], 0);
  if (!all) return 0;
  *median_us = *late99_us = CLASSES;
  for (unsigned at = 0; at < CLASSES; at++) {
    sum += counts[at];
    if (*median_us == CLASSES && sum * 2ull >= all) *median_us = at;
    if (*late99_us == CLASSES && sum * 100ull >= all * 99ull) *late99_us = at;
  }
  return 1;
}

void close_pins(void) {
  atomic_store(&is_over, 1);
  pthread_join(thread, NULL);
}
