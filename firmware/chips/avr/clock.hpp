// Microseconds since the chip started, from timer 0: 4 µs a count, 1,024 µs a turn.
#pragma once
#include <stdint.h>

namespace clock {
void begin();
uint32_t micros();
/** Has a pin pulsed, high for a moment, after every second turn of the timer; mask 0 ends it. */
void pulse(volatile uint8_t* input, uint8_t mask);
}  // namespace clock
