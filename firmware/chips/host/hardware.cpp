// The functions of core/hardware.hpp on a computer: pins and memory are arrays. For the fuzzer, and whoever wants to look.
#include "../../core/hardware.hpp"
#include "host.hpp"

namespace host {
uint8_t kept[KEPT_BYTES];
uint8_t low[PINS];
uint32_t said = 0;
uint32_t coloured = 0;
}  // namespace host

namespace hardware {
const char model[] = "host board";
void pullUp(uint8_t pin) { host::low[pin] = 0; }
void release(uint8_t pin) { host::low[pin] = 0; }
bool isLow(uint8_t pin) { return host::low[pin] != 0; }
void drive(uint8_t pin, bool high) { host::low[pin] = high ? 0 : 1; }
void brightness(uint8_t pin, uint8_t level) { host::low[pin] = level >= 128 ? 0 : 1; }
uint16_t analog(uint8_t pin) { return static_cast<uint16_t>(pin * 37) & 1023; }
void shiftOut(uint8_t data, uint8_t clock, uint8_t byte) {
  host::low[clock] = 0;
  host::low[data] = byte & 1 ? 0 : 1;
}
uint8_t shiftIn(uint8_t data, uint8_t clock) { return static_cast<uint8_t>(host::low[data] * 201 + host::low[clock]); }
void strip(uint8_t pin, const uint8_t* colours, uint8_t lamps) {
  host::low[pin] = 0;
  // Read to its end, so that a strip that is shorter than it says is found.
  for (uint16_t i = 0; colours && i < 3 * lamps; i++) host::coloured += colours[i];
}
uint8_t timerFor(Use use, uint8_t pin) {
  return use == Use::SERVO ? 1 : pin == 3 || pin == 11 ? 2 : pin == 9 || pin == 10 ? 1 : NO_TIMER;
}
void servo(uint8_t pin, uint16_t) { host::low[pin] = 0; }
void frequency(uint8_t pin, uint16_t) { host::low[pin] = 0; }
void steps(uint8_t pin, uint8_t blank) { host::low[pin] = host::low[blank]; }
void freeTimers() {}

namespace {
Bus bus = Bus::FREE;
uint8_t turns = 0;
}  // namespace
bool isBus(uint8_t data, uint8_t clock) { return data == 18 && clock == 19; }
void busBegin(bool) {}
void busStart(uint8_t address, const uint8_t* out, uint8_t outCount, uint8_t* in, uint8_t inCount) {
  uint8_t sum = address;
  for (uint8_t i = 0; i < outCount; i++) sum = static_cast<uint8_t>(sum + out[i]);
  for (uint8_t i = 0; i < inCount; i++) in[i] = sum;
  bus = Bus::BUSY;
}
Bus busState() {
  if (bus != Bus::BUSY) return Bus::FREE;
  // Some are through at once, some never answer, and now and then one hangs.
  turns++;
  if (turns % 7 == 3) return Bus::BUSY;
  bus = Bus::FREE;
  return turns % 5 == 0 ? Bus::FAILED : Bus::DONE;
}
void busReset() { bus = Bus::FREE; }

void send(uint8_t) { host::said++; }
uint8_t room() { return 63; }
uint8_t kept(uint16_t at) { return host::kept[at]; }
bool keepsNow() { return true; }
void keep(uint16_t at, uint8_t value) { host::kept[at] = value; }
void newIdentity(uint8_t* to) {
  for (uint8_t i = 0; i < 8; i++) to[i] = static_cast<uint8_t>(0x51 * (i + 1));
}
}  // namespace hardware
