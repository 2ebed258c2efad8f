// The program as WebAssembly: pins are those of a simulated board, which hears and holds them. What is kept is memory that
// whoever runs it may look at, save and put back.
#include <stddef.h>
#include "../../core/board.hpp"

#define GIVEN(name) __attribute__((import_module("board"), import_name(#name)))
#define TAKEN(name) __attribute__((export_name(#name)))

extern "C" {

GIVEN(pullUp) void givenPullUp(uint32_t pin);
GIVEN(release) void givenRelease(uint32_t pin);
GIVEN(isLow) uint32_t givenIsLow(uint32_t pin);
GIVEN(drive) void givenDrive(uint32_t pin, uint32_t high);
GIVEN(brightness) void givenBrightness(uint32_t pin, uint32_t level);
GIVEN(analog) uint32_t givenAnalog(uint32_t pin);
GIVEN(shiftOut) void givenShiftOut(uint32_t data, uint32_t clock, uint32_t byte);
GIVEN(shiftIn) uint32_t givenShiftIn(uint32_t data, uint32_t clock);
GIVEN(strip) void givenStrip(uint32_t pin, const uint8_t* colours, uint32_t lamps);
GIVEN(servo) void givenServo(uint32_t pin, uint32_t us);
GIVEN(frequency) void givenFrequency(uint32_t pin, uint32_t hertz);
GIVEN(steps) void givenSteps(uint32_t pin, uint32_t blank);
GIVEN(transfer) uint32_t givenTransfer(uint32_t address, const uint8_t* out, uint32_t outCount, uint8_t* in, uint32_t inCount);
GIVEN(send) void givenSend(uint32_t byte);
GIVEN(keeps) void givenKeeps(uint32_t at);
GIVEN(newIdentity) void givenNewIdentity(uint8_t* to);

// A compiler may ask for these by itself.
void* memset(void* to, int value, size_t count) {
  uint8_t* bytes = static_cast<uint8_t*>(to);
  for (size_t i = 0; i < count; i++) bytes[i] = static_cast<uint8_t>(value);
  return to;
}
void* memcpy(void* to, const void* from, size_t count) {
  uint8_t* bytes = static_cast<uint8_t*>(to);
  for (size_t i = 0; i < count; i++) bytes[i] = static_cast<const uint8_t*>(from)[i];
  return to;
}

}  // extern "C"

namespace {

/** As much as the largest chip that a simulated board stands for, and more slots. */
struct Room {
  using SlotNumber = uint16_t;
  static constexpr uint16_t KEPT_BYTES = 8032;
  static constexpr uint16_t FRAME_BYTES = 250;
  static constexpr uint16_t SLOTS = 500;
  static constexpr uint16_t MEMORY_BYTES = 16000;
  static constexpr uint8_t CHAINS = 16;
  static constexpr uint8_t PINS = 128;
  /** Pieces that a slow display or bus takes in one turn: turns are milliseconds apart here. */
  static constexpr uint8_t PIECES = 120;
  static constexpr uint32_t BYTES_A_SECOND = 11520;
};

uint8_t keptBytes[Room::KEPT_BYTES];
hardware::Bus bus = hardware::Bus::FREE;
/** Each use has a timer of its own, as long as there are some. */
uint8_t timers = 0;

alignas(Board<Room>) uint8_t memory[sizeof(Board<Room>)];
Board<Room>* board = nullptr;

constexpr uint8_t MOST_LETTERS = 42;
uint8_t incoming[512];

}  // namespace

inline void* operator new(size_t, void* at) noexcept { return at; }

namespace hardware {

char letters[MOST_LETTERS + 1];
extern const char model[MOST_LETTERS + 1] __attribute__((alias("_ZN8hardware7lettersE")));

void pullUp(uint8_t pin) { givenPullUp(pin); }
void release(uint8_t pin) { givenRelease(pin); }
bool isLow(uint8_t pin) { return givenIsLow(pin) != 0; }
void drive(uint8_t pin, bool high) { givenDrive(pin, high); }
void brightness(uint8_t pin, uint8_t level) { givenBrightness(pin, level); }
uint16_t analog(uint8_t pin) { return static_cast<uint16_t>(givenAnalog(pin)); }
void shiftOut(uint8_t data, uint8_t clock, uint8_t byte) { givenShiftOut(data, clock, byte); }
uint8_t shiftIn(uint8_t data, uint8_t clock) { return static_cast<uint8_t>(givenShiftIn(data, clock)); }
void strip(uint8_t pin, const uint8_t* colours, uint8_t lamps) { givenStrip(pin, colours, lamps); }

uint8_t timerFor(Use use, uint8_t) { return use == Use::SERVO ? 7 : static_cast<uint8_t>(timers++ % 7); }
void servo(uint8_t pin, uint16_t us) { givenServo(pin, us); }
void frequency(uint8_t pin, uint16_t hertz) { givenFrequency(pin, hertz); }
void steps(uint8_t pin, uint8_t blank) { givenSteps(pin, blank); }
void freeTimers() { timers = 0; }

bool isBus(uint8_t, uint8_t) { return true; }
void busBegin(bool) {}
void busStart(uint8_t address, const uint8_t* out, uint8_t outCount, uint8_t* in, uint8_t inCount) {
  bus = givenTransfer(address, out, outCount, in, inCount) ? Bus::DONE : Bus::FAILED;
}
Bus busState() {
  const Bus now = bus;
  bus = Bus::FREE;
  return now;
}
void busReset() { bus = Bus::FREE; }

void send(uint8_t byte) { givenSend(byte); }
uint8_t room() { return 255; }

uint8_t kept(uint16_t at) { return keptBytes[at]; }
bool keepsNow() { return true; }
void keep(uint16_t at, uint8_t value) {
  keptBytes[at] = value;
  givenKeeps(at);
}
void newIdentity(uint8_t* to) { givenNewIdentity(to); }

}  // namespace hardware

extern "C" {

TAKEN(letters) char* takenLetters() { return hardware::letters; }
TAKEN(mostLetters) uint32_t takenMostLetters() { return MOST_LETTERS; }
TAKEN(kept) uint8_t* takenKept() { return keptBytes; }
TAKEN(keptCount) uint32_t takenKeptCount() { return sizeof keptBytes; }
TAKEN(incoming) uint8_t* takenIncoming() { return incoming; }
TAKEN(incomingCount) uint32_t takenIncomingCount() { return sizeof incoming; }

TAKEN(begin) void takenBegin(uint32_t now) {
  board = new (memory) Board<Room>();
  board->begin(now);
}
TAKEN(receive) void takenReceive(uint32_t count, uint32_t now) {
  for (uint32_t i = 0; i < count; i++) board->receive(incoming[i], now);
}
TAKEN(step) void takenStep(uint32_t now) { board->step(now); }

}  // extern "C"
