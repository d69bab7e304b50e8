/*
 * The board's half of the Vantel link, version 2 (docs/link-protocol.md): lines in, counts out. MIT, see LICENSE.
 *
 * It allocates nothing, knows no floating point and no standard input or output. Whatever is around it comes in through the functions below,
 * and goes out through the five that a port writes.
 */
#ifndef VANTEL_BOARD_H
#define VANTEL_BOARD_H

#include <stdint.h>

/* How many channels there is memory for; a port may have fewer. */
#ifndef VB_CHANNELS
#define VB_CHANNELS 16
#endif

/* The longest line that is taken, its end included: 64 to 1024. A frame of n channels needs 13 + n * (2 + digits of channel + digits of count). */
#ifndef VB_LINE
#define VB_LINE 192
#endif

/* What a count fits into. 16 bits do for most timers, and halve the memory. */
#ifndef VB_COUNT
#define VB_COUNT uint16_t
#endif
typedef VB_COUNT vb_count;
#define VB_COUNT_MAX ((vb_count)~(vb_count)0)

/*
 * Keeps an interrupt that calls vb_frame() out while a frame is being taken, so that none is put out by halves. Empty where vb_frame() is called from
 * the same loop as vb_take().
 */
#ifndef VB_LOCK
#define VB_LOCK()
#define VB_UNLOCK()
#endif

/* Channels that share a frame, and what their counts make: a pulse in ns, or a position in ticks. */
struct vb_group {
  uint8_t first, last;
  /* The true length of the frame, in ns. */
  uint32_t period_ns;
  vb_count lowest;
  uint32_t at_lowest;
  vb_count highest;
  uint32_t at_highest;
};

enum vb_silence { VB_RELEASE, VB_HOLD };

/* What a board is. It must live as long as the board does. */
struct vb_about {
  /* 1 to 40 letters, digits, '_' and '-'. */
  const char *name;
  /* "count" for pulses, "tick" for positions. */
  const char *unit;
  uint8_t channels;
  const struct vb_group *groups;
  /* At most 16. */
  uint8_t group_count;
  /* After so long a silence it does this by itself, until the host says otherwise; 100 to 60000 ms. */
  uint16_t silence_ms;
  enum vb_silence silence;
};

/* ---- What a port calls ---- */

/* Begins: no channel has a signal. */
void vb_begin(const struct vb_about *about);

/* Takes one byte that has come in. Answers go out by vb_put() before it returns. */
void vb_take(uint8_t byte);

/* Looks at the clock; to be called often, at least every 50 ms. After too long a silence it releases or holds. */
void vb_look(void);

/* A frame of this group begins: calls vb_set_count() or vb_no_signal() for each of its channels. */
void vb_frame(uint8_t group);

/* ---- What a port writes ---- */

/* Sends one byte. */
void vb_put(uint8_t byte);

/* Microseconds since whenever, running over after 32 bits. */
uint32_t vb_now_us(void);

/* The pulse that begins with this frame is as long as this count makes it. */
void vb_set_count(uint8_t channel, vb_count count);

/* No pulse begins any more. One that has begun comes to its end. */
void vb_no_signal(uint8_t channel);

/* Reads the servo of a channel: its position and its current in mA. Gives 0 for one that cannot be read. */
uint8_t vb_read(uint8_t channel, uint32_t *position, uint32_t *current_ma);

#endif
