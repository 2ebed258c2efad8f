// Seven-segment digits behind a MAX7219 (data sheet 19-4452) or a TM1637 (Titan Micro, V2.4).
#pragma once
#include "devices.hpp"
#include "font.hpp"
#include "hardware.hpp"

struct Digits : Device {
  uint32_t hash;
  uint8_t width, length, piece;
  bool isOnTwoLines;
  /** Brightness as a hexadecimal digit, then what is shown, as it was told. */
  char shown[1];

  static constexpr uint16_t bytesFor(uint16_t width) { return static_cast<uint16_t>(sizeof(Digits) + 2 * width); }

  void blank() {
    shown[0] = '0';
    for (uint8_t i = 1; i <= width; i++) shown[i] = ' ';
    length = static_cast<uint8_t>(width + 1);
    begin();
  }

  void take(const uint8_t* bytes, uint8_t count) {
    length = 0;
    for (; length < count && length <= 2 * width; length++) shown[length] = static_cast<char>(bytes[length]);
    begin();
  }

  /** All of it is told, from the beginning. */
  void begin() {
    flags |= CHANGED;
    piece = 0;
  }

  /** 0 to 15. */
  uint8_t brightness() const {
    const char c = length > 0 ? shown[0] : '0';
    return static_cast<uint8_t>(c >= 'a' && c <= 'f' ? c - 'a' + 10 : c >= '0' && c <= '9' ? c - '0' : 0);
  }

  /** Which segments of a digit from the left are lit, a to g from the lowest bit on, then its point. */
  uint8_t segments(uint8_t digit) const {
    int8_t at = -1;
    uint8_t lit = 0;
    for (uint8_t i = 1; i < length; i++) {
      const bool isPoint = shown[i] == '.';
      // A point belongs to the digit before it; one that stands alone has a digit of its own.
      if (isPoint && at >= 0 && !(lit & 128)) {
        lit |= 128;
        continue;
      }
      if (at == digit) return lit;
      at++;
      lit = isPoint ? 128 : segmentsOf(static_cast<uint8_t>(shown[i]));
    }
    return at == digit ? lit : 0;
  }

  /** Tells the chip; true while there is more. `pins` are data, clock and select, or clock and data. */
  template <typename Pins>
  bool send(const Pins& pins) {
    if (!(flags & CHANGED)) return false;
    if (!isOnTwoLines) {
      flags &= static_cast<uint8_t>(~CHANGED);
      sendOnThree(pins[0], pins[1], pins[2]);
      return false;
    }
    return sendOnTwo(pins[0], pins[1]);
  }

 private:
  void sendOnThree(uint8_t data, uint8_t clock, uint8_t select) const {
    const auto write = [&](uint8_t what, uint8_t value) {
      hardware::drive(select, false);
      hardware::shiftOut(data, clock, what);
      hardware::shiftOut(data, clock, value);
      hardware::drive(select, true);
    };
    // No decoding, no test, so many digits; how bright, and whether at all.
    write(0x09, 0);
    write(0x0f, 0);
    write(0x0b, static_cast<uint8_t>(width - 1));
    write(0x0a, brightness());
    for (uint8_t i = 0; i < width; i++) {
      const uint8_t lit = segments(i);
      uint8_t turned = lit & 128;
      for (uint8_t k = 0; k < 7; k++)
        if (lit & (1 << k)) turned = static_cast<uint8_t>(turned | (64 >> k));
      // Its first digit is the rightmost.
      write(static_cast<uint8_t>(width - i), turned);
    }
    write(0x0c, brightness() > 0 ? 1 : 0);
  }

  /** A piece in each turn: one takes some 200 µs. */
  bool sendOnTwo(uint8_t clock, uint8_t data) {
    const uint8_t at = piece++;
    begin(clock, data);
    if (at == 0) byte(clock, data, 0x44);
    else if (at <= width) {
      // Glasses of three digits hang on it the other way round, three by three.
      const uint8_t digit = static_cast<uint8_t>(at - 1);
      byte(clock, data, static_cast<uint8_t>(0xc0 | (width == 6 ? (digit < 3 ? 2 - digit : 8 - digit) : digit)));
      byte(clock, data, segments(digit));
    } else {
      const uint8_t bright = brightness();
      byte(clock, data, static_cast<uint8_t>(bright == 0 ? 0x80 : 0x88 | ((bright - 1) >> 1)));
      piece = 0;
      flags &= static_cast<uint8_t>(~CHANGED);
    }
    end(clock, data);
    return piece != 0;
  }

  static void begin(uint8_t clock, uint8_t data) {
    hardware::drive(data, true);
    hardware::drive(clock, true);
    hardware::drive(data, false);
    hardware::drive(clock, false);
  }
  static void end(uint8_t clock, uint8_t data) {
    hardware::drive(data, false);
    hardware::drive(clock, true);
    hardware::drive(data, true);
  }
  /** Lowest bit first; with the ninth clock the chip says that it has it, and whether it does changes nothing. */
  static void byte(uint8_t clock, uint8_t data, uint8_t value) {
    for (uint8_t i = 0; i < 8; i++, value = static_cast<uint8_t>(value >> 1)) {
      hardware::drive(data, value & 1);
      hardware::drive(clock, true);
      hardware::drive(clock, false);
    }
    hardware::pullUp(data);
    hardware::drive(clock, true);
    hardware::drive(clock, false);
    hardware::drive(data, false);
  }
};
