// The configuration as it travels and as it is kept: docs/board-link.md. It is read where it lies, and never copied.
#pragma once
#include <stdint.h>

constexpr uint8_t CONFIGURATION_VERSION = 4;

enum SlotKind : uint8_t { CONTACTS = 1, LAMP = 2, ENCODER = 3, ANALOG = 4, DIGITS = 5, TEXT = 6, NEEDLE = 7, COLOUR = 8 };
enum ChipKind : uint8_t { SELECTOR = 1, HC165 = 2, HC595 = 3, MCP23017 = 4, TLC5940 = 5, PCA9685 = 6, MOTORS = 7 };

// Flags of a slot's first byte.
constexpr uint8_t KEEPS = 16;
constexpr uint8_t RESTS = 32;
constexpr uint8_t SINKS = 64;
constexpr uint8_t TWO_LINES = 32;
constexpr uint8_t SERVO = 64;
constexpr uint8_t PULSES = 128;

/** Places from here on are channels of chips. */
constexpr uint16_t CHANNELS_FROM = 256;
constexpr uint8_t MOST_CHAIN = 8;
constexpr uint8_t MOST_DIGITS = 8;
constexpr uint8_t MOST_COLUMNS = 40;
constexpr uint8_t MOST_ROWS = 4;
constexpr uint16_t MOST_TRAVEL_DEG = 3600;
constexpr uint16_t MOST_HERTZ = 20000;

/** Reads bytes one after the other; beyond the end there is nothing, and `over` says so. `Source` has at(i) and length(). */
template <typename Source>
class Reader {
 public:
  Reader(const Source& source, uint16_t at) : source_(source), at_(at) {}

  uint8_t byte() {
    if (at_ >= source_.length()) {
      over_ = true;
      return 0;
    }
    return source_.at(at_++);
  }

  /** Seven bits a byte, lowest first (LEB128); no more than three of them are meant. */
  uint16_t number() {
    const uint8_t first = byte();
    // Nearly all of them: pins, and channels are two bytes.
    if (first < 128) return first;
    uint32_t n = first & 127;
    for (uint8_t shift = 7; shift < 28; shift = static_cast<uint8_t>(shift + 7)) {
      const uint8_t b = byte();
      n |= static_cast<uint32_t>(b & 127) << shift;
      if (b < 128) break;
    }
    if (n > 0xffff) over_ = true;
    return static_cast<uint16_t>(n);
  }

  uint16_t at() const { return at_; }
  bool over() const { return over_; }

 private:
  const Source& source_;
  uint16_t at_;
  bool over_ = false;
};

/** How many pins a kind of chip hangs on; 0 for one that there is not. */
constexpr uint8_t pinsOfChip(uint8_t kind) {
  return kind == SELECTOR || kind == TLC5940 ? 5
         : kind == HC165 || kind == HC595    ? 3
         : kind == MCP23017 || kind == PCA9685 ? 2
         : kind == MOTORS                      ? 9
                                               : 0;
}
constexpr uint8_t MOST_CHIP_PINS = 9;
constexpr bool isOnBus(uint8_t kind) { return kind == MCP23017 || kind == PCA9685; }

/** One slot, taken apart. */
struct SlotRead {
  uint8_t kind, flags;
  /** How many places it has, and the first of them. */
  uint8_t places;
  /** How many of them are channels of chips. */
  uint8_t channels;
  uint16_t first, last;
  /** Digits; columns and rows; lamps; travel and speed: as its kind has it. */
  uint16_t size, other;
  uint8_t address, gentle;
};

/** Whether a needle has a sensor of its zero, behind the four leads of its motor. */
inline bool isSensed(const SlotRead& slot) { return slot.places == 5 && slot.kind == NEEDLE; }

/** What came of reading a slot. */
enum class Passed : uint8_t { WELL, UNKNOWN, NO_SUCH_PIN, TOO_LARGE, OVER };

/** Reads past one slot, on a board with so many pins. */
template <typename Source>
Passed passSlot(Reader<Source>& r, uint8_t head, uint8_t pins, SlotRead& slot) {
  bool isThere = true;
  bool isFit = true;
  slot = SlotRead{static_cast<uint8_t>(head & 15), static_cast<uint8_t>(head & 0xf0), 0, 0, 0, 0, 0, 0, 0, 0};
  const auto place = [&](bool onBoard) {
    const uint16_t from = r.at();
    const uint16_t at = r.number();
    if (slot.places++ == 0) slot.first = at;
    slot.last = at;
    if (at >= CHANNELS_FROM) slot.channels++;
    // Pins are one byte, however long a number might be made: that is how they are found again.
    if (at < CHANNELS_FROM ? at >= pins || r.at() != from + 1 : onBoard) isThere = false;
  };
  const auto places = [&](bool onBoard) {
    const uint8_t count = r.byte();
    if (count == 0 || count > 16) isFit = false;
    else
      for (uint8_t i = 0; i < count; i++) place(onBoard);
  };
  bool isKnown = true;
  switch (slot.kind) {
    case CONTACTS:
      places(false);
      r.byte();
      break;
    case LAMP:
      place(false);
      break;
    case ENCODER:
      place(false);
      place(false);
      break;
    case ANALOG:
      place(false);
      if (r.byte() > 8) isFit = false;
      break;
    case DIGITS:
      places(true);
      slot.size = r.byte();
      if (slot.size == 0 || slot.size > MOST_DIGITS || slot.places != (slot.flags & TWO_LINES ? 2 : 3)) isFit = false;
      break;
    case TEXT:
      places(true);
      slot.size = r.byte();
      slot.other = r.byte();
      slot.address = r.byte();
      if (slot.size == 0 || slot.size > MOST_COLUMNS || slot.other == 0 || slot.other > MOST_ROWS) isFit = false;
      if (slot.places != (slot.address > 0 ? 2 : 6) || slot.address > 127) isFit = false;
      break;
    case NEEDLE:
      places((slot.flags & PULSES) != 0);
      // A motor lies on the board, or on a chip, with all of its leads; its sensor where there is room.
      if (isSensed(slot) && slot.last >= CHANNELS_FROM) slot.channels--;
      if (slot.channels > 0 && slot.channels != slot.places - isSensed(slot)) isFit = false;
      slot.size = r.number();
      // How gently it gains speed lies above its travel.
      slot.gentle = static_cast<uint8_t>(slot.size >> 12);
      slot.size &= 0xfff;
      slot.other = r.number();
      if (slot.size == 0 || slot.size > MOST_TRAVEL_DEG || slot.other == 0) isFit = false;
      if (slot.places - isSensed(slot) != (slot.flags & (SERVO | PULSES) ? 1 : 4)) isFit = false;
      if ((slot.flags & PULSES) && slot.other > MOST_HERTZ) isFit = false;
      break;
    case COLOUR:
      place(true);
      slot.size = r.number();
      if (slot.size == 0 || slot.size > 80) isFit = false;
      break;
    default:
      isKnown = false;
      break;
  }
  // Where it goes when nobody is heard; displays go dark, and have no number for it.
  if ((slot.kind == LAMP || slot.kind == NEEDLE) && (head & (KEEPS | RESTS)) == RESTS) r.number();
  if (r.over()) return Passed::OVER;
  return !isKnown ? Passed::UNKNOWN : !isThere ? Passed::NO_SUCH_PIN : !isFit ? Passed::TOO_LARGE : Passed::WELL;
}
