// What a board keeps without power: who it is, how often it has started, and what it holds, in one of two banks.
//
//   0..1    mark
//   2..9    identity
//   10..11  how often it has started
//   16..    two banks: number of the load (1), length (2), checksum over both and the bytes (2), the bytes
//
// A load goes into the other bank; only its five bytes of head, written last, make it count. Power may go at any byte:
// a bank whose checksum does not fit is none, and the old one is untouched.
#pragma once
#include <stdint.h>
#include "bytes.hpp"
#include "hardware.hpp"

template <uint16_t KEPT_BYTES>
class Store {
 public:
  static constexpr uint16_t BANKS_AT = 16;
  static constexpr uint16_t BANK_BYTES = (KEPT_BYTES - BANKS_AT) / 2;
  static constexpr uint8_t HEAD_BYTES = 5;
  static constexpr uint16_t MOST_BYTES = BANK_BYTES - HEAD_BYTES;

  /** Finds what is kept; a memory that was never used gets its mark and an identity. */
  void begin() {
    if (hardware::kept(0) != MARK_0 || hardware::kept(1) != MARK_1) {
      uint8_t identity[8];
      hardware::newIdentity(identity);
      for (uint8_t i = 0; i < 8; i++) write(static_cast<uint16_t>(2 + i), identity[i]);
      write(10, 0);
      write(11, 0);
      write(0, MARK_0);
      write(1, MARK_1);
    }
    const uint16_t starts = static_cast<uint16_t>(this->starts() + 1);
    write(10, static_cast<uint8_t>(starts));
    write(11, static_cast<uint8_t>(starts >> 8));
    choose();
  }

  uint8_t identity(uint8_t i) const { return hardware::kept(static_cast<uint16_t>(2 + i)); }
  uint16_t starts() const {
    return static_cast<uint16_t>(hardware::kept(10) | (hardware::kept(11) << 8));
  }
  void countStart() {
    const uint16_t starts = static_cast<uint16_t>(this->starts() + 1);
    write(10, static_cast<uint8_t>(starts));
    write(11, static_cast<uint8_t>(starts >> 8));
  }

  /** How many bytes it holds. */
  uint16_t length() const { return length_; }
  /** A byte of what it holds; 0xFF beyond its end. */
  uint8_t at(uint16_t i) const { return i < length_ ? hardware::kept(static_cast<uint16_t>(data(bank_) + i)) : 0xff; }

  /** A byte of what it holds, for whoever has read it before and knows that it is there. */
  uint8_t sure(uint16_t i) const { return hardware::kept(static_cast<uint16_t>(from_ + i)); }

  /** A byte of what is being loaded, which nothing counts on yet. */
  uint16_t loadAt(uint16_t i) const { return static_cast<uint16_t>(data(other()) + i); }
  uint8_t loaded(uint16_t i) const { return hardware::kept(loadAt(i)); }

  /** Makes what was loaded what it holds. */
  void commit(uint16_t length) {
    const uint8_t to = other();
    const uint8_t number = static_cast<uint8_t>(hardware::kept(head(bank_)) + 1);
    uint16_t crc = crc16(0xffff, number);
    crc = crc16(crc16(crc, static_cast<uint8_t>(length)), static_cast<uint8_t>(length >> 8));
    for (uint16_t i = 0; i < length; i++) crc = crc16(crc, hardware::kept(static_cast<uint16_t>(data(to) + i)));
    const uint16_t at = head(to);
    write(at, number);
    write(static_cast<uint16_t>(at + 1), static_cast<uint8_t>(length));
    write(static_cast<uint16_t>(at + 2), static_cast<uint8_t>(length >> 8));
    write(static_cast<uint16_t>(at + 3), static_cast<uint8_t>(crc));
    write(static_cast<uint16_t>(at + 4), static_cast<uint8_t>(crc >> 8));
    choose();
  }

 private:
  static constexpr uint8_t MARK_0 = 0xc7;
  static constexpr uint8_t MARK_1 = 0x1a;

  static constexpr uint16_t head(uint8_t bank) { return static_cast<uint16_t>(BANKS_AT + bank * BANK_BYTES); }
  static constexpr uint16_t data(uint8_t bank) { return static_cast<uint16_t>(head(bank) + HEAD_BYTES); }
  uint8_t other() const { return bank_ ^ 1; }

  static void write(uint16_t at, uint8_t value) {
    if (hardware::kept(at) == value) return;
    while (!hardware::keepsNow()) {
    }
    hardware::keep(at, value);
    while (!hardware::keepsNow()) {
    }
  }

  /** The length of a bank that is whole, or 0xFFFF. */
  static uint16_t sound(uint8_t bank) {
    const uint16_t at = head(bank);
    const uint16_t length =
        static_cast<uint16_t>(hardware::kept(static_cast<uint16_t>(at + 1)) | (hardware::kept(static_cast<uint16_t>(at + 2)) << 8));
    if (length > MOST_BYTES) return 0xffff;
    uint16_t crc = 0xffff;
    for (uint8_t i = 0; i < 3; i++) crc = crc16(crc, hardware::kept(static_cast<uint16_t>(at + i)));
    for (uint16_t i = 0; i < length; i++) crc = crc16(crc, hardware::kept(static_cast<uint16_t>(data(bank) + i)));
    const uint16_t told =
        static_cast<uint16_t>(hardware::kept(static_cast<uint16_t>(at + 3)) | (hardware::kept(static_cast<uint16_t>(at + 4)) << 8));
    return crc == told ? length : 0xffff;
  }

  /** The newer of the banks that are whole counts. */
  void choose() {
    const uint16_t lengths[2] = {sound(0), sound(1)};
    const uint8_t ahead = static_cast<uint8_t>(hardware::kept(head(1)) - hardware::kept(head(0)));
    if (lengths[0] == 0xffff && lengths[1] == 0xffff) {
      bank_ = 0;
      length_ = 0;
      return;
    }
    if (lengths[0] == 0xffff) bank_ = 1;
    else if (lengths[1] == 0xffff) bank_ = 0;
    else bank_ = ahead > 0 && ahead < 128 ? 1 : 0;
    length_ = lengths[bank_];
    from_ = data(bank_);
  }

  uint16_t length_ = 0;
  uint16_t from_ = 0;
  uint8_t bank_ = 0;
};
