// What each AVR chip has: memory, pins by the numbers of its boards, and which timer gives a pin its brightness. What its pins
// can do is in abilities.hpp, as the interface has it. Registers as in the data sheets of the ATmega328P (DS40002061), the
// ATmega2560 (DS40002211) and the ATmega32U4 (7766).
#pragma once
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <stdint.h>
#include "abilities.hpp"

/** A pin by the address of its port's input register; direction and output follow it. */
struct Pin {
  uint16_t input;
  uint8_t bit;
};

/** A pin that a timer can give a share of the time, in counts of 255. */
struct Timed {
  uint8_t pin;
  uint8_t timer;
  uint8_t bit;
  uint16_t control;
  uint16_t compare;
};

#define PIN_AT(port, bit) {_SFR_MEM_ADDR(PIN##port), bit}
#define ONLY_ANALOG {0, 0}
#define TIMED(pin, timer, channel, control) \
  {pin, timer, COM##timer##channel##1, _SFR_MEM_ADDR(TCCR##timer##control), _SFR_MEM_ADDR(OCR##timer##channel)},
#define TIMED_PIN(pin, timer, channel, control) pin,

#if defined(__AVR_ATmega328P__)

struct ChipRoom : Abilities {
  using SlotNumber = uint8_t;
  static constexpr uint16_t KEPT_BYTES = 1024;
  static constexpr uint16_t FRAME_BYTES = 96;
  static constexpr uint8_t PIECES = 1;
  static constexpr uint32_t BYTES_A_SECOND = 11520;
};

static const Pin pins[] PROGMEM = {
    PIN_AT(D, 0), PIN_AT(D, 1), PIN_AT(D, 2), PIN_AT(D, 3), PIN_AT(D, 4), PIN_AT(D, 5), PIN_AT(D, 6), PIN_AT(D, 7),
    PIN_AT(B, 0), PIN_AT(B, 1), PIN_AT(B, 2), PIN_AT(B, 3), PIN_AT(B, 4), PIN_AT(B, 5), PIN_AT(C, 0), PIN_AT(C, 1),
    PIN_AT(C, 2), PIN_AT(C, 3), PIN_AT(C, 4), PIN_AT(C, 5), ONLY_ANALOG,  ONLY_ANALOG,
};
#define TIMERS(X) X(3, 2, B, A) X(5, 0, B, A) X(6, 0, A, A) X(9, 1, A, A) X(10, 1, B, A) X(11, 2, A, A)
#define SERVO_TIMER 1
constexpr bool isWide(uint8_t timer) { return timer == 1; }

#elif defined(__AVR_ATmega2560__)

struct ChipRoom : Abilities {
  using SlotNumber = uint8_t;
  static constexpr uint16_t KEPT_BYTES = 4096;
  static constexpr uint16_t FRAME_BYTES = 250;
  static constexpr uint8_t PIECES = 1;
  static constexpr uint32_t BYTES_A_SECOND = 11520;
};

static const Pin pins[] PROGMEM = {
    PIN_AT(E, 0), PIN_AT(E, 1), PIN_AT(E, 4), PIN_AT(E, 5), PIN_AT(G, 5), PIN_AT(E, 3), PIN_AT(H, 3), PIN_AT(H, 4),
    PIN_AT(H, 5), PIN_AT(H, 6), PIN_AT(B, 4), PIN_AT(B, 5), PIN_AT(B, 6), PIN_AT(B, 7), PIN_AT(J, 1), PIN_AT(J, 0),
    PIN_AT(H, 1), PIN_AT(H, 0), PIN_AT(D, 3), PIN_AT(D, 2), PIN_AT(D, 1), PIN_AT(D, 0), PIN_AT(A, 0), PIN_AT(A, 1),
    PIN_AT(A, 2), PIN_AT(A, 3), PIN_AT(A, 4), PIN_AT(A, 5), PIN_AT(A, 6), PIN_AT(A, 7), PIN_AT(C, 7), PIN_AT(C, 6),
    PIN_AT(C, 5), PIN_AT(C, 4), PIN_AT(C, 3), PIN_AT(C, 2), PIN_AT(C, 1), PIN_AT(C, 0), PIN_AT(D, 7), PIN_AT(G, 2),
    PIN_AT(G, 1), PIN_AT(G, 0), PIN_AT(L, 7), PIN_AT(L, 6), PIN_AT(L, 5), PIN_AT(L, 4), PIN_AT(L, 3), PIN_AT(L, 2),
    PIN_AT(L, 1), PIN_AT(L, 0), PIN_AT(B, 3), PIN_AT(B, 2), PIN_AT(B, 1), PIN_AT(B, 0), PIN_AT(F, 0), PIN_AT(F, 1),
    PIN_AT(F, 2), PIN_AT(F, 3), PIN_AT(F, 4), PIN_AT(F, 5), PIN_AT(F, 6), PIN_AT(F, 7), PIN_AT(K, 0), PIN_AT(K, 1),
    PIN_AT(K, 2), PIN_AT(K, 3), PIN_AT(K, 4), PIN_AT(K, 5), PIN_AT(K, 6), PIN_AT(K, 7),
};
#define TIMERS(X)                                                                                                     \
  X(2, 3, B, A) X(3, 3, C, A) X(4, 0, B, A) X(5, 3, A, A) X(6, 4, A, A) X(7, 4, B, A) X(8, 4, C, A) X(9, 2, B, A) X(10, 2, A, A) X(11, 1, A, A)   \
  X(12, 1, B, A) X(13, 0, A, A) X(44, 5, C, A) X(45, 5, B, A) X(46, 5, A, A)
#define SERVO_TIMER 5
constexpr bool isWide(uint8_t timer) { return timer == 1 || timer >= 3; }

#elif defined(__AVR_ATmega32U4__)

struct ChipRoom : Abilities {
  using SlotNumber = uint8_t;
  static constexpr uint16_t KEPT_BYTES = 1024;
  static constexpr uint16_t FRAME_BYTES = 96;
  static constexpr uint8_t PIECES = 1;
  static constexpr uint32_t BYTES_A_SECOND = 11520;
};

static const Pin pins[] PROGMEM = {
    PIN_AT(D, 2), PIN_AT(D, 3), PIN_AT(D, 1), PIN_AT(D, 0), PIN_AT(D, 4), PIN_AT(C, 6), PIN_AT(D, 7), PIN_AT(E, 6),
    PIN_AT(B, 4), PIN_AT(B, 5), PIN_AT(B, 6), PIN_AT(B, 7), PIN_AT(D, 6), PIN_AT(C, 7), PIN_AT(B, 3), PIN_AT(B, 1),
    PIN_AT(B, 2), PIN_AT(B, 0), PIN_AT(F, 7), PIN_AT(F, 6), PIN_AT(F, 5), PIN_AT(F, 4), PIN_AT(F, 1), PIN_AT(F, 0),
};
#define TIMERS(X) X(3, 0, B, A) X(5, 3, A, A) X(6, 4, D, C) X(9, 1, A, A) X(10, 1, B, A) X(11, 0, A, A) X(13, 4, A, A)
#define SERVO_TIMER 3
constexpr bool isWide(uint8_t timer) { return timer == 1 || timer == 3; }
// Which input of the converter a pin is on: 7766, 24.
#define CHANNELS_OF_PINS                                                                                              \
  { {4, 8}, {6, 10}, {8, 11}, {9, 12}, {10, 13}, {12, 9}, {18, 7}, {19, 6}, {20, 5}, {21, 4}, {22, 1}, {23, 0} }

#else
#error "This chip has no description yet"
#endif

static const Timed timers[] PROGMEM = {TIMERS(TIMED)};

namespace chip {

static_assert(sizeof pins / sizeof pins[0] == ChipRoom::PINS, "every pin of the board has its place");

constexpr uint8_t timedPins[] = {TIMERS(TIMED_PIN)};
template <uint8_t N, uint8_t M>
constexpr bool isSame(const uint8_t (&a)[N], const uint8_t (&b)[M]) {
  if (N != M) return false;
  for (uint8_t i = 0; i < N; i++)
    if (a[i] != b[i]) return false;
  return true;
}
static_assert(isSame(timedPins, abilities::PWM), "a timer for each pin that the interface offers for brightness, and no other");

}  // namespace chip
