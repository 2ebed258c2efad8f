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

/** A byte out, its highest bit first: the data pin, then a pulse of the clock. Both are driven already. */
void shiftOut(uint8_t data, uint8_t clock, uint8_t byte);
/** A byte in, its highest bit first: the data pin is read, then the clock makes a pulse. */
uint8_t shiftIn(uint8_t data, uint8_t clock);
/** Red, green and blue of each lamp of a strip (WS2812), or all dark where there are none. */
void strip(uint8_t pin, const uint8_t* colours, uint8_t lamps);

/** What a timer can be given up to; its pins then have no shares of brightness. */
enum class Use : uint8_t { SERVO, FREQUENCY, STEPS };
constexpr uint8_t NO_TIMER = 0xff;
/** The timer that this use takes on a pin. */
uint8_t timerFor(Use use, uint8_t pin);
/** A pulse of so many microseconds, fifty times a second. */
void servo(uint8_t pin, uint16_t us);
/** So many hertz, high for half of the time; 0 stays low. */
void frequency(uint8_t pin, uint16_t hertz);
/** A clock of some megahertz, and a short pulse on the other pin after each 4,096 of it. */
void steps(uint8_t pin, uint8_t blank);
/** Gives all timers back. */
void freeTimers();

/** The two-wire bus: whether it lies on these pins, and one transfer at a time, which goes on by itself. */
enum class Bus : uint8_t { FREE, BUSY, DONE, FAILED };
bool isBus(uint8_t data, uint8_t clock);
/** 100,000 bits a second, or 400,000. */
void busBegin(bool quick);
/** Writes bytes, then reads some; both stay where they are until it is through. */
void busStart(uint8_t address, const uint8_t* out, uint8_t outCount, uint8_t* in, uint8_t inCount);
/** How the transfer stands; one that is through is told once. */
Bus busState();
/** Gives a transfer up. */
void busReset();

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
/** Eight bytes that differ from board to board, for an identity of its own. */
void newIdentity(uint8_t* to);

}  // namespace hardware
