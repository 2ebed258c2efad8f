// Chips that give a board more inputs and outputs. Data sheets: 74HC4067 SCHS209, 74HC165 SCLS116, 74HC595 SCLS041, MCP23017
// DS20001952, TLC5940 SLVS515, PCA9685 (NXP, rev. 4), X12.017 (Juken).
#pragma once
#include <stdint.h>
#include "arena.hpp"
#include "bus.hpp"
#include "configuration.hpp"
#include "hardware.hpp"

/** The chips of a board: what is on their channels is kept in `Memory`, their pins are read where they are `Kept`. */
template <typename Memory, typename Kept, uint8_t MOST>
class Chains {
 public:
  Chains(Memory& memory, const Kept& kept) : memory_(memory), kept_(kept) {}

  /** The memory that so many of a kind take. */
  static constexpr uint16_t bytesOf(uint8_t kind, uint8_t chips) {
    return Memory::taken(static_cast<uint16_t>(kind == SELECTOR    ? 2
                                               : kind == TLC5940  ? 16 * chips
                                               : kind == MCP23017 ? sizeof(Sixteen)
                                               : kind == PCA9685  ? sizeof(Shares)
                                               : kind == MOTORS   ? 0
                                                                  : chips));
  }

  void clear() { count_ = 0; }
  /** Whether a contact on any of them has opened or closed since the turn before. */
  bool hasMoved() const { return moved_; }
  uint8_t count() const { return count_; }

  /** One more, whose pins are kept from `at` on; all chips before anything on their channels. */
  void add(uint8_t kind, uint8_t chips, uint8_t address, uint16_t at) {
    const uint16_t bytes = bytesOf(kind, chips);
    Chain& chain = chains_[count_++];
    chain = Chain{kind, chips, address, CHANGED, 0, at, bytes > 0 ? memory_.give(bytes) : static_cast<uint16_t>(0)};
    const auto pin = [&](uint8_t i) { return pinOf(chain, i); };
    switch (kind) {
      case SELECTOR:
        hardware::pullUp(pin(0));
        for (uint8_t i = 1; i < 5; i++) hardware::drive(pin(i), false);
        break;
      case HC165:
        hardware::pullUp(pin(DATA));
        hardware::drive(pin(CLOCK), false);
        hardware::drive(pin(LATCH), true);
        break;
      case HC595:
      case TLC5940:
        hardware::drive(pin(DATA), false);
        hardware::drive(pin(CLOCK), false);
        hardware::drive(pin(LATCH), kind == HC595);
        if (kind != TLC5940) break;
        hardware::drive(pin(BLANK), false);
        hardware::steps(pin(STEPS), pin(BLANK));
        break;
      case MCP23017:
        memory_.template as<Sixteen>(chain.mem).inputs[0] = 0xff;
        memory_.template as<Sixteen>(chain.mem).inputs[1] = 0xff;
        memory_.template as<Sixteen>(chain.mem).open[0] = 0xff;
        memory_.template as<Sixteen>(chain.mem).open[1] = 0xff;
        break;
      case MOTORS:
        for (uint8_t i = 0; i < 9; i++) hardware::drive(pin(i), i == 8);
        break;
      default:
        break;
    }
  }

  bool isClosed(uint16_t place) const {
    const uint8_t number = numberOf(place);
    if (number >= count_) return false;
    const Chain& chain = chains_[number];
    const uint8_t channel = static_cast<uint8_t>(place);
    const uint8_t* bits = memory_.at(chain.mem);
    switch (chain.kind) {
      case SELECTOR:
      case HC165:
        return channel < channelsOf(chain) && (bits[channel >> 3] & (1 << (channel & 7))) != 0;
      case MCP23017:
        return channel < 16 && (memory_.template as<Sixteen>(chain.mem).open[channel >> 3] & (1 << (channel & 7))) == 0;
      default:
        return false;
    }
  }

  /** What stands on a channel of a selector, 0 to 1023. */
  uint16_t levelOf(uint16_t place) const {
    const uint8_t number = numberOf(place);
    if (number >= count_ || chains_[number].kind != SELECTOR) return 0;
    const Chain& chain = chains_[number];
    const uint8_t signal = pinOf(chain, 0);
    for (uint8_t i = 1; i < 5; i++) hardware::drive(pinOf(chain, i), (place & (1 << (i - 1))) != 0);
    // Its own pull-up would bend what a wiper says.
    hardware::release(signal);
    const uint16_t level = hardware::analog(signal);
    hardware::pullUp(signal);
    return level;
  }

  /** A channel is to light something, or a pulse is to go out on it. */
  void claim(uint16_t place, bool pulses) {
    const uint8_t number = numberOf(place);
    if (number >= count_) return;
    Chain& chain = chains_[number];
    const uint8_t channel = static_cast<uint8_t>(place);
    if (pulses) chain.flags |= PULSED;
    if (chain.kind == MCP23017 && channel < 16) {
      uint8_t& inputs = memory_.template as<Sixteen>(chain.mem).inputs[channel >> 3];
      inputs = static_cast<uint8_t>(inputs & ~(1 << (channel & 7)));
    }
  }

  /** Lights a channel, 0 to 255; one that sinks is lit while its output is low. */
  void light(uint16_t place, uint8_t level, bool sinks) {
    const uint8_t number = numberOf(place);
    if (number >= count_) return;
    Chain& chain = chains_[number];
    const uint8_t channel = static_cast<uint8_t>(place);
    if (channel >= channelsOf(chain)) return;
    // A TLC5940 can do nothing else than sink: its channels are on then.
    if (sinks && chain.kind != TLC5940) level = static_cast<uint8_t>(255 - level);
    uint8_t* bytes = memory_.at(chain.mem);
    switch (chain.kind) {
      case HC595:
        put(bytes, channel, level >= 128);
        break;
      case MCP23017:
        put(memory_.template as<Sixteen>(chain.mem).out, channel, level >= 128);
        break;
      case TLC5940:
        bytes[channel] = level;
        break;
      case PCA9685:
        share(chain, channel, static_cast<uint16_t>((level << 4) | (level >> 4)));
        return;
      default:
        return;
    }
    chain.flags |= CHANGED;
  }

  /** The pulse that a channel of a PCA9685 is to make. */
  void pulse(uint16_t place, uint16_t us) {
    const uint8_t number = numberOf(place);
    // A count of 4,096 at fifty turns a second is 122 / 25 MHz.
    if (number < count_ && chains_[number].kind == PCA9685)
      share(chains_[number], place & 15, static_cast<uint16_t>(static_cast<uint32_t>(us) * 25 / 122));
  }

  /** A step of a motor behind a driver chip. */
  void step(uint16_t place, bool forwards) {
    const uint8_t number = numberOf(place);
    if (number >= count_ || chains_[number].kind != MOTORS) return;
    const uint8_t motor = static_cast<uint8_t>((place & 15) >> 2);
    // A coil that is turned round comes first with its other end: the motor goes the other way.
    hardware::drive(pinOf(chains_[number], static_cast<uint8_t>(2 * motor + 1)), forwards != static_cast<bool>(place & 1));
    hardware::drive(pinOf(chains_[number], static_cast<uint8_t>(2 * motor)), true);
    hardware::drive(pinOf(chains_[number], static_cast<uint8_t>(2 * motor)), false);
  }

  /** Reads all inputs that hang on pins. */
  void scan() {
    moved_ = arrived_;
    arrived_ = false;
    for (uint8_t i = 0; i < count_; i++) {
      Chain& chain = chains_[i];
      if (chain.kind == HC165) scanShifted(chain);
      else if (chain.kind == SELECTOR) scanSelected(chain);
      else chain.flags &= static_cast<uint8_t>(~ASKED);
    }
  }

  /** Clocks outputs out where they have changed: what belongs to the farthest chip goes first. */
  void send() {
    for (uint8_t i = 0; i < count_; i++) {
      Chain& chain = chains_[i];
      if (!(chain.flags & CHANGED) || (chain.kind != HC595 && chain.kind != TLC5940)) continue;
      chain.flags &= static_cast<uint8_t>(~CHANGED);
      if (chain.kind == HC595) sendOnOff(chain);
      else sendLevels(chain);
    }
  }

  /** Tells the next chip everything anew: one that lost its current, or misheard, is right again. */
  void refresh() {
    if (count_ == 0) return;
    if (++refreshed_ >= count_) refreshed_ = 0;
    Chain& chain = chains_[refreshed_];
    chain.flags |= CHANGED;
    chain.stage = chain.kind == PCA9685 && chain.stage >= RUNS ? static_cast<uint8_t>(CHECKS) : static_cast<uint8_t>(0);
  }

  /** What a chip on the two-wire bus wants to be told or asked next; false where that is nothing. */
  bool next(uint8_t number, Job& job) {
    Chain& chain = chains_[number];
    job.address = chain.address;
    job.inCount = 0;
    return chain.kind == MCP23017 ? nextOfSixteen(chain, job) : chain.kind == PCA9685 && nextOfShares(chain, job);
  }

  /** What came of it. */
  void done(uint8_t number, const Job& job, bool well) {
    Chain& chain = chains_[number];
    if (!well) chain.stage = 0;
    if (chain.kind == MCP23017) {
      Sixteen& chip = memory_.template as<Sixteen>(chain.mem);
      if (job.inCount == 2) {
        // One that does not answer has no closed contacts.
        for (uint8_t i = 0; i < 2; i++) {
          const uint8_t now = well ? job.in[i] : 0xff;
          // Between two turns: the next one looks.
          if (chip.open[i] != now) arrived_ = true;
          chip.open[i] = now;
        }
      } else if (well && chain.stage < RUNS) chain.stage++;
      return;
    }
    Shares& chip = memory_.template as<Shares>(chain.mem);
    if (!well) return;
    if (chain.stage == CHECKS) {
      // It sleeps: it has been without current.
      chain.stage = job.in[0] & 0x10 ? 0 : static_cast<uint8_t>(RUNS);
      return;
    }
    if (chain.stage < RUNS && ++chain.stage == RUNS) chip.changed = 0xffff;
  }

 private:
  enum : uint8_t { DATA = 0, CLOCK = 1, LATCH = 2, BLANK = 3, STEPS = 4 };
  enum : uint8_t { CHANGED = 1, ASKED = 2, PULSED = 4 };
  /** A chip on the bus is set up in three stages, and then runs; a PCA9685 is asked now and then whether it does. */
  enum : uint8_t { RUNS = 3, CHECKS = 4 };

  struct Chain {
    uint8_t kind, chips, address, flags, stage;
    /** Where its pins are kept, and where its channels are in memory. */
    uint16_t at, mem;
  };
  /** Sixteen pins of an MCP23017. */
  struct Sixteen {
    uint8_t open[2], out[2], inputs[2];
  };
  /** Sixteen shares of 4,096. */
  struct Shares {
    uint16_t wanted[16];
    uint16_t changed;
  };

  static uint8_t numberOf(uint16_t place) { return static_cast<uint8_t>((place >> 8) - 1); }
  static uint8_t channelsOf(const Chain& chain) {
    return static_cast<uint8_t>(chain.kind == HC165 || chain.kind == HC595 ? chain.chips * 8
                                : chain.kind == TLC5940                    ? chain.chips * 16
                                                                           : 16);
  }
  uint8_t pinOf(const Chain& chain, uint8_t i) const { return kept_.sure(static_cast<uint16_t>(chain.at + i)); }

  static void put(uint8_t* bits, uint8_t channel, bool on) {
    const uint8_t mask = static_cast<uint8_t>(1 << (channel & 7));
    uint8_t& byte = bits[channel >> 3];
    byte = static_cast<uint8_t>(on ? byte | mask : byte & ~mask);
  }

  void share(Chain& chain, uint8_t channel, uint16_t counts) {
    Shares& chip = memory_.template as<Shares>(chain.mem);
    if (chip.wanted[channel] == counts) return;
    chip.wanted[channel] = counts;
    chip.changed |= static_cast<uint16_t>(1u << channel);
  }

  /** Takes all inputs in at once, then clocks them out of the chain: the highest of the nearest chip comes first. */
  void scanShifted(Chain& chain) {
    const uint8_t data = pinOf(chain, DATA);
    const uint8_t clock = pinOf(chain, CLOCK);
    const uint8_t load = pinOf(chain, LATCH);
    hardware::drive(load, false);
    hardware::drive(load, true);
    uint8_t* bits = memory_.at(chain.mem);
    for (uint8_t c = 0; c < chain.chips; c++) take(bits[c], static_cast<uint8_t>(~hardware::shiftIn(data, clock)));
  }

  /** Goes through all channels in an order in which one address line changes at a time (Gray's code). */
  void scanSelected(Chain& chain) {
    const uint8_t signal = pinOf(chain, 0);
    uint8_t* bits = memory_.at(chain.mem);
    uint8_t now[2] = {0, 0};
    uint8_t channel = 0;
    for (uint8_t i = 0; i < 16; i++) {
      const uint8_t next = static_cast<uint8_t>(i ^ (i >> 1));
      // The first time, all of them.
      for (uint8_t k = 0; k < 4; k++)
        if (i == 0 || ((next ^ channel) & (1 << k))) hardware::drive(pinOf(chain, static_cast<uint8_t>(k + 1)), (next & (1 << k)) != 0);
      channel = next;
      put(now, channel, hardware::isLow(signal));
    }
    take(bits[0], now[0]);
    take(bits[1], now[1]);
  }

  void take(uint8_t& bits, uint8_t now) {
    if (bits != now) moved_ = true;
    bits = now;
  }

  void sendOnOff(const Chain& chain) {
    const uint8_t data = pinOf(chain, DATA);
    const uint8_t clock = pinOf(chain, CLOCK);
    const uint8_t latch = pinOf(chain, LATCH);
    const uint8_t* bits = memory_.at(chain.mem);
    hardware::drive(latch, false);
    for (uint8_t c = chain.chips; c-- > 0;) hardware::shiftOut(data, clock, bits[c]);
    hardware::drive(latch, true);
  }

  /** Twelve bits a channel, the upper eight of them the level: two channels make three bytes. */
  void sendLevels(const Chain& chain) {
    const uint8_t data = pinOf(chain, DATA);
    const uint8_t clock = pinOf(chain, CLOCK);
    const uint8_t latch = pinOf(chain, LATCH);
    const uint8_t blank = pinOf(chain, BLANK);
    const uint8_t* levels = memory_.at(chain.mem);
    for (uint8_t c = static_cast<uint8_t>(chain.chips * 16); c > 0; c = static_cast<uint8_t>(c - 2)) {
      const uint8_t high = levels[c - 1];
      const uint8_t low = levels[c - 2];
      hardware::shiftOut(data, clock, high);
      hardware::shiftOut(data, clock, static_cast<uint8_t>((high & 0xf0) | (low >> 4)));
      hardware::shiftOut(data, clock, static_cast<uint8_t>((low << 4) | (low >> 4)));
    }
    hardware::drive(blank, true);
    hardware::drive(latch, true);
    hardware::drive(latch, false);
    hardware::drive(blank, false);
  }

  bool nextOfSixteen(Chain& chain, Job& job) {
    Sixteen& chip = memory_.template as<Sixteen>(chain.mem);
    const auto write = [&](uint8_t from, uint8_t low, uint8_t high) {
      job.out[0] = from;
      job.out[1] = low;
      job.out[2] = high;
      job.outCount = 3;
      return true;
    };
    // What it is to give first, then which of its pins give, then the pull-ups of those that do not.
    if (chain.stage == 0 || (chain.stage >= RUNS && (chain.flags & CHANGED))) {
      // One that does not answer is asked once a turn.
      if (chain.stage == 0 && (chain.flags & ASKED)) return false;
      if (chain.stage == 0) chain.flags |= ASKED;
      chain.flags &= static_cast<uint8_t>(~CHANGED);
      return write(0x14, chip.out[0], chip.out[1]);
    }
    if (chain.stage < RUNS) return write(chain.stage == 1 ? 0x00 : 0x0c, chip.inputs[0], chip.inputs[1]);
    if (chain.flags & ASKED) return false;
    chain.flags |= ASKED;
    job.out[0] = 0x12;
    job.outCount = 1;
    job.inCount = 2;
    return true;
  }

  bool nextOfShares(Chain& chain, Job& job) {
    Shares& chip = memory_.template as<Shares>(chain.mem);
    job.outCount = 2;
    switch (chain.stage) {
      case 0:
        // It takes another length of its turns only while it sleeps.
        if (chain.flags & ASKED) return false;
        chain.flags |= ASKED;
        job.out[0] = 0x00;
        job.out[1] = 0x30;
        return true;
      case 1:
        // Fifty turns a second for servos; a thousand for lamps.
        job.out[0] = 0xfe;
        job.out[1] = chain.flags & PULSED ? 121 : 5;
        return true;
      case 2:
        job.out[0] = 0x00;
        job.out[1] = 0x20;
        return true;
      case CHECKS:
        job.out[0] = 0x00;
        job.outCount = 1;
        job.inCount = 1;
        return true;
      default:
        break;
    }
    for (uint8_t channel = 0; channel < 16; channel++) {
      if (!(chip.changed & (1u << channel))) continue;
      chip.changed = static_cast<uint16_t>(chip.changed & ~(1u << channel));
      job.out[0] = static_cast<uint8_t>(6 + 4 * channel);
      job.out[1] = 0;
      job.out[2] = 0;
      job.out[3] = static_cast<uint8_t>(chip.wanted[channel]);
      job.out[4] = static_cast<uint8_t>(chip.wanted[channel] >> 8);
      job.outCount = 5;
      return true;
    }
    return false;
  }

  Memory& memory_;
  const Kept& kept_;
  Chain chains_[MOST];
  uint8_t count_ = 0;
  uint8_t refreshed_ = 0;
  bool moved_ = false;
  bool arrived_ = false;
};
