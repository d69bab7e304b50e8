/*
 * A port to begin from: fill in the functions below for your microcontroller, and nothing else. docs/firmware.md leads through it.
 *
 * As it stands it builds, and drives nothing.
 */
#include "../board/board.h"

/* ---- 1. What this board is. The numbers must be those of the project, or the host sends no frames. ---- */

/* Sixteen channels of a timer at 2 MHz: a count is 500 ns, a frame of 40000 counts is 20 ms. */
static const struct vb_group groups[] = {
    {.first = 0, .last = 15, .period_ns = 20000000, .lowest = 0, .at_lowest = 0, .highest = 39999, .at_highest = 19999500},
};

static const struct vb_about about = {
    .name = "my-board",
    .unit = "count",
    .channels = 16,
    .groups = groups,
    .group_count = 1,
    /* What it does when the host is silent, before the host says otherwise. */
    .silence_ms = 500,
    .silence = VB_RELEASE,
};

/* ---- 2. Bytes. ---- */

/* Send one byte on the serial port; wait until there is room for it. */
void vb_put(uint8_t byte) { (void)byte; }

/* The next byte that came in, or -1. Received in an interrupt, bytes want a buffer of 64 or more: a line is longer than most ports hold. */
static int next_byte(void) { return -1; }

/* ---- 3. The clock: microseconds since power-up; running over after 32 bits is right. ---- */

uint32_t vb_now_us(void) { return 0; }

/* ---- 4. Pins. ---- */

/*
 * Load the compare register of this channel, so that the pulse that begins now is so long. Where the timer has a buffered compare register
 * ("preload", "double buffering"), write that one: it takes effect when the next frame begins, and vb_frame() is called one frame ahead.
 */
void vb_set_count(uint8_t channel, vb_count count) { (void)channel, (void)count; }

/* Begin no pulse any more. Do not pull the pin down in the middle of one: a pulse cut short is a wrong position. */
void vb_no_signal(uint8_t channel) { (void)channel; }

/* ---- 5. Readings, for servos with a feedback wire; else leave it as it is. ---- */

uint8_t vb_read(uint8_t channel, uint32_t *position, uint32_t *current_ma) {
  (void)channel, (void)position, (void)current_ma;
  return 0;
}

/* ---- 6. Set to 1 by the timer's interrupt at the beginning of each frame. ---- */

static volatile uint8_t frame_has_begun;

/* ---- The loop. Call it from main() once clock, port and timer run. ---- */

void run_board(void);

void run_board(void) {
  vb_begin(&about);
  for (;;) {
    int byte;
    if (frame_has_begun) {
      frame_has_begun = 0;
      vb_frame(0);
    }
    byte = next_byte();
    if (byte >= 0) vb_take((uint8_t)byte);
    vb_look();
  }
}
