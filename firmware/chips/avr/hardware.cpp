// Pins, converter and memory of an AVR chip, as core/hardware.hpp asks for them; what differs from chip to chip is in chip.hpp.
#include "../../core/hardware.hpp"
#include <avr/interrupt.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include "registers.hpp"
#include "timers.hpp"
#include "uart.hpp"

namespace hardware {

const char model[] = MODEL;

void pullUp(uint8_t pin) {
  if (isTaken(pin)) return;
  const Registers r(pin);
  r.direction(false);
  r.output(true);
}

void release(uint8_t pin) {
  if (isTaken(pin)) return;
  timers_of::share(pin, 0);
  const Registers r(pin);
  r.direction(false);
  r.output(false);
}

bool isLow(uint8_t pin) { return !isTaken(pin) && !Registers(pin).isHigh(); }

void drive(uint8_t pin, bool high) {
  if (isTaken(pin)) return;
  const Registers r(pin);
  r.output(high);
  r.direction(true);
}

void brightness(uint8_t pin, uint8_t level) {
  if (isTaken(pin)) return;
  drive(pin, !timers_of::share(pin, level) && level >= 128);
}

namespace {

/** The converter's input that a pin is on, or 0xFF. */
uint8_t channelOf(uint8_t pin) {
#ifdef CHANNELS_OF_PINS
  static const uint8_t channels[][2] PROGMEM = CHANNELS_OF_PINS;
  for (const auto& c : channels)
    if (pgm_read_byte(&c[0]) == pin) return pgm_read_byte(&c[1]);
  return 0xff;
#else
  return pin < ChipRoom::FIRST_ANALOG || pin >= ChipRoom::PINS ? 0xff : static_cast<uint8_t>(pin - ChipRoom::FIRST_ANALOG);
#endif
}

}  // namespace

uint16_t analog(uint8_t pin) {
  const uint8_t channel = channelOf(pin);
  if (channel == 0xff) return 0;
#ifdef MUX5
  ADCSRB = static_cast<uint8_t>(channel & 8 ? _BV(MUX5) : 0);
#endif
  ADMUX = static_cast<uint8_t>(_BV(REFS0) | (channel & 7));
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

namespace {

/** Noise of the converter on pins that nothing holds, what the memory woke up with, and where the timer stands. */
uint32_t chance() {
  uint32_t hash = 0x811c9dc5UL ^ TCNT0;
  for (uint8_t round = 0; round < 64; round++)
    for (uint8_t channel = 0; channel < 6; channel++)
      hash = (hash ^ analog(static_cast<uint8_t>(ChipRoom::FIRST_ANALOG + channel)) ^ TCNT0) * 0x01000193UL;
  for (const uint8_t* p = reinterpret_cast<const uint8_t*>(RAMSTART); p <= reinterpret_cast<const uint8_t*>(RAMEND); p++)
    hash = (hash ^ *p) * 0x01000193UL;
  return hash;
}

}  // namespace

void newIdentity(uint8_t* to) {
  uint32_t hash = chance();
  for (uint8_t i = 0; i < 8; i++) {
    if (i == 4) hash = chance() ^ (hash * 2654435761UL);
    to[i] = static_cast<uint8_t>(hash >> (8 * (i & 3)));
  }
}

}  // namespace hardware
