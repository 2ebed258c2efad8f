// Written by `npm run firmware-tables` from the records in src/core.
#pragma once
#include <stdint.h>

#if defined(__AVR_ATmega328P__)
struct Abilities {
  static constexpr uint8_t PINS = 22;
  static constexpr uint8_t FIRST_ANALOG = 14;
  static constexpr uint8_t BUS_DATA = 18;
  static constexpr uint8_t BUS_CLOCK = 19;
  static constexpr uint16_t MEMORY_BYTES = 980;
  static constexpr uint16_t SLOTS = 100;
  static constexpr uint8_t CHAINS = 4;
};
namespace abilities {
constexpr uint8_t PWM[] = {3, 5, 6, 9, 10, 11};
constexpr uint8_t STEPS[] = {3, 9, 10, 11};
constexpr uint8_t FREQUENCY[] = {9};
}  // namespace abilities
#define MODEL "ATmega328P board"

#elif defined(__AVR_ATmega2560__)
struct Abilities {
  static constexpr uint8_t PINS = 70;
  static constexpr uint8_t FIRST_ANALOG = 54;
  static constexpr uint8_t BUS_DATA = 20;
  static constexpr uint8_t BUS_CLOCK = 21;
  static constexpr uint16_t MEMORY_BYTES = 5000;
  static constexpr uint16_t SLOTS = 250;
  static constexpr uint8_t CHAINS = 8;
};
namespace abilities {
constexpr uint8_t PWM[] = {2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 44, 45, 46};
constexpr uint8_t STEPS[] = {2, 3, 5, 6, 7, 8, 9, 10, 11, 12, 44, 45, 46};
constexpr uint8_t FREQUENCY[] = {5, 6, 11};
}  // namespace abilities
#define MODEL "ATmega2560 board"

#elif defined(__AVR_ATmega32U4__)
struct Abilities {
  static constexpr uint8_t PINS = 24;
  static constexpr uint8_t FIRST_ANALOG = 18;
  static constexpr uint8_t BUS_DATA = 2;
  static constexpr uint8_t BUS_CLOCK = 3;
  static constexpr uint16_t MEMORY_BYTES = 1400;
  static constexpr uint16_t SLOTS = 100;
  static constexpr uint8_t CHAINS = 4;
};
namespace abilities {
constexpr uint8_t PWM[] = {3, 5, 6, 9, 10, 11, 13};
constexpr uint8_t STEPS[] = {5, 9, 10};
constexpr uint8_t FREQUENCY[] = {5, 9};
}  // namespace abilities
#define MODEL "ATmega32U4 board"

#else
#error "This chip has no record"
#endif
