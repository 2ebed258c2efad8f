// The functions of core/hardware.hpp on an ATmega328P. Register names as in its data sheet (DS40002061).
#include "../../core/hardware.hpp"
#include <avr/interrupt.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include "chip.hpp"
#include "uart.hpp"

namespace hardware {

const char model[] = MODEL;

namespace {

struct Registers {
  volatile uint8_t* direction;
  volatile uint8_t* output;
  volatile uint8_t* input;
  uint8_t mask;
};

Registers registersOf(uint8_t pin) {
  const uint8_t port = pgm_read_byte(&pins[pin].port);
  const uint8_t mask = static_cast<uint8_t>(1 << pgm_read_byte(&pins[pin].bit));
  switch (port) {
    case PORT_B:
      return {&DDRB, &PORTB, &PINB, mask};
    case PORT_C:
      return {&DDRC, &PORTC, &PINC, mask};
    default:
      return {&DDRD, &PORTD, &PIND, mask};
  }
}

/** The pins of the line to the computer are its own. */
bool isTaken(uint8_t pin) { return pin < 2 || pin >= ChipRoom::PINS; }

/** Whether a timer gives a pin its brightness; switched on or off for it. Timer 0 counts the time, with 255 as its top. */
bool timed(uint8_t pin, bool on, uint8_t level) {
  switch (pin) {
    case 3:
      TCCR2A = static_cast<uint8_t>(on ? TCCR2A | _BV(COM2B1) : TCCR2A & ~_BV(COM2B1));
      OCR2B = level;
      return true;
    case 5:
      TCCR0A = static_cast<uint8_t>(on ? TCCR0A | _BV(COM0B1) : TCCR0A & ~_BV(COM0B1));
      OCR0B = level;
      return true;
    case 6:
      TCCR0A = static_cast<uint8_t>(on ? TCCR0A | _BV(COM0A1) : TCCR0A & ~_BV(COM0A1));
      OCR0A = level;
      return true;
    case 9:
      TCCR1A = static_cast<uint8_t>(on ? TCCR1A | _BV(COM1A1) : TCCR1A & ~_BV(COM1A1));
      OCR1A = level;
      return true;
    case 10:
      TCCR1A = static_cast<uint8_t>(on ? TCCR1A | _BV(COM1B1) : TCCR1A & ~_BV(COM1B1));
      OCR1B = level;
      return true;
    case 11:
      TCCR2A = static_cast<uint8_t>(on ? TCCR2A | _BV(COM2A1) : TCCR2A & ~_BV(COM2A1));
      OCR2A = level;
      return true;
    default:
      return false;
  }
}

}  // namespace

void pullUp(uint8_t pin) {
  if (isTaken(pin)) return;
  const Registers r = registersOf(pin);
  *r.direction &= static_cast<uint8_t>(~r.mask);
  *r.output |= r.mask;
}

void release(uint8_t pin) {
  if (isTaken(pin)) return;
  timed(pin, false, 0);
  const Registers r = registersOf(pin);
  *r.direction &= static_cast<uint8_t>(~r.mask);
  *r.output &= static_cast<uint8_t>(~r.mask);
}

bool isLow(uint8_t pin) {
  if (isTaken(pin)) return false;
  const Registers r = registersOf(pin);
  return (*r.input & r.mask) == 0;
}

void drive(uint8_t pin, bool high) {
  if (isTaken(pin)) return;
  const Registers r = registersOf(pin);
  if (high) *r.output |= r.mask;
  else *r.output &= static_cast<uint8_t>(~r.mask);
  *r.direction |= r.mask;
}

void brightness(uint8_t pin, uint8_t level) {
  if (isTaken(pin)) return;
  const bool between = level > 0 && level < 255;
  const bool isTimed = timed(pin, between, level);
  drive(pin, isTimed && between ? false : level >= 128);
}

uint16_t analog(uint8_t pin) {
  if (pin < FIRST_ANALOG || pin >= ChipRoom::PINS) return 0;
  ADMUX = static_cast<uint8_t>(_BV(REFS0) | (pin - FIRST_ANALOG));
  ADCSRA |= _BV(ADSC);
  while (ADCSRA & _BV(ADSC)) {
  }
  return ADC;
}

void send(uint8_t byte) { uart::send(byte); }
uint8_t room() { return uart::room(); }

uint8_t kept(uint16_t at) {
  while (EECR & _BV(EEPE)) {
  }
  EEAR = at;
  EECR |= _BV(EERE);
  return EEDR;
}

bool keepsNow() { return !(EECR & _BV(EEPE)); }

void keep(uint16_t at, uint8_t value) {
  EEAR = at;
  EEDR = value;
  // The two bits have to be set within four cycles of each other: data sheet, 8.6.3.
  const uint8_t flags = SREG;
  cli();
  EECR |= _BV(EEMPE);
  EECR |= _BV(EEPE);
  SREG = flags;
}

uint32_t chance() {
  // Noise of the converter on pins that nothing holds, what the memory woke up with, and the number of the timer's turns.
  uint32_t hash = 0x811c9dc5UL ^ TCNT0;
  for (uint8_t round = 0; round < 64; round++)
    for (uint8_t channel = 0; channel < 6; channel++)
      hash = (hash ^ analog(static_cast<uint8_t>(FIRST_ANALOG + channel)) ^ TCNT0) * 0x01000193UL;
  for (const uint8_t* p = reinterpret_cast<const uint8_t*>(RAMSTART); p <= reinterpret_cast<const uint8_t*>(RAMEND); p++)
    hash = (hash ^ *p) * 0x01000193UL;
  return hash;
}

}  // namespace hardware
