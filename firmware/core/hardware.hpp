// What a chip gives the program: pins, a line, memory that stays. Each folder of chips/ has these functions once.
#pragma once
#include <stdint.h>

namespace hardware {

// What this chip can hold and carry; see chip.hpp of each chip.
extern const char model[];

/** Makes a pin an input that is held high. */
void pullUp(uint8_t pin);
/** Lets a pin go: an input that nothing holds. */
void release(uint8_t pin);
bool isLow(uint8_t pin);
/** Drives a pin high or low. */
void drive(uint8_t pin, bool high);
/** Drives a pin high for so many of 255 parts of the time, where it can; elsewhere from 128 on. */
void brightness(uint8_t pin, uint8_t level);
/** What a pin stands at, 0 to 1023 of the supply. */
uint16_t analog(uint8_t pin);

/** Says a byte; waits for room where there is none. */
void send(uint8_t byte);
/** How many bytes can be said without waiting. */
uint8_t room();

/** Memory that stays without power, by its byte. */
uint8_t kept(uint16_t at);
/** Whether the byte that is being written is in. */
bool keepsNow();
/** Begins to write a byte; `keepsNow` says when it is in. */
void keep(uint16_t at, uint8_t value);
/** A number that differs from board to board, for an identity of its own. */
uint32_t chance();

}  // namespace hardware
