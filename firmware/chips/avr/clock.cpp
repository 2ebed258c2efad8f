#include "clock.hpp"
#include <avr/interrupt.h>
#include <avr/io.h>

namespace clock {
namespace {
volatile uint32_t turns = 0;
}

void begin() {
  // All timers count from 0 to 255 and give their pins a share of that: data sheet, 15.9, 16.11 and 18.11.
  TCCR0A = _BV(WGM01) | _BV(WGM00);
  TCCR0B = _BV(CS01) | _BV(CS00);
  TCCR1A = _BV(WGM10);
  TCCR1B = _BV(WGM12) | _BV(CS11) | _BV(CS10);
  TCCR2A = _BV(WGM21) | _BV(WGM20);
  TCCR2B = _BV(CS22);
#ifdef TCCR3A
  TCCR3A = _BV(WGM30);
  TCCR3B = _BV(WGM32) | _BV(CS31) | _BV(CS30);
  TCCR4A = _BV(WGM40);
  TCCR4B = _BV(WGM42) | _BV(CS41) | _BV(CS40);
  TCCR5A = _BV(WGM50);
  TCCR5B = _BV(WGM52) | _BV(CS51) | _BV(CS50);
#endif
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

}  // namespace clock

ISR(TIMER0_OVF_vect) { clock::turns++; }
