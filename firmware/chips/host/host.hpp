#pragma once
#include <stdint.h>

namespace host {
constexpr uint16_t KEPT_BYTES = 1024;
constexpr uint8_t PINS = 70;
extern uint8_t kept[KEPT_BYTES];
extern uint8_t low[PINS];
extern uint32_t said;

struct Room {
  using SlotNumber = uint8_t;
  static constexpr uint16_t MEMORY_BYTES = 1100;
  static constexpr uint8_t PIECES = 3;
  static constexpr uint16_t KEPT_BYTES = host::KEPT_BYTES;
  static constexpr uint16_t FRAME_BYTES = 96;
  static constexpr uint16_t SLOTS = 100;
  static constexpr uint8_t CHAINS = 4;
  static constexpr uint8_t PINS = host::PINS;
  static constexpr uint32_t BYTES_A_SECOND = 11520;
};
}  // namespace host
