// A pin's registers. They lie side by side, and those of the upper ports may not be changed by halves.
#pragma once
#include <avr/interrupt.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include "chip.hpp"

inline volatile uint8_t& registerAt(uint16_t address) { return *reinterpret_cast<volatile uint8_t*>(address); }

class Registers {
 public:
  explicit Registers(uint8_t pin)
      : input_(pgm_read_word(&pins[pin].input)), mask_(static_cast<uint8_t>(1 << pgm_read_byte(&pins[pin].bit))) {}

  bool isHigh() const { return (registerAt(input_) & mask_) != 0; }
  void direction(bool out) const { set(static_cast<uint16_t>(input_ + 1), out); }
  void output(bool high) const { set(static_cast<uint16_t>(input_ + 2), high); }
  volatile uint8_t* input() const { return &registerAt(input_); }
  uint8_t mask() const { return mask_; }

 private:
  /** What an interrupt does to the same port in between would be lost. */
  void set(uint16_t address, bool on) const {
    volatile uint8_t& r = registerAt(address);
    const uint8_t flags = SREG;
    cli();
    r = static_cast<uint8_t>(on ? r | mask_ : r & ~mask_);
    SREG = flags;
  }

  uint16_t input_;
  uint8_t mask_;
};

/** The pins of the line to the computer are its own, and some can do nothing but measure. */
inline bool isTaken(uint8_t pin) { return pin < 2 || pin >= ChipRoom::PINS || pgm_read_word(&pins[pin].input) == 0; }
