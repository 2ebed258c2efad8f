// One transfer on the two-wire bus.
#pragma once
#include <stdint.h>

struct Job {
  uint8_t address;
  uint8_t outCount, inCount;
  uint8_t out[6];
  uint8_t in[2];
};
