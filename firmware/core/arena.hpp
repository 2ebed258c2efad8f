// Memory for what a configuration needs, given out from both ends and taken back at once: slots from the front, what only
// some of them need from the back.
#pragma once
#include <stdint.h>

template <uint16_t BYTES>
class Arena {
 public:
  /** How many bytes a thing of this size takes. */
  static constexpr uint16_t taken(uint16_t bytes) {
    return static_cast<uint16_t>((bytes + alignof(uint32_t) - 1) / alignof(uint32_t) * alignof(uint32_t));
  }

  void clear() { back_ = BYTES; }
  /** Where so many bytes begin, all zero. Whoever asks knows that there is room. */
  uint16_t give(uint16_t bytes) {
    back_ = static_cast<uint16_t>(back_ - taken(bytes));
    for (uint16_t i = 0; i < bytes; i++) bytes_[back_ + i] = 0;
    return back_;
  }
  template <typename T>
  T& as(uint16_t at) {
    return *reinterpret_cast<T*>(bytes_ + at);
  }
  uint8_t* at(uint16_t at) { return bytes_ + at; }
  const uint8_t* at(uint16_t at) const { return bytes_ + at; }

 private:
  static_assert(BYTES % alignof(uint32_t) == 0, "the end is where something may end");
  alignas(uint32_t) uint8_t bytes_[BYTES];
  uint16_t back_ = BYTES;
};
