// Needles: gauge motors on coils of their own (X27, VID29: three steps a degree) or behind an X12.017 (twelve), servos, and
// instruments that are driven by pulses.
#pragma once
#include "devices.hpp"
#include "hardware.hpp"
// Tables stay in the program's own memory.
#include <words.hpp>

namespace pace {

constexpr uint8_t MOST = 127;
/** From standstill a motor may begin with so many steps a second, and gain so many a second: of three a degree. */
constexpr uint32_t BEGINS = 300;
constexpr uint32_t GAINS = 2000;

constexpr uint32_t root(uint32_t n) {
  uint32_t r = 0;
  for (uint32_t bit = 1u << 15; bit > 0; bit >>= 1)
    if ((r + bit) * (r + bit) <= n) r += bit;
  return r;
}

/** Time to the next step after so many steps of gaining speed, in 4 µs: v² = v0² + 2an. */
struct Table {
  uint16_t after[MOST + 1];
  constexpr Table() : after() {
    for (uint32_t n = 0; n <= MOST; n++) after[n] = static_cast<uint16_t>(250000u / root(BEGINS * BEGINS + 2 * GAINS * n));
  }
};

constexpr Table table STAYS{};

inline uint16_t after(uint8_t n) { return fixed16(&table.after[n]); }

}  // namespace pace

struct Needle : Device {
  /** In steps of the motor, or tenths of a degree of a servo, from its zero. */
  uint16_t is, goal;
  /** When the next step is due, in 4 µs. */
  uint16_t due;
  /** How many steps it has gained speed for, and how many it may. */
  uint8_t gained, most;
  uint8_t phase;
  /** In how many steps it gains as much as it could in one, and how many of those it has made. */
  uint8_t gentle, held;
  uint16_t travel, speed;

  static constexpr uint16_t steps(uint16_t tenths, bool onChip) {
    return static_cast<uint16_t>((static_cast<uint32_t>(tenths) * (onChip ? 12 : 3) + 5) / 10);
  }

  /** In steps: whatever stands at its sensor leaves it by so much at most. */
  uint16_t turnOnce() const { return flags & ON_CHIP ? 360 * 12 : 360 * 3; }

  /**
   * Power came on, or it is another motor: it turns back until it stands at its stop for certain, or until its sensor sees it.
   * One that is seen already leaves its sensor first, so that it comes to it from above.
   */
  void begin(uint16_t degrees, uint16_t perSecond) {
    travel = static_cast<uint16_t>(degrees * 10);
    speed = perSecond;
    if (flags & (IS_SERVO | PULSED)) {
      flags |= HOMED;
      return;
    }
    is = static_cast<uint16_t>(steps(travel, flags & ON_CHIP) + 6);
    const uint16_t fastest = static_cast<uint16_t>(250000u / (perSecond * 3u));
    while (most < pace::MOST && pace::after(static_cast<uint8_t>(most + 1)) >= fastest) most++;
    flags |= BACKWARDS;
    if (!(flags & SENSED)) return;
    is = static_cast<uint16_t>(FAR - turnOnce());
    flags |= LEAVING;
  }

  /** Whether its sensor sees it, while it looks for its zero; from then on it needs none. */
  void sense(bool seen) {
    if (flags & LEAVING) {
      if (seen) return;
      flags &= static_cast<uint8_t>(~LEAVING);
      is = static_cast<uint16_t>(steps(travel, flags & ON_CHIP) + turnOnce());
      gained = 0;
    } else if (seen) {
      // Its zero lies a little further on, where its sensor sees it for certain.
      flags &= static_cast<uint8_t>(~SENSED);
      is = turnOnce() / 90;
    }
  }

  void take(uint16_t tenths) {
    if (tenths > travel) tenths = travel;
    goal = flags & (IS_SERVO | PULSED) ? tenths : steps(tenths, flags & ON_CHIP);
  }

  /** Time passes; `step(forwards)` is called for each step. Those that are late are made up for, a few at a time. */
  template <typename Step>
  void turn(uint32_t now, Step step) {
    const uint16_t at = static_cast<uint16_t>(now >> 2);
    const uint16_t to = heading();
    if (is == to && gained == 0) {
      // Its sensor never lets go of it: it stands where it stands.
      if (to == FAR) is = 0;
      flags |= HOMED;
      due = at;
      return;
    }
    for (uint8_t left = 64; left > 0 && static_cast<int16_t>(at - due) >= 0; left--) {
      if (!advance(step)) return;
    }
    if (static_cast<int16_t>(at - due) > 5000) due = at;
  }

  /** A servo turns no faster than it may: so many milliseconds have passed. */
  void follow(uint8_t ms) {
    if (is == goal) {
      gained = 0;
      return;
    }
    // Tenths of a degree in a millisecond: a hundredth of degrees a second.
    const uint32_t owed = gained + static_cast<uint32_t>(speed) * ms;
    const uint16_t by = static_cast<uint16_t>(owed / 100);
    gained = static_cast<uint8_t>(owed % 100);
    const uint16_t way = is < goal ? goal - is : is - goal;
    is = way <= by ? goal : static_cast<uint16_t>(is < goal ? is + by : is - by);
  }

  uint16_t pulseUs() const { return static_cast<uint16_t>(500 + static_cast<uint32_t>(is) * 2000 / travel); }

  /** Drives its four coil ends as its next partial step has them: data sheet of the VID29, "Partial step mode". */
  template <typename Pins>
  void coils(const Pins& pins, bool forwards) {
    static constexpr uint8_t ends[] STAYS = {0x9, 0x1, 0x7, 0x6, 0xe, 0x8};
    phase = static_cast<uint8_t>(forwards ? (phase == 5 ? 0 : phase + 1) : phase == 0 ? 5 : phase - 1);
    const uint8_t high = fixed8(&ends[phase]);
    for (uint8_t i = 0; i < 4; i++) hardware::drive(pins[i], (high & (1 << i)) != 0);
  }

 private:
  static constexpr uint16_t FAR = 0xffff;
  uint16_t heading() const { return flags & HOMED ? goal : flags & LEAVING ? FAR : 0; }

  /** One step; false where it stands at its goal. */
  template <typename Step>
  bool advance(Step step) {
    const uint16_t to = heading();
    const bool forwards = is < to;
    const uint16_t left = forwards ? to - is : is - to;
    // Twelve steps a degree are four times as many, and each takes a quarter of the time.
    const uint8_t finer = flags & ON_CHIP ? 2 : 0;
    if (gained == 0) {
      if (left == 0) return false;
      flags = static_cast<uint8_t>(forwards ? flags & ~BACKWARDS : flags | BACKWARDS);
    }
    const bool isRight = forwards == !(flags & BACKWARDS) && left > 0;
    // So many steps of losing speed are left before it stands.
    const uint16_t slows = static_cast<uint16_t>((left + (1 << finer) - 1) >> finer);
    // While a sensor is looked for it is slow enough to stand at once.
    const bool isLooking = (flags & (SENSED | HOMED)) == SENSED;
    if (!isLooking && (finer == 0 || (is & 3) == 0) && ++held >= gentle) {
      held = 0;
      // With what it has gained it needs so many steps to stand; with more, as many again as it takes to gain that.
      const uint16_t needs = static_cast<uint16_t>((gained + 1) * gentle);
      if (!isRight || slows < needs) {
        if (gained > 0) gained--;
      } else if (gained < most && slows >= needs + gentle) gained++;
    }
    if (flags & BACKWARDS) {
      if (is > 0) is--;
    } else is++;
    step(!(flags & BACKWARDS));
    due = static_cast<uint16_t>(due + (pace::after(gained) >> finer));
    return true;
  }
};
