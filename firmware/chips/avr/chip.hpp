// What each AVR chip has: memory, pins by the numbers of its boards, and which timer gives a pin its brightness. Registers
// as in the data sheets of the ATmega328P (DS40002061) and the ATmega2560 (DS40002211).
#pragma once
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <stdint.h>

/** A pin by the address of its port's input register; direction and output follow it. */
struct Pin {
  uint16_t input;
  uint8_t bit;
};

/** A pin that a timer can give a share of the time, in counts of 255. */
struct Timed {
  uint8_t pin;
  uint8_t bit;
  uint16_t control;
  uint16_t compare;
};

#define PIN_AT(port, bit) {_SFR_MEM_ADDR(PIN##port), bit}
#define TIMED(pin, timer, channel) {pin, COM##timer##channel##1, _SFR_MEM_ADDR(TCCR##timer##A), _SFR_MEM_ADDR(OCR##timer##channel)}

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
constexpr uint8_t FIRST_ANALOG = 14;

static const Pin pins[] PROGMEM = {
    PIN_AT(D, 0), PIN_AT(D, 1), PIN_AT(D, 2), PIN_AT(D, 3), PIN_AT(D, 4), PIN_AT(D, 5), PIN_AT(D, 6),
    PIN_AT(D, 7), PIN_AT(B, 0), PIN_AT(B, 1), PIN_AT(B, 2), PIN_AT(B, 3), PIN_AT(B, 4), PIN_AT(B, 5),
    PIN_AT(C, 0), PIN_AT(C, 1), PIN_AT(C, 2), PIN_AT(C, 3), PIN_AT(C, 4), PIN_AT(C, 5),
};
static const Timed timers[] PROGMEM = {
    TIMED(3, 2, B), TIMED(5, 0, B), TIMED(6, 0, A), TIMED(9, 1, A), TIMED(10, 1, B), TIMED(11, 2, A),
};

#elif defined(__AVR_ATmega2560__)

struct ChipRoom {
  static constexpr uint16_t KEPT_BYTES = 4096;
  static constexpr uint16_t FRAME_BYTES = 250;
  static constexpr uint8_t SLOTS = 250;
  static constexpr uint8_t CHAINS = 8;
  static constexpr uint8_t PINS = 70;
  static constexpr uint32_t BYTES_A_SECOND = 11520;
};
#define MODEL "ATmega2560 board"
constexpr uint8_t FIRST_ANALOG = 54;

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
static const Timed timers[] PROGMEM = {
    TIMED(2, 3, B), TIMED(3, 3, C),  TIMED(4, 0, B),  TIMED(5, 3, A),  TIMED(6, 4, A),  TIMED(7, 4, B),  TIMED(8, 4, C),
    TIMED(9, 2, B), TIMED(10, 2, A), TIMED(11, 1, A), TIMED(12, 1, B), TIMED(13, 0, A), TIMED(44, 5, C), TIMED(45, 5, B),
    TIMED(46, 5, A),
};

#else
#error "This chip has no description yet"
#endif

static_assert(sizeof pins / sizeof pins[0] == ChipRoom::PINS, "every pin of the board has its place");
