// The two-wire bus, by interrupt: data sheet of the ATmega328P, section 21, tables 21-3 and 21-4.
#include "../../core/hardware.hpp"
#include <avr/interrupt.h>
#include <avr/io.h>
#include "registers.hpp"

namespace {

constexpr uint8_t GOES = _BV(TWINT) | _BV(TWEN) | _BV(TWIE);

volatile hardware::Bus state = hardware::Bus::FREE;
const uint8_t* out;
uint8_t* in;
uint8_t address, outCount, inCount;
volatile uint8_t at;
volatile bool isReading;
bool isOn = false;

void end(hardware::Bus as) {
  TWCR = _BV(TWINT) | _BV(TWEN) | _BV(TWSTO);
  state = as;
}

}  // namespace

namespace hardware {

bool isBus(uint8_t data, uint8_t clock) { return data == ChipRoom::BUS_DATA && clock == ChipRoom::BUS_CLOCK; }

void busBegin(bool quick) {
  TWBR = quick ? 12 : 72;
  TWSR = 0;
}

void busStart(uint8_t to, const uint8_t* write, uint8_t writes, uint8_t* read, uint8_t reads) {
  if (!isOn) {
    pullUp(ChipRoom::BUS_DATA);
    pullUp(ChipRoom::BUS_CLOCK);
    isOn = true;
  }
  // The end of the one before is still on its way for a moment.
  for (uint8_t left = 255; (TWCR & _BV(TWSTO)) && left > 0; left--) {
  }
  address = static_cast<uint8_t>(to << 1);
  out = write;
  outCount = writes;
  in = read;
  inCount = reads;
  at = 0;
  isReading = false;
  state = Bus::BUSY;
  TWCR = GOES | _BV(TWSTA);
}

Bus busState() {
  const Bus now = state;
  if (now != Bus::BUSY) state = Bus::FREE;
  return now;
}

void busReset() {
  TWCR = 0;
  state = Bus::FREE;
  if (!isOn) return;
  isOn = false;
  // Whoever holds the data line is in the middle of a byte, and lets it go when he has been clocked through it.
  for (uint8_t i = 0; i < 9; i++) {
    drive(ChipRoom::BUS_CLOCK, false);
    pullUp(ChipRoom::BUS_CLOCK);
  }
  release(ChipRoom::BUS_DATA);
  release(ChipRoom::BUS_CLOCK);
}

}  // namespace hardware

ISR(TWI_vect) {
  switch (TWSR & 0xf8) {
    case 0x08:
    case 0x10:
      TWDR = static_cast<uint8_t>(address | (isReading ? 1 : 0));
      TWCR = GOES;
      return;
    case 0x18:
    case 0x28:
      if (at < outCount) {
        TWDR = out[at];
        at = static_cast<uint8_t>(at + 1);
        TWCR = GOES;
      } else if (inCount > 0) {
        isReading = true;
        at = 0;
        TWCR = GOES | _BV(TWSTA);
      } else end(hardware::Bus::DONE);
      return;
    case 0x50:
      in[at] = TWDR;
      at = static_cast<uint8_t>(at + 1);
      TWCR = at + 1 < inCount ? GOES | _BV(TWEA) : GOES;
      return;
    case 0x40:
      TWCR = inCount > 1 ? GOES | _BV(TWEA) : GOES;
      return;
    case 0x58:
      in[at] = TWDR;
      end(hardware::Bus::DONE);
      return;
    default:
      end(hardware::Bus::FAILED);
  }
}
