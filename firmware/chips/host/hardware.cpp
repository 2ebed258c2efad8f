// The functions of core/hardware.hpp on a computer: pins and memory are arrays. For the fuzzer, and whoever wants to look.
#include "../../core/hardware.hpp"
#include "host.hpp"

namespace host {
uint8_t kept[KEPT_BYTES];
uint8_t low[PINS];
uint32_t said = 0;
}  // namespace host

namespace hardware {
const char model[] = "host board";
void pullUp(uint8_t pin) { host::low[pin] = 0; }
void release(uint8_t pin) { host::low[pin] = 0; }
bool isLow(uint8_t pin) { return host::low[pin] != 0; }
void drive(uint8_t, bool) {}
void brightness(uint8_t, uint8_t) {}
uint16_t analog(uint8_t pin) { return static_cast<uint16_t>(pin * 37) & 1023; }
void send(uint8_t) { host::said++; }
uint8_t room() { return 63; }
uint8_t kept(uint16_t at) { return host::kept[at]; }
bool keepsNow() { return true; }
void keep(uint16_t at, uint8_t value) { host::kept[at] = value; }
uint32_t chance() { return 0x5eed1234; }
}  // namespace hardware
