// What each AVR chip has: memory, pins by the numbers of its boards, and room for slots.
#pragma once
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <stdint.h>

struct Pin {
  uint8_t port;
  uint8_t bit;
};

enum Port : uint8_t { PORT_A, PORT_B, PORT_C, PORT_D, PORT_E, PORT_F, PORT_G, PORT_H, PORT_J, PORT_K, PORT_L };

#if defined(__AVR_ATmega328P__)
struct ChipRoom {
  static constexpr uint16_t KEPT_BYTES = 1024;
  static constexpr uint16_t FRAME_BYTES = 96;
  static constexpr uint8_t SLOTS = 100;
  static constexpr uint8_t CHAINS = 4;
  static constexpr uint8_t PINS = 20;
  static constexpr uint32_t BYTES_A_SECOND = 11520;
};
#define MODEL "ATmega328P board"
static const Pin pins[] PROGMEM = {
    {PORT_D, 0}, {PORT_D, 1}, {PORT_D, 2}, {PORT_D, 3}, {PORT_D, 4}, {PORT_D, 5}, {PORT_D, 6},
    {PORT_D, 7}, {PORT_B, 0}, {PORT_B, 1}, {PORT_B, 2}, {PORT_B, 3}, {PORT_B, 4}, {PORT_B, 5},
    {PORT_C, 0}, {PORT_C, 1}, {PORT_C, 2}, {PORT_C, 3}, {PORT_C, 4}, {PORT_C, 5},
};
constexpr uint8_t FIRST_ANALOG = 14;
#else
#error "This chip has no file yet"
#endif
