#pragma once
#include <stdint.h>

namespace timers_of {
void begin();
/** Gives a pin its share of brightness by its timer; false where it has none, or is all on or all off. */
bool share(uint8_t pin, uint8_t level);
}  // namespace timers_of
