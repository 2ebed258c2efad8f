#include "clock.hpp"
#include <avr/interrupt.h>
#include <avr/io.h>

namespace clock {
namespace {
volatile uint32_t turns = 0;
volatile uint8_t* volatile pulsedInput = nullptr;
volatile uint8_t pulsedMask = 0;
}  // namespace

void begin() {
  TCCR0A = _BV(WGM01) | _BV(WGM00);
  TCCR0B = _BV(CS01) | _BV(CS00);
  TIMSK0 = _BV(TOIE0);
  ADCSRA = _BV(ADEN) | _BV(ADPS2) | _BV(ADPS1) | _BV(ADPS0);
}

uint32_t micros() {
  const uint8_t flags = SREG;
  cli();
  uint32_t full = turns;
  const uint8_t count = TCNT0;
  if ((TIFR0 & _BV(TOV0)) && count < 255) full++;
  SREG = flags;
  return (full << 10) + (static_cast<uint32_t>(count) << 2);
}

void pulse(volatile uint8_t* input, uint8_t mask) {
  const uint8_t flags = SREG;
  cli();
  pulsedInput = input;
  pulsedMask = mask;
  SREG = flags;
}

}  // namespace clock

ISR(TIMER0_OVF_vect) {
  clock::turns++;
  const uint8_t mask = clock::pulsedMask;
  if (mask == 0 || (static_cast<uint8_t>(clock::turns) & 1)) return;
  // Writing a one to the input register turns the pin over.
  volatile uint8_t* const input = clock::pulsedInput;
  *input = mask;
  *input = mask;
}
