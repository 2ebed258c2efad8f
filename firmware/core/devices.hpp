// What some slots need beyond their few bytes. Each lies in the arena, and all of a board hang in one list.
#pragma once
#include <stdint.h>

struct Device {
  /** The next in the list; 0 ends it. */
  uint16_t next;
  /** Its first place, as it is kept. */
  uint16_t at;
  uint8_t kind;
  uint8_t flags;
};

enum DeviceFlag : uint8_t { CHANGED = 1, LEAVING = 1, SENSED = 2, HOMED = 4, BACKWARDS = 8, ON_CHIP = 16, IS_SERVO = 32, PULSED = 64, DARK = 128 };

/** Numbers of pins, read where they are kept. */
template <typename Kept>
class PinsOf {
 public:
  PinsOf(const Kept& kept, const Device& device) : kept_(kept), at_(device.at) {}
  uint8_t operator[](uint8_t i) const { return kept_.at(static_cast<uint16_t>(at_ + i)); }

 private:
  const Kept& kept_;
  uint16_t at_;
};
