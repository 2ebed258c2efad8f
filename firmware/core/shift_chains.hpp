// Chains of shift registers: 74HC165 for contacts, 74HC595 for lamps that are on or off. Data sheets SCLS116, SCLS041.
#pragma once
#include <stdint.h>
#include "configuration.hpp"
#include "hardware.hpp"

constexpr uint8_t MOST_CHAIN = 8;

template <uint8_t MOST>
class ShiftChains {
 public:
  void clear() { count_ = 0; }

  void add(uint8_t kind, uint8_t chips, uint8_t data, uint8_t clock, uint8_t latch) {
    Chain& chain = chains_[count_++];
    chain = Chain{kind, chips, data, clock, latch, true, {0}};
    hardware::drive(clock, false);
    hardware::drive(latch, true);
    if (kind == HC165) hardware::pullUp(data);
    else hardware::drive(data, false);
  }

  bool isClosed(uint16_t place) const {
    const uint8_t chain = static_cast<uint8_t>((place >> 8) - 1);
    return chain < count_ && chains_[chain].kind == HC165 && (bit(chains_[chain], place) != 0);
  }

  void set(uint16_t place, bool on) {
    const uint8_t number = static_cast<uint8_t>((place >> 8) - 1);
    if (number >= count_ || chains_[number].kind != HC595) return;
    Chain& chain = chains_[number];
    const uint8_t channel = static_cast<uint8_t>(place);
    if (channel >= chain.chips * 8) return;
    const uint8_t mask = static_cast<uint8_t>(1 << (channel & 7));
    uint8_t& byte = chain.bits[channel >> 3];
    byte = static_cast<uint8_t>(on ? byte | mask : byte & ~mask);
    chain.changed = true;
  }

  /** Takes all inputs in at once, then clocks them out of the chain: the highest of the nearest chip comes first. */
  void scan() {
    for (uint8_t i = 0; i < count_; i++) {
      Chain& chain = chains_[i];
      if (chain.kind != HC165) continue;
      hardware::drive(chain.latch, false);
      hardware::drive(chain.latch, true);
      for (uint8_t c = 0; c < chain.chips; c++) {
        uint8_t bits = 0;
        for (uint8_t k = 0; k < 8; k++) {
          bits = static_cast<uint8_t>((bits << 1) | (hardware::isLow(chain.data) ? 1 : 0));
          hardware::drive(chain.clock, true);
          hardware::drive(chain.clock, false);
        }
        chain.bits[c] = bits;
      }
    }
  }

  /** Clocks outputs out where they have changed: what belongs to the farthest chip goes first. */
  void send() {
    for (uint8_t i = 0; i < count_; i++) {
      Chain& chain = chains_[i];
      if (chain.kind != HC595 || !chain.changed) continue;
      chain.changed = false;
      hardware::drive(chain.latch, false);
      for (uint8_t c = chain.chips; c-- > 0;)
        for (uint8_t mask = 128; mask != 0; mask = static_cast<uint8_t>(mask >> 1)) {
          hardware::drive(chain.data, (chain.bits[c] & mask) != 0);
          hardware::drive(chain.clock, true);
          hardware::drive(chain.clock, false);
        }
      hardware::drive(chain.latch, true);
    }
  }

 private:
  struct Chain {
    uint8_t kind, chips, data, clock, latch;
    bool changed;
    uint8_t bits[MOST_CHAIN];
  };

  static uint8_t bit(const Chain& chain, uint16_t place) {
    const uint8_t channel = static_cast<uint8_t>(place);
    if (channel >= chain.chips * 8) return 0;
    return static_cast<uint8_t>(chain.bits[channel >> 3] & (1 << (channel & 7)));
  }

  Chain chains_[MOST];
  uint8_t count_ = 0;
};
