// Chips that give a board more inputs and outputs: 74HC4067 selectors, 74HC165 chains for contacts, 74HC595 chains for lamps
// that are on or off. Data sheets SCHS209, SCLS116, SCLS041.
#pragma once
#include <stdint.h>
#include "configuration.hpp"
#include "hardware.hpp"

constexpr uint8_t MOST_CHAIN = 8;
constexpr uint8_t SELECTOR_PINS = 5;

/** How many pins a kind of chip hangs on; 0 for one that this program does not drive. */
constexpr uint8_t pinsOfChip(uint8_t kind) {
  return kind == SELECTOR ? SELECTOR_PINS : kind == HC165 || kind == HC595 ? 3 : 0;
}

template <uint8_t MOST>
class Chains {
 public:
  void clear() { count_ = 0; }

  void add(uint8_t kind, uint8_t chips, const uint8_t* pins) {
    Chain& chain = chains_[count_++];
    chain = Chain{kind, chips, true, {0}, {0}};
    for (uint8_t i = 0; i < pinsOfChip(kind); i++) chain.pins[i] = pins[i];
    if (kind == SELECTOR) {
      hardware::pullUp(pins[0]);
      for (uint8_t i = 1; i < SELECTOR_PINS; i++) hardware::drive(pins[i], false);
      return;
    }
    hardware::drive(chain.pins[CLOCK], false);
    hardware::drive(chain.pins[LATCH], true);
    if (kind == HC165) hardware::pullUp(chain.pins[DATA]);
    else hardware::drive(chain.pins[DATA], false);
  }

  bool isClosed(uint16_t place) const {
    const uint8_t number = numberOf(place);
    if (number >= count_ || chains_[number].kind == HC595) return false;
    const uint8_t channel = static_cast<uint8_t>(place);
    return channel < channelsOf(chains_[number]) && (chains_[number].bits[channel >> 3] & (1 << (channel & 7))) != 0;
  }

  /** What stands on a channel of a selector, 0 to 1023. */
  uint16_t levelOf(uint16_t place) const {
    const uint8_t number = numberOf(place);
    if (number >= count_ || chains_[number].kind != SELECTOR) return 0;
    const Chain& chain = chains_[number];
    choose(chain, static_cast<uint8_t>(place));
    // Its own pull-up would bend what a wiper says.
    hardware::release(chain.pins[DATA]);
    const uint16_t level = hardware::analog(chain.pins[DATA]);
    hardware::pullUp(chain.pins[DATA]);
    return level;
  }

  void set(uint16_t place, bool on) {
    const uint8_t number = numberOf(place);
    if (number >= count_ || chains_[number].kind != HC595) return;
    Chain& chain = chains_[number];
    const uint8_t channel = static_cast<uint8_t>(place);
    if (channel >= channelsOf(chain)) return;
    const uint8_t mask = static_cast<uint8_t>(1 << (channel & 7));
    uint8_t& byte = chain.bits[channel >> 3];
    byte = static_cast<uint8_t>(on ? byte | mask : byte & ~mask);
    chain.changed = true;
  }

  /** Reads all inputs. */
  void scan() {
    for (uint8_t i = 0; i < count_; i++) {
      Chain& chain = chains_[i];
      if (chain.kind == HC165) scanShifted(chain);
      else if (chain.kind == SELECTOR) scanSelected(chain);
    }
  }

  /** Clocks outputs out where they have changed: what belongs to the farthest chip goes first. */
  void send() {
    for (uint8_t i = 0; i < count_; i++) {
      Chain& chain = chains_[i];
      if (chain.kind != HC595 || !chain.changed) continue;
      chain.changed = false;
      hardware::drive(chain.pins[LATCH], false);
      for (uint8_t c = chain.chips; c-- > 0;)
        for (uint8_t mask = 128; mask != 0; mask = static_cast<uint8_t>(mask >> 1)) {
          hardware::drive(chain.pins[DATA], (chain.bits[c] & mask) != 0);
          tick(chain);
        }
      hardware::drive(chain.pins[LATCH], true);
    }
  }

 private:
  enum : uint8_t { DATA = 0, CLOCK = 1, LATCH = 2 };

  struct Chain {
    uint8_t kind, chips;
    bool changed;
    uint8_t pins[SELECTOR_PINS];
    uint8_t bits[MOST_CHAIN];
  };

  static uint8_t numberOf(uint16_t place) { return static_cast<uint8_t>((place >> 8) - 1); }
  static uint8_t channelsOf(const Chain& chain) {
    return static_cast<uint8_t>(chain.kind == SELECTOR ? 16 : chain.chips * 8);
  }

  static void tick(const Chain& chain) {
    hardware::drive(chain.pins[CLOCK], true);
    hardware::drive(chain.pins[CLOCK], false);
  }

  /** Takes all inputs in at once, then clocks them out of the chain: the highest of the nearest chip comes first. */
  static void scanShifted(Chain& chain) {
    hardware::drive(chain.pins[LATCH], false);
    hardware::drive(chain.pins[LATCH], true);
    for (uint8_t c = 0; c < chain.chips; c++) {
      uint8_t bits = 0;
      for (uint8_t k = 0; k < 8; k++) {
        bits = static_cast<uint8_t>((bits << 1) | (hardware::isLow(chain.pins[DATA]) ? 1 : 0));
        tick(chain);
      }
      chain.bits[c] = bits;
    }
  }

  static void scanSelected(Chain& chain) {
    uint16_t bits = 0;
    for (uint8_t channel = 0; channel < 16; channel++) {
      choose(chain, channel);
      if (hardware::isLow(chain.pins[DATA])) bits = static_cast<uint16_t>(bits | (1u << channel));
    }
    chain.bits[0] = static_cast<uint8_t>(bits);
    chain.bits[1] = static_cast<uint8_t>(bits >> 8);
  }

  static void choose(const Chain& chain, uint8_t channel) {
    for (uint8_t i = 1; i < SELECTOR_PINS; i++)
      hardware::drive(chain.pins[i], (channel & (1 << (i - 1))) != 0);
  }

  Chain chains_[MOST];
  uint8_t count_ = 0;
};
