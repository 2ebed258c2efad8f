// Frames of the board link: docs/board-link.md. Byte stuffing after Cheshire and Baker 1999, a checksum, one zero at the end.
#pragma once
#include <stdint.h>
#include "bytes.hpp"

constexpr uint8_t LINK_VERSION = 2;
constexpr uint8_t HEADER_BYTES = 3;
constexpr uint8_t CRC_BYTES = 2;

struct Frame {
  uint8_t type;
  uint8_t sequence;
  const uint8_t* payload;
  uint16_t length;
};

/** The board's end of a line: finds frames in what comes, numbers those that go. `MOST` is the longest frame it takes. */
template <uint16_t MOST>
class Line {
 public:
  /** The line is new: numbers begin anew. */
  void begin() {
    length_ = 0;
    overlong_ = false;
    sequence_ = 0;
    heardAny_ = false;
  }

  /** Takes a byte; true when it ended a frame that counts, which is in `frame` until the next byte comes. */
  bool take(uint8_t byte, Frame& frame) {
    if (byte != 0) {
      if (length_ < sizeof held_) held_[length_++] = byte;
      else overlong_ = true;
      return false;
    }
    const uint16_t stuffed = length_;
    const bool overlong = overlong_;
    length_ = 0;
    overlong_ = false;
    if (stuffed == 0 && !overlong) return false;
    const uint16_t length = overlong ? 0 : unstuffed(stuffed);
    if (length < HEADER_BYTES + CRC_BYTES || length > MOST || !isSound(length) || held_[0] != LINK_VERSION) {
      dropped();
      return false;
    }
    frame.type = held_[1];
    frame.sequence = held_[2];
    frame.payload = held_ + HEADER_BYTES;
    frame.length = static_cast<uint16_t>(length - HEADER_BYTES - CRC_BYTES);
    // Said again, because the answer was lost; a hello counts whatever its number.
    if (heardAny_ && heard_ == frame.sequence && frame.type != 0x01) return false;
    heard_ = frame.sequence;
    heardAny_ = true;
    return true;
  }

  /** A frame that could not be read or was of no known kind. */
  void dropped() {
    if (bad_ < 0xffff) bad_++;
  }

  uint8_t heard() const { return heardAny_ ? heard_ : 0; }
  uint16_t bad() const { return bad_; }

  /** Says a message: its payload stands in `body` from `HEADER_BYTES` on, with room for the checksum behind. */
  template <typename Send>
  void say(uint8_t type, uint8_t* body, uint8_t payload, Send send) {
    body[0] = LINK_VERSION;
    body[1] = type;
    body[2] = sequence_++;
    uint8_t end = static_cast<uint8_t>(HEADER_BYTES + payload);
    uint16_t crc = 0xffff;
    for (uint8_t i = 0; i < end; i++) crc = crc16(crc, body[i]);
    put16(body + end, crc);
    end = static_cast<uint8_t>(end + CRC_BYTES);
    // Frames are shorter than 254 bytes, so that a run ends at a zero or at the end only.
    for (uint8_t at = 0; at <= end;) {
      uint8_t next = at;
      while (next < end && body[next] != 0) next++;
      send(static_cast<uint8_t>(next - at + 1));
      while (at < next) send(body[at++]);
      at++;
    }
    send(0);
  }

 private:
  /** Undoes the stuffing in place; 0 where it is none. */
  uint16_t unstuffed(uint16_t length) {
    uint16_t out = 0;
    for (uint16_t at = 0; at < length;) {
      const uint8_t code = held_[at++];
      if (static_cast<uint16_t>(at + code - 1) > length) return 0;
      for (uint8_t i = 1; i < code; i++) held_[out++] = held_[at++];
      if (code < 255 && at < length) held_[out++] = 0;
    }
    return out;
  }

  bool isSound(uint16_t length) const {
    uint16_t crc = 0xffff;
    const uint16_t end = static_cast<uint16_t>(length - CRC_BYTES);
    for (uint16_t i = 0; i < end; i++) crc = crc16(crc, held_[i]);
    return crc == get16(held_ + end);
  }

  uint8_t held_[MOST + 3];
  uint16_t length_ = 0;
  uint16_t bad_ = 0;
  uint8_t sequence_ = 0;
  uint8_t heard_ = 0;
  bool heardAny_ = false;
  bool overlong_ = false;
};
