#include "outputs.h"

#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <string.h>
#include <sys/ioctl.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

/* From the kernel's I²C interface: which device the next bytes are for. */
#define I2C_DEVICE 0x0703

static int write_file(const char *path, const char *text) {
  const int file = open(path, O_WRONLY);
  const ssize_t length = (ssize_t)strlen(text);
  const int is_done = file >= 0 && write(file, text, (size_t)length) == length;
  const int why = errno;
  if (file >= 0) close(file);
  errno = why;
  return is_done;
}

static void wait_ms(long ms) {
  const struct timespec rest = {0, ms * 1000000};
  nanosleep(&rest, NULL);
}

int open_kernel_pwm(struct kernel_pwm *pwm, const char *root, unsigned chip, unsigned channel, uint32_t period_ns) {
  char path[512], text[32];
  struct stat there;
  const int base = snprintf(path, sizeof path, "%s/pwmchip%u", root, chip);
  if (base < 0 || base > 400 || stat(path, &there)) {
    fprintf(stderr, "There is no PWM chip %u in %s.\n", chip, root);
    return 0;
  }
  snprintf(path + base, 100, "/pwm%u", channel);
  if (stat(path, &there)) {
    snprintf(path + base, 100, "/export");
    snprintf(text, sizeof text, "%u", channel);
    if (!write_file(path, text)) {
      fprintf(stderr, "Channel %u of PWM chip %u cannot be had: %s.\n", channel, chip, strerror(errno));
      return 0;
    }
    /* The system gives the new files their rights a moment later. */
    snprintf(path + base, 100, "/pwm%u", channel);
    for (int tries = 0; tries < 50 && stat(path, &there); tries++) wait_ms(10);
  }
  /* Nothing before its period is right: a pulse of another frame would be another position. */
  snprintf(path + base, 100, "/pwm%u/duty_cycle", channel);
  if (!write_file(path, "0")) {
    fprintf(stderr, "%s cannot be written: %s.\n", path, strerror(errno));
    return 0;
  }
  snprintf(path + base, 100, "/pwm%u/period", channel);
  snprintf(text, sizeof text, "%lu", (unsigned long)period_ns);
  if (!write_file(path, text)) {
    fprintf(stderr, "A frame of %s ns is refused: %s.\n", text, strerror(errno));
    return 0;
  }
  snprintf(path + base, 100, "/pwm%u/enable", channel);
  if (!write_file(path, "1")) {
    fprintf(stderr, "%s cannot be written: %s.\n", path, strerror(errno));
    return 0;
  }
  snprintf(path + base, 100, "/pwm%u/duty_cycle", channel);
  pwm->duty = open(path, O_WRONLY);
  return pwm->duty >= 0;
}

void set_kernel_pwm(struct kernel_pwm *pwm, uint32_t pulse_ns) {
  char text[16];
  const int length = snprintf(text, sizeof text, "%lu\n", (unsigned long)pulse_ns);
  /* A file of the system takes each write as a whole, from its beginning. */
  if (pwrite(pwm->duty, text, (size_t)length, 0) != length) fprintf(stderr, "A pulse of %lu ns is refused: %s.\n", (unsigned long)pulse_ns, strerror(errno));
}

static int send_bytes(const struct pulse_chip *chip, const uint8_t *bytes, size_t length) {
  if (write(chip->bus, bytes, length) == (ssize_t)length) return 1;
  fprintf(stderr, "The pulse chip at address %u does not answer: %s.\n", chip->address, strerror(errno));
  return 0;
}

int open_pulse_chip(struct pulse_chip *chip, const char *path, unsigned prescale) {
  struct stat there;
  chip->bus = open(path, O_RDWR);
  if (chip->bus < 0) {
    fprintf(stderr, "%s cannot be opened: %s.\n", path, strerror(errno));
    return 0;
  }
  /* A bus is a device; anything else just gets the bytes. */
  if (!fstat(chip->bus, &there) && S_ISCHR(there.st_mode) && ioctl(chip->bus, I2C_DEVICE, (unsigned long)chip->address)) {
    fprintf(stderr, "Address %u of %s cannot be had: %s.\n", chip->address, path, strerror(errno));
    return 0;
  }
  const uint8_t sleeps[] = {(uint8_t)chip->mode_register, (uint8_t)chip->mode_sleeps};
  const uint8_t loads[] = {(uint8_t)chip->prescale_register, (uint8_t)prescale};
  const uint8_t runs[] = {(uint8_t)chip->mode_register, (uint8_t)chip->mode_runs};
  if (!send_bytes(chip, sleeps, 2) || !send_bytes(chip, loads, 2) || !send_bytes(chip, runs, 2)) return 0;
  wait_ms(2);
  return 1;
}

void set_pulse_chip(const struct pulse_chip *chip, unsigned channel, uint32_t count) {
  /* The whole of a channel in one message: on at 0, off at the count. A count of 0 is no pulse. */
  const uint8_t bytes[] = {(uint8_t)(chip->first_register + 4 * channel), 0, 0, (uint8_t)(count & 0xFF), (uint8_t)(count >> 8)};
  send_bytes(chip, bytes, sizeof bytes);
}
