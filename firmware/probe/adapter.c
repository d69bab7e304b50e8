/*
 * A bus adapter on this computer: a pseudo-terminal whose bytes go to a TCP port, behind which the devices of a bus are simulated.
 *
 *   adapter LINK PORT ECHO HOLD
 *
 * ECHO 1 gives back every byte that is sent, as adapters do that listen to their own wire; HOLD is how many ms it holds back what comes, as a USB
 * adapter does that waits for its packet to fill.
 */
#define _GNU_SOURCE
#include <arpa/inet.h>
#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/socket.h>
#include <time.h>
#include <unistd.h>

#include <netinet/in.h>
#include <netinet/tcp.h>

#include "../posix/pty.h"

static long now_ms(void) {
  struct timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  return now.tv_sec * 1000 + now.tv_nsec / 1000000;
}

int main(int count, char **words) {
  if (count != 5) return 2;
  const int pty = open_pty(words[1]);
  const int echo = atoi(words[3]);
  const long hold_ms = atol(words[4]);
  const int bus = socket(AF_INET, SOCK_STREAM, 0);
  const int yes = 1;
  struct sockaddr_in address = {.sin_family = AF_INET, .sin_port = htons((uint16_t)atoi(words[2]))};
  address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
  if (connect(bus, (struct sockaddr *)&address, sizeof address)) {
    perror("bus");
    return 1;
  }
  setsockopt(bus, IPPROTO_TCP, TCP_NODELAY, &yes, sizeof yes);
  unsigned char held[65536], bytes[4096];
  size_t held_length = 0;
  long flush_ms = now_ms();
  for (;;) {
    struct pollfd on[2] = {{pty, POLLIN, 0}, {bus, POLLIN, 0}};
    const long rest_ms = held_length ? flush_ms + hold_ms - now_ms() : 1000;
    poll(on, 2, rest_ms < 0 ? 0 : (int)rest_ms);
    if (on[0].revents & POLLIN) {
      const ssize_t length = read(pty, bytes, sizeof bytes);
      if (length > 0 && write(bus, bytes, (size_t)length) != length) return 1;
      if (echo && length > 0 && held_length + (size_t)length <= sizeof held) {
        memcpy(held + held_length, bytes, (size_t)length);
        held_length += (size_t)length;
      }
    }
    if (on[1].revents & (POLLIN | POLLHUP)) {
      const ssize_t length = read(bus, held + held_length, sizeof held - held_length);
      if (length <= 0) return 0;
      held_length += (size_t)length;
    }
    /* Its timer runs on, whether something is held or not. */
    if (now_ms() - flush_ms >= hold_ms) {
      if (held_length && write(pty, held, held_length) < 0) held_length = 0;
      held_length = 0;
      flush_ms = now_ms();
    }
  }
}
