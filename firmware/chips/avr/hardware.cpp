// The functions of core/hardware.hpp on an AVR chip; what differs from chip to chip is in chip.hpp.
#include "../../core/hardware.hpp"
#include <avr/interrupt.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include "chip.hpp"
#include "uart.hpp"

namespace hardware {

const char model[] = MODEL;

namespace {

volatile uint8_t& at(uint16_t address) { return *reinterpret_cast<volatile uint8_t*>(address); }

/** A pin's registers: they lie side by side, and those of the upper ports may not be changed by halves. */
class Registers {
 public:
  explicit Registers(uint8_t pin)
      : input_(pgm_read_word(&pins[pin].input)), mask_(static_cast<uint8_t>(1 << pgm_read_byte(&pins[pin].bit))) {}

  bool isHigh() const { return (at(input_) & mask_) != 0; }
  void direction(bool out) const { set(static_cast<uint16_t>(input_ + 1), out); }
  void output(bool high) const { set(static_cast<uint16_t>(input_ + 2), high); }

 private:
  void set(uint16_t address, bool on) const {
    volatile uint8_t& r = at(address);
    r = static_cast<uint8_t>(on ? r | mask_ : r & ~mask_);
  }

  uint16_t input_;
  uint8_t mask_;
};

/** The pins of the line to the computer are its own. */
bool isTaken(uint8_t pin) { return pin < 2 || pin >= ChipRoom::PINS; }

/** Whether a timer gives a pin its brightness; switched on or off for it. */
bool timed(uint8_t pin, bool on, uint8_t level) {
  for (const Timed& t : timers) {
    if (pgm_read_byte(&t.pin) != pin) continue;
    const uint8_t mask = static_cast<uint8_t>(1 << pgm_read_byte(&t.bit));
    volatile uint8_t& control = at(pgm_read_word(&t.control));
    control = static_cast<uint8_t>(on ? control | mask : control & ~mask);
    // All of them count to 255, so that of a wide one only the lower byte counts; its upper is zero and stays so.
    at(pgm_read_word(&t.compare)) = level;
    return true;
  }
  return false;
}

}  // namespace

void pullUp(uint8_t pin) {
  if (isTaken(pin)) return;
  const Registers r(pin);
  r.direction(false);
  r.output(true);
}

void release(uint8_t pin) {
  if (isTaken(pin)) return;
  timed(pin, false, 0);
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
  const bool between = level > 0 && level < 255;
  const bool isTimed = timed(pin, between, level);
  drive(pin, isTimed && between ? false : level >= 128);
}

uint16_t analog(uint8_t pin) {
  if (pin < FIRST_ANALOG || pin >= ChipRoom::PINS) return 0;
  const uint8_t channel = static_cast<uint8_t>(pin - FIRST_ANALOG);
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
