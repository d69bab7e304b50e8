/* Angle to count through zero, direction and line, rounded and clamped; for a ratio beside bench/conversions.ts. Prints ms. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static double now_ms(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static int by_size(const void *a, const void *b) {
  return (*(double *)a > *(double *)b) - (*(double *)a < *(double *)b);
}

int main(int argc, char **argv) {
  long calls = argc > 1 ? atol(argv[1]) : 1000000;
  volatile double zero = 90, direction = 1, slope = 10.169, intercept = 572.8, gain = 4.88;
  double times[9], sum = 0;
  for (int run = 0; run < 9; run++) {
    double z = zero, d = direction, s = slope, i = intercept, g = gain, start = now_ms();
    for (long at = 0; at < calls; at++) {
      double count = floor((s * (z + d * (-30 + 65.0 * at / calls)) + i) / g + 0.5);
      sum += count < 0 ? 0 : count > 4095 ? 4095 : count;
    }
    times[run] = now_ms() - start;
  }
  qsort(times, 9, sizeof times[0], by_size);
  printf("%f %g\n", times[4], sum);
  return 0;
}
