// RGB lamps on one line (WS2812B data sheet, V1.0).
#pragma once
#include "devices.hpp"
#include "hardware.hpp"

struct Strip : Device {
  uint32_t hash;
  uint8_t lamps;
  /** Units of 20 ms, 0 for steady; then red, green and blue of each lamp. */
  uint8_t period;
  uint8_t colours[2];

  static constexpr uint16_t bytesFor(uint16_t lamps) { return static_cast<uint16_t>(sizeof(Strip) + 3 * lamps); }

  void blank() {
    period = 0;
    for (uint16_t i = 0; i < 3 * lamps; i++) colours[i] = 0;
    flags |= CHANGED;
  }

  void take(const uint8_t* bytes, uint8_t count) {
    period = count > 0 ? bytes[0] : 0;
    for (uint16_t i = 0; i < 3 * lamps; i++) colours[i] = i + 1 < count ? bytes[i + 1] : 0;
    flags |= CHANGED;
  }

  void send(uint8_t pin, uint32_t ms) {
    const uint16_t whole = static_cast<uint16_t>(period * 20);
    const bool isDark = whole > 0 && ms % whole >= whole / 2;
    if (isDark != ((flags & DARK) != 0)) flags ^= DARK | CHANGED;
    else if (!(flags & CHANGED)) return;
    flags &= static_cast<uint8_t>(~CHANGED);
    hardware::strip(pin, isDark ? nullptr : colours, lamps);
  }
};
