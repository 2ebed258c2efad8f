// The line to the computer: bytes by interrupt, both ways.
#pragma once
#include <stdint.h>

namespace uart {
void begin();
/** Says a byte; waits for room. */
void send(uint8_t byte);
/** How many bytes can be said without waiting. */
uint8_t room();
/** Takes a byte that has come; false where there is none. */
bool take(uint8_t& byte);
}  // namespace uart
