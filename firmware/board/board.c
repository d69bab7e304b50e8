#include "board.h"

/* The characters of a check value, with the '#' before it. */
#define CHECK_LENGTH 5
#define HIGHEST_SEQUENCE 65535u

/* What a channel is held to. */
struct limits {
  vb_count lowest, highest, step;
};

static struct {
  const struct vb_about *about;
  /* What each channel was last told, where it was told anything: put out from the next frame of its group on. */
  vb_count told[VB_CHANNELS];
  struct limits limits[VB_CHANNELS];
  uint8_t is_told[(VB_CHANNELS + 7) / 8];
  uint8_t has_limits[(VB_CHANNELS + 7) / 8];
  /* The groups that have not begun a frame since the last was told. */
  uint16_t waiting;
  uint16_t last_sequence, told_sequence, in_force;
  uint8_t was_greeted, has_acted;
  enum vb_silence silence;
  uint16_t silence_ms;
  uint32_t fed_us;
  uint16_t out_crc;
  uint16_t length;
  uint8_t is_too_long;
  /* One byte less: the end of a line is not kept. */
  uint8_t line[VB_LINE - 1];
} board;

static uint8_t is_in(const uint8_t *set, uint8_t channel) { return (uint8_t)(set[channel >> 3] >> (channel & 7) & 1); }

static void put_in(uint8_t *set, uint8_t channel) { set[channel >> 3] |= (uint8_t)(1 << (channel & 7)); }

static void empty(uint8_t *set) {
  for (uint8_t at = 0; at < (VB_CHANNELS + 7) / 8; at++) set[at] = 0;
}

/* CRC-16 with polynomial 0x1021, one byte on. */
static uint16_t crc16(uint16_t crc, uint8_t byte) {
  crc ^= (uint16_t)(byte << 8);
  for (uint8_t bit = 0; bit < 8; bit++) crc = (uint16_t)(crc & 0x8000 ? crc << 1 ^ 0x1021 : crc << 1);
  return crc;
}

/* ---- Answers ---- */

static void say_byte(uint8_t byte) {
  board.out_crc = crc16(board.out_crc, byte);
  vb_put(byte);
}

static void say(const char *text) {
  while (*text) say_byte((uint8_t)*text++);
}

static void begin_saying(const char *text) {
  board.out_crc = 0xFFFF;
  say(text);
}

static void say_number(uint32_t value) {
  uint8_t digits[10], count = 0;
  do digits[count++] = (uint8_t)('0' + value % 10);
  while (value /= 10);
  while (count) say_byte(digits[--count]);
}

static void say_next(char before, uint32_t value) {
  say_byte((uint8_t)before);
  say_number(value);
}

static void end_saying(void) {
  const uint16_t crc = board.out_crc;
  vb_put('#');
  for (int8_t shift = 12; shift >= 0; shift = (int8_t)(shift - 4)) {
    const uint8_t digit = crc >> shift & 15;
    vb_put((uint8_t)(digit < 10 ? '0' + digit : 'A' - 10 + digit));
  }
  vb_put('\n');
}

static void refuse(uint16_t sequence, const char *code) {
  begin_saying("E");
  say_next(' ', sequence);
  say_byte(' ');
  say(code);
  end_saying();
}

/* The channels that have a signal, as "0-3,7"; "-" for none. */
static void say_driven(void) {
  uint8_t channel = 0, is_first = 1;
  while (channel < board.about->channels) {
    uint8_t end = channel;
    if (!is_in(board.is_told, channel)) {
      channel++;
      continue;
    }
    while (end + 1 < board.about->channels && is_in(board.is_told, (uint8_t)(end + 1))) end++;
    if (is_first) say_number(channel);
    else say_next(',', channel);
    if (end > channel) say_next('-', end);
    is_first = 0;
    channel = (uint8_t)(end + 1);
  }
  if (is_first) say_byte('-');
}

/* ---- Reading a line ---- */

/* A place in the line, and where the body ends. */
struct cursor {
  const uint8_t *at, *end;
};

/* A whole number in its one form: no sign, no zeros before it, no more than 32 bits. */
static uint8_t read_whole(struct cursor *cursor, uint32_t *value) {
  const uint8_t *begin = cursor->at;
  uint32_t sum = 0;
  while (cursor->at < cursor->end && *cursor->at >= '0' && *cursor->at <= '9') {
    const uint8_t digit = (uint8_t)(*cursor->at - '0');
    if (cursor->at > begin && *begin == '0') return 0;
    if (sum > 429496729u || (sum == 429496729u && digit > 5)) return 0;
    sum = sum * 10 + digit;
    cursor->at++;
  }
  *value = sum;
  return cursor->at > begin;
}

static uint8_t read_char(struct cursor *cursor, uint8_t wanted) {
  if (cursor->at == cursor->end || *cursor->at != wanted) return 0;
  cursor->at++;
  return 1;
}

/* " a:b" or " a:b:c:d", so many numbers. */
static uint8_t read_word(struct cursor *cursor, uint8_t count, uint32_t *numbers) {
  if (!read_char(cursor, ' ')) return 0;
  for (uint8_t at = 0; at < count; at++)
    if ((at && !read_char(cursor, ':')) || !read_whole(cursor, &numbers[at])) return 0;
  return cursor->at == cursor->end || *cursor->at == ' ';
}

/* Whether the rest is words of so many numbers, of which none begins like another. */
static uint8_t are_words(struct cursor words, uint8_t count) {
  uint32_t one[4], other[4];
  while (words.at < words.end) {
    struct cursor rest;
    if (!read_word(&words, count, one)) return 0;
    for (rest = words; rest.at < rest.end;)
      if (!read_word(&rest, count, other) || one[0] == other[0]) return 0;
  }
  return 1;
}

static uint8_t is_text(struct cursor cursor, const char *text) {
  while (*text)
    if (!read_char(&cursor, (uint8_t)*text++)) return 0;
  return cursor.at == cursor.end;
}

/* Whether a number comes after another, across the turn-over: up to half the circle ahead. */
static uint8_t is_after(uint16_t sequence, uint16_t last) {
  const uint32_t ahead = ((uint32_t)sequence + HIGHEST_SEQUENCE - last) % HIGHEST_SEQUENCE;
  return ahead > 0 && ahead <= HIGHEST_SEQUENCE / 2;
}

static const struct vb_group *group_of(uint32_t channel) {
  for (uint8_t at = 0; at < board.about->group_count; at++) {
    const struct vb_group *group = &board.about->groups[at];
    if (group->first <= channel && channel <= group->last && channel < VB_CHANNELS) return group;
  }
  return 0;
}

/* ---- What a line may do ---- */

static uint8_t is_possible(uint32_t channel, uint32_t lowest, uint32_t highest) {
  const struct vb_group *group = group_of(channel);
  return group && lowest <= highest && lowest >= group->lowest && highest <= group->highest;
}

/* Within its limits, or coming in from outside, and no further than its step. */
static uint8_t is_allowed(uint8_t channel, vb_count count) {
  const struct limits *limits = &board.limits[channel];
  const uint8_t has_signal = is_in(board.is_told, channel);
  const vb_count stands = board.told[channel];
  if (!is_in(board.has_limits, channel)) return 0;
  if (has_signal && (count > stands ? count - stands : stands - count) > limits->step) return 0;
  if (count < limits->lowest) return has_signal && count >= stands;
  return count <= limits->highest || (has_signal && count <= stands);
}

static const char *refusal_of_words(struct cursor words, uint8_t count) {
  uint32_t n[4];
  struct cursor again = words;
  while (words.at < words.end) {
    read_word(&words, count, n);
    if (!is_possible(n[0], n[1], count == 4 ? n[2] : n[1])) return "range";
  }
  while (count == 2 && again.at < again.end) {
    read_word(&again, count, n);
    if (!is_allowed((uint8_t)n[0], (vb_count)n[1])) return "limit";
  }
  return 0;
}

/* ---- Doing it ---- */

static void feed(void) {
  board.fed_us = vb_now_us();
  board.has_acted = 0;
}

/* No channel begins another pulse. */
static void release(void) {
  VB_LOCK();
  empty(board.is_told);
  for (uint8_t channel = 0; channel < board.about->channels; channel++) vb_no_signal(channel);
  board.waiting = 0;
  board.in_force = board.told_sequence;
  VB_UNLOCK();
}

static void greet(void) {
  const struct vb_about *about = board.about;
  board.was_greeted = 1;
  board.last_sequence = board.told_sequence = board.in_force = 0;
  empty(board.has_limits);
  feed();
  begin_saying("V 2 ");
  say(about->name);
  say_byte(' ');
  say(about->unit);
  say_next(' ', about->channels);
  say_next(' ', VB_LINE);
  for (uint8_t at = 0; at < about->group_count; at++) {
    const struct vb_group *group = &about->groups[at];
    say_next(at ? ',' : ' ', group->first);
    say_next('-', group->last);
    say_next(':', group->period_ns);
    say_next(':', group->lowest);
    say_next(':', group->at_lowest);
    say_next(':', group->highest);
    say_next(':', group->at_highest);
  }
  say_byte(' ');
  say_driven();
  end_saying();
}

static void set_limits(struct cursor words) {
  uint32_t n[4];
  while (words.at < words.end) {
    struct limits *limits;
    read_word(&words, 4, n);
    limits = &board.limits[n[0]];
    limits->lowest = (vb_count)n[1];
    limits->highest = (vb_count)n[2];
    limits->step = n[3] > VB_COUNT_MAX ? VB_COUNT_MAX : (vb_count)n[3];
    put_in(board.has_limits, (uint8_t)n[0]);
  }
}

/* A frame says everything: a channel that it does not name has no signal. */
static void set_frame(struct cursor words) {
  uint32_t n[2];
  VB_LOCK();
  empty(board.is_told);
  while (words.at < words.end) {
    read_word(&words, 2, n);
    board.told[n[0]] = (vb_count)n[1];
    put_in(board.is_told, (uint8_t)n[0]);
  }
  board.waiting = (uint16_t)((1ul << board.about->group_count) - 1);
  VB_UNLOCK();
}

static void report(void) {
  uint32_t position, current_ma;
  uint8_t is_begun = 0;
  for (uint8_t channel = 0; channel < board.about->channels; channel++) {
    if (!vb_read(channel, &position, &current_ma)) continue;
    if (!is_begun) begin_saying("P");
    is_begun = 1;
    say_next(' ', channel);
    say_next(':', position);
    say_next(':', current_ma);
  }
  if (is_begun) end_saying();
}

/* The body of a line whose check value is right. */
static void take_body(struct cursor body) {
  const uint8_t verb = body.at == body.end ? 0 : *body.at++;
  uint32_t number, after_ms = 0;
  struct cursor rest;
  const char *refusal = 0;
  enum vb_silence silence = VB_HOLD;
  if (!read_char(&body, ' ') || !read_whole(&body, &number)) {
    refuse(0, "form");
    return;
  }
  if (verb == 'V') {
    if (body.at == body.end) greet();
    else refuse(0, "form");
    return;
  }
  rest = body;
  uint8_t is_form = number >= 1 && number <= HIGHEST_SEQUENCE;
  if (verb == 'R') is_form = is_form && rest.at == rest.end;
  else if (verb == 'S') is_form = is_form && are_words(rest, 2);
  else if (verb == 'L') is_form = is_form && rest.at < rest.end && are_words(rest, 4);
  else if (verb == 'W') {
    is_form = is_form && read_char(&rest, ' ') && read_whole(&rest, &after_ms) && read_char(&rest, ' ');
    if (is_form && is_text(rest, "release")) silence = VB_RELEASE;
    else is_form = is_form && is_text(rest, "hold");
  } else is_form = 0;
  if (!is_form) {
    refuse(0, "form");
    return;
  }
  const uint16_t sequence = (uint16_t)number;
  if (verb != 'R') {
    if (!board.was_greeted) refusal = "order";
    else if (board.last_sequence && !is_after(sequence, board.last_sequence)) refusal = "stale";
    else if (verb == 'W') refusal = after_ms >= 100 && after_ms <= 60000 ? 0 : "range";
    else refusal = refusal_of_words(body, verb == 'L' ? 4 : 2);
  }
  if (refusal) {
    refuse(sequence, refusal);
    return;
  }
  if (verb == 'W') {
    board.silence_ms = (uint16_t)after_ms;
    board.silence = silence;
  } else if (verb == 'L') set_limits(body);
  else {
    board.told_sequence = sequence;
    if (verb == 'S') set_frame(body);
    else release();
  }
  /* Never back: an old release must not open the door to an old frame behind it. */
  if (!board.last_sequence || is_after(sequence, board.last_sequence)) board.last_sequence = sequence;
  feed();
  begin_saying("A");
  say_next(' ', sequence);
  say_next(' ', board.in_force);
  end_saying();
  if (verb == 'S') report();
}

static uint8_t hex_of(uint8_t byte) {
  if (byte >= '0' && byte <= '9') return (uint8_t)(byte - '0');
  return byte >= 'A' && byte <= 'F' ? (uint8_t)(byte - 'A' + 10) : 0xFF;
}

/* Whether the line ends with the check value of version 1: CRC-8 with polynomial 0x07, two digits. */
static uint8_t is_version1(void) {
  uint8_t crc = 0;
  const uint16_t end = (uint16_t)(board.length - 3);
  if (board.length < 4 || board.line[end] != '#') return 0;
  for (uint16_t at = 0; at < end; at++) {
    crc ^= board.line[at];
    for (uint8_t bit = 0; bit < 8; bit++) crc = (uint8_t)(crc & 0x80 ? crc << 1 ^ 0x07 : crc << 1);
  }
  return hex_of(board.line[end + 1]) == crc >> 4 && hex_of(board.line[end + 2]) == (crc & 15);
}

static void take_line(void) {
  uint16_t crc = 0xFFFF, stated = 0;
  uint8_t is_plain = 1, is_hex = 1;
  struct cursor body;
  if (board.length <= CHECK_LENGTH || board.line[board.length - CHECK_LENGTH] != '#') {
    refuse(0, is_version1() ? "check" : "form");
    return;
  }
  body.at = board.line;
  body.end = board.line + board.length - CHECK_LENGTH;
  for (const uint8_t *at = body.at; at < body.end; at++) {
    crc = crc16(crc, *at);
    if (*at < 0x20 || *at > 0x7E) is_plain = 0;
  }
  for (uint8_t at = 1; at < CHECK_LENGTH; at++) {
    const uint8_t digit = hex_of(body.end[at]);
    if (digit > 15) is_hex = 0;
    stated = (uint16_t)(stated << 4 | (digit & 15));
  }
  if (!is_hex || stated != crc) refuse(0, "check");
  else if (!is_plain) refuse(0, "form");
  else take_body(body);
}

void vb_take(uint8_t byte) {
  if (byte == '\r') return;
  if (byte != '\n') {
    if (board.length < sizeof board.line) board.line[board.length++] = byte;
    else board.is_too_long = 1;
    return;
  }
  /* Before the line that feeds it: a host that comes too late finds what the silence has done. */
  vb_look();
  if (board.is_too_long) refuse(0, "form");
  else if (board.length) take_line();
  board.length = 0;
  board.is_too_long = 0;
}

void vb_look(void) {
  if (!board.was_greeted || board.has_acted || vb_now_us() - board.fed_us <= board.silence_ms * 1000ul) return;
  board.has_acted = 1;
  if (board.silence == VB_RELEASE) {
    release();
    board.was_greeted = 0;
  }
  begin_saying(board.silence == VB_RELEASE ? "T release" : "T hold");
  end_saying();
}

void vb_frame(uint8_t group) {
  const struct vb_group *one = &board.about->groups[group];
  for (uint16_t channel = one->first; channel <= one->last && channel < VB_CHANNELS; channel++) {
    if (is_in(board.is_told, (uint8_t)channel)) vb_set_count((uint8_t)channel, board.told[channel]);
    else vb_no_signal((uint8_t)channel);
  }
  if (!board.waiting) return;
  board.waiting &= (uint16_t)~(1u << group);
  if (!board.waiting) board.in_force = board.told_sequence;
}

void vb_begin(const struct vb_about *about) {
  board.about = about;
  empty(board.is_told);
  empty(board.has_limits);
  board.waiting = 0;
  board.last_sequence = board.told_sequence = board.in_force = 0;
  board.was_greeted = board.has_acted = 0;
  board.silence = about->silence;
  board.silence_ms = about->silence_ms;
  board.length = 0;
  board.is_too_long = 0;
  for (uint8_t channel = 0; channel < about->channels; channel++) vb_no_signal(channel);
}
