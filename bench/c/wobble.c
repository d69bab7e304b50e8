/* The loop of src/core/wobble/simulate.ts with a fixed period, for a ratio beside it. Prints the median of 9 runs in ms. */
#include <math.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

#define BINS 20000
static uint32_t bins[BINS];

static double now_ms(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static double run(long frames) {
  const double asked = 20000, pulse = 1500, granularity = 1, overhead = 20;
  const double floor_us = 4, mean = 8, chance = 0.001, spike = 80;
  const int high_sleeps = 1, gap_sleeps = 2;
  uint32_t state = 1;
  double rise = 0, deadline = 0, worst = 0, sum = 0;
  long lost = 0;
  memset(bins, 0, sizeof bins);
  for (long done = 0; done < frames; done++) {
    double late = 0, gap_late = 0;
    for (int wake = 0; wake < high_sleeps + gap_sleeps; wake++) {
      state += 0x6d2b79f5u;
      uint32_t mixed = (state ^ (state >> 15)) * (state | 1);
      mixed ^= mixed + (mixed ^ (mixed >> 7)) * (mixed | 61);
      double even = (mixed ^ (mixed >> 14)) / 4294967296.0, one = floor_us;
      if (even < chance) one -= log(1 - even / chance) * spike;
      else one -= log(1 - (even - chance) / (1 - chance)) * mean;
      if (wake < high_sleeps) late += one; else gap_late += one;
    }
    double made = pulse + late;
    int bin = (int)((made - pulse) / 0.1);
    bins[bin < 0 ? 0 : bin >= BINS ? BINS - 1 : bin]++;
    sum += made;
    if (made > worst) worst = made;
    double fall = rise + made + overhead;
    deadline += asked;
    if (fall > deadline + asked / 2) {
      double skipped = floor((fall - deadline) / asked + 0.5);
      lost += (long)skipped;
      deadline += skipped * asked;
    }
    double wait = deadline - fall;
    rise = wait > 0 ? fall + ceil(wait / granularity) * granularity + gap_late : fall;
  }
  return sum + worst + rise + lost;
}

static int by_size(const void *a, const void *b) {
  return (*(double *)a > *(double *)b) - (*(double *)a < *(double *)b);
}

int main(int argc, char **argv) {
  double times[9], kept = 0;
  long frames = argc > 1 ? atol(argv[1]) : 1000000;
  for (int at = 0; at < 9; at++) {
    double start = now_ms();
    kept += run(frames);
    times[at] = now_ms() - start;
  }
  qsort(times, 9, sizeof times[0], by_size);
  printf("%f %g\n", times[4], kept);
  return 0;
}
