// The configuration as it travels and as it is kept: docs/board-link.md. It is read where it lies, and never copied.
#pragma once
#include <stdint.h>

constexpr uint8_t CONFIGURATION_VERSION = 4;

enum SlotKind : uint8_t { CONTACTS = 1, LAMP = 2, ENCODER = 3, ANALOG = 4 };
enum ChipKind : uint8_t { SELECTOR = 1, HC165 = 2, HC595 = 3 };

constexpr uint8_t KEEPS = 16;
constexpr uint8_t RESTS = 32;
constexpr uint8_t SINKS = 64;
/** Places from here on are channels of chips. */
constexpr uint16_t CHANNELS_FROM = 256;

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

/** What came of reading past a slot. */
enum class Passed : uint8_t { WELL, UNKNOWN, NO_SUCH_PIN, OVER };

/** Reads past one slot, on a board with so many pins. */
template <typename Source>
Passed passSlot(Reader<Source>& r, uint8_t head, uint8_t pins) {
  bool isThere = true;
  const auto place = [&] {
    const uint16_t at = r.number();
    if (at < CHANNELS_FROM && at >= pins) isThere = false;
  };
  switch (head & 15) {
    case CONTACTS: {
      const uint16_t count = r.number();
      if (count == 0 || count > 16) return r.over() ? Passed::OVER : Passed::UNKNOWN;
      for (uint16_t i = 0; i < count; i++) place();
      r.byte();
      break;
    }
    case LAMP:
      place();
      if ((head & (KEEPS | RESTS)) == RESTS) r.number();
      break;
    case ENCODER:
      place();
      place();
      break;
    case ANALOG:
      place();
      if (r.byte() > 8) return r.over() ? Passed::OVER : Passed::UNKNOWN;
      break;
    default:
      return r.over() ? Passed::OVER : Passed::UNKNOWN;
  }
  return r.over() ? Passed::OVER : isThere ? Passed::WELL : Passed::NO_SUCH_PIN;
}
