// What timers do for pins: shares of brightness, pulses for servos, frequencies, and the brightness clock of a TLC5940.
#include "../../core/hardware.hpp"
#include <avr/interrupt.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include "clock.hpp"
#include "registers.hpp"
#include "timers.hpp"

namespace timers_of {
namespace {

/** Timers that something has for itself, by bits. */
uint8_t taken = 0;

Timed timedAt(uint8_t i) {
  Timed t;
  memcpy_P(&t, &timers[i], sizeof t);
  return t;
}

bool find(uint8_t pin, Timed& found) {
  for (uint8_t i = 0; i < sizeof timers / sizeof timers[0]; i++) {
    if (pgm_read_byte(&timers[i].pin) != pin) continue;
    found = timedAt(i);
    return true;
  }
  return false;
}

template <uint8_t N>
bool isAmong(const uint8_t (&list)[N], uint8_t pin) {
  for (uint8_t i = 0; i < N; i++)
    if (list[i] == pin) return true;
  return false;
}

/** All but the one that counts the time: from 0 to 255, as shares. Data sheet of the ATmega328P, 15.9, 16.11 and 18.11. */
void asShares() {
  TCCR1A = _BV(WGM10);
  TCCR1B = _BV(WGM12) | _BV(CS11) | _BV(CS10);
#ifdef TCCR2A
  TCCR2A = _BV(WGM21) | _BV(WGM20);
  TCCR2B = _BV(CS22);
#endif
#ifdef TCCR3A
  TCCR3A = _BV(WGM30);
  TCCR3B = _BV(WGM32) | _BV(CS31) | _BV(CS30);
#endif
#if defined(TCCR4E)
  // The quick timer of the ATmega32U4: its top is a register, its prescaler another.
  OCR4C = 255;
  TCCR4A = _BV(PWM4A);
  TCCR4C = _BV(PWM4D);
  TCCR4B = _BV(CS42) | _BV(CS41) | _BV(CS40);
#elif defined(TCCR4A)
  TCCR4A = _BV(WGM40);
  TCCR4B = _BV(WGM42) | _BV(CS41) | _BV(CS40);
  TCCR5A = _BV(WGM50);
  TCCR5B = _BV(WGM52) | _BV(CS51) | _BV(CS50);
#endif
}

// --- servos -----------------------------------------------------------------------------------------------------

#define JOINED(a, b, c) a##b##c
#define OF_TIMER(a, n, c) JOINED(a, n, c)
#define SERVO_CONTROL_A OF_TIMER(TCCR, SERVO_TIMER, A)
#define SERVO_CONTROL_B OF_TIMER(TCCR, SERVO_TIMER, B)
#define SERVO_COUNT OF_TIMER(TCNT, SERVO_TIMER, )
#define SERVO_COMPARE OF_TIMER(OCR, SERVO_TIMER, A)
#define SERVO_MASK OF_TIMER(TIMSK, SERVO_TIMER, )
#define SERVO_WAKES OF_TIMER(OCIE, SERVO_TIMER, A)
#define SERVO_RUNS OF_TIMER(CS, SERVO_TIMER, 1)
#define SERVO_VECTOR OF_TIMER(TIMER, SERVO_TIMER, _COMPA_vect)

constexpr uint8_t MOST_SERVOS = 8;
/** Half microseconds: each of eight has a window of its own in 20.8 ms. */
constexpr uint16_t WINDOW = 5200;
struct Served {
  volatile uint8_t* port;
  uint8_t mask, pin;
  uint16_t halves;
};
Served served[MOST_SERVOS];
volatile uint8_t servedCount = 0;
uint8_t servedNow = 0;
bool isPulse = false;

}  // namespace
}  // namespace timers_of

using namespace timers_of;

void timers_of::begin() { asShares(); }

bool timers_of::share(uint8_t pin, uint8_t level) {
  Timed t;
  if (!find(pin, t) || (taken & (1 << t.timer))) return false;
  const bool on = level > 0 && level < 255;
  const uint8_t mask = static_cast<uint8_t>(1 << t.bit);
  volatile uint8_t& control = registerAt(t.control);
  control = static_cast<uint8_t>(on ? control | mask : control & ~mask);
  // All of them count to 255, so that of a wide one only the lower byte counts.
  if (isWide(t.timer)) registerAt(static_cast<uint16_t>(t.compare + 1)) = 0;
  registerAt(t.compare) = level;
  return on;
}

namespace hardware {

uint8_t timerFor(Use use, uint8_t pin) {
  if (isTaken(pin)) return NO_TIMER;
  if (use == Use::SERVO) return SERVO_TIMER;
  Timed t;
  const bool can = use == Use::STEPS ? isAmong(abilities::STEPS, pin) : isAmong(abilities::FREQUENCY, pin);
  return can && find(pin, t) ? t.timer : NO_TIMER;
}

void steps(uint8_t pin, uint8_t blank) {
  Timed t;
  if (!find(pin, t) || isTaken(blank)) return;
  taken = static_cast<uint8_t>(taken | (1 << t.timer));
  drive(pin, false);
  // Two megahertz: it turns over at every fourth count, and 4,096 of its periods are two turns of timer 0.
  const bool wide = isWide(t.timer);
  volatile uint8_t& a = registerAt(t.control);
  volatile uint8_t& b = registerAt(static_cast<uint16_t>(t.control + 1));
  b = wide ? 8 : 0;
  a = static_cast<uint8_t>((1 << (t.bit - 1)) | (wide ? 0 : 2));
  // The first of its compare registers is its top.
  const uint16_t top = static_cast<uint16_t>(t.control + 8);
  if (wide) {
    registerAt(static_cast<uint16_t>(top + 1)) = 0;
    registerAt(top) = 3;
    registerAt(static_cast<uint16_t>(t.compare + 1)) = 0;
  } else registerAt(static_cast<uint16_t>(t.control + 3)) = 3;
  registerAt(t.compare) = 3;
  b = static_cast<uint8_t>((wide ? 8 : 0) | 1);
  const Registers r(blank);
  clock::pulse(r.input(), r.mask());
}

void frequency(uint8_t pin, uint16_t hertz) {
  Timed t;
  if (!find(pin, t)) return;
  taken = static_cast<uint8_t>(taken | (1 << t.timer));
  volatile uint8_t& a = registerAt(t.control);
  volatile uint8_t& b = registerAt(static_cast<uint16_t>(t.control + 1));
  if (hertz == 0) {
    a = 0;
    b = 0;
    drive(pin, false);
    return;
  }
  // It turns over at every top: twice a period. The finest prescaler that still reaches.
  static const uint8_t shifts[] PROGMEM = {0, 3, 6, 8};
  uint8_t select = 1;
  uint32_t top = F_CPU / 2 / hertz;
  for (; select < 4 && (top >> pgm_read_byte(&shifts[select - 1])) > 0x10000UL; select++) {
  }
  top = (top >> pgm_read_byte(&shifts[select - 1])) - 1;
  volatile uint16_t& compare = *reinterpret_cast<volatile uint16_t*>(t.compare);
  volatile uint16_t& count = *reinterpret_cast<volatile uint16_t*>(t.control + 4);
  if (!(a & (1 << (t.bit - 1)))) drive(pin, false);
  a = static_cast<uint8_t>(1 << (t.bit - 1));
  // Only in this way of counting does it take a new top at once.
  b = static_cast<uint8_t>(8 | select);
  compare = static_cast<uint16_t>(top);
  // What it has counted beyond a lower top would run all the way round.
  if (count > top) count = 0;
}

void servo(uint8_t pin, uint16_t us) {
  if (isTaken(pin)) return;
  uint8_t i = 0;
  while (i < servedCount && served[i].pin != pin) i++;
  const uint16_t halves = static_cast<uint16_t>(us << 1);
  if (i < servedCount) {
    const uint8_t flags = SREG;
    cli();
    served[i].halves = halves;
    SREG = flags;
    return;
  }
  if (i == MOST_SERVOS) return;
  drive(pin, false);
  const Registers r(pin);
  served[i] = Served{r.input() + 2, r.mask(), pin, halves};
  servedCount = static_cast<uint8_t>(i + 1);
  if (i > 0) return;
  taken = static_cast<uint8_t>(taken | (1 << SERVO_TIMER));
  SERVO_CONTROL_A = 0;
  SERVO_CONTROL_B = _BV(SERVO_RUNS);
  SERVO_COUNT = 0;
  SERVO_COMPARE = WINDOW;
  servedNow = 0;
  isPulse = false;
  SERVO_MASK = _BV(SERVO_WAKES);
}

void freeTimers() {
  SERVO_MASK = 0;
  servedCount = 0;
  clock::pulse(nullptr, 0);
  taken = 0;
  asShares();
}

}  // namespace hardware

ISR(SERVO_VECTOR) {
  if (isPulse) {
    Served& s = served[servedNow];
    *s.port = static_cast<uint8_t>(*s.port & ~s.mask);
    SERVO_COMPARE = static_cast<uint16_t>(SERVO_COMPARE + (WINDOW - s.halves));
    isPulse = false;
    return;
  }
  servedNow = static_cast<uint8_t>((servedNow + 1) & (MOST_SERVOS - 1));
  if (servedNow >= servedCount) {
    SERVO_COMPARE = static_cast<uint16_t>(SERVO_COMPARE + WINDOW);
    return;
  }
  Served& s = served[servedNow];
  *s.port = static_cast<uint8_t>(*s.port | s.mask);
  SERVO_COMPARE = static_cast<uint16_t>(SERVO_COMPARE + s.halves);
  isPulse = true;
}
