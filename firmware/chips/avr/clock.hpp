// Microseconds since the chip started, from timer 0: 4 µs a count, 1,024 µs a turn.
#pragma once
#include <stdint.h>

namespace clock {
void begin();
uint32_t micros();
}  // namespace clock
