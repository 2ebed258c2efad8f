// The configuration as it travels and as it is kept: docs/board-link.md. It is read where it lies, and never copied.
#pragma once
#include <stdint.h>

constexpr uint8_t CONFIGURATION_VERSION = 4;

enum SlotKind : uint8_t { CONTACTS = 1, LAMP = 2, ENCODER = 3, ANALOG = 4 };
enum ChipKind : uint8_t { HC165 = 2, HC595 = 3 };

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

/** Reads past one slot of a kind that is known; false for any other. */
template <typename Source>
bool skipSlot(Reader<Source>& r, uint8_t head) {
  switch (head & 15) {
    case CONTACTS: {
      const uint16_t count = r.number();
      if (count == 0 || count > 16) return false;
      for (uint16_t i = 0; i < count; i++) r.number();
      r.byte();
      return !r.over();
    }
    case LAMP:
      r.number();
      if ((head & (KEEPS | RESTS)) == RESTS) r.number();
      return !r.over();
    case ENCODER:
      r.number();
      r.number();
      return !r.over();
    case ANALOG:
      r.number();
      return r.byte() <= 8 && !r.over();
    default:
      return false;
  }
}
