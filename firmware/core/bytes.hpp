// Numbers in bytes, little-endian, and checksums.
#pragma once
#include <stdint.h>

inline uint16_t get16(const uint8_t* p) { return static_cast<uint16_t>(p[0] | (p[1] << 8)); }
inline uint32_t get32(const uint8_t* p) { return get16(p) | (static_cast<uint32_t>(get16(p + 2)) << 16); }
inline void put16(uint8_t* p, uint16_t n) {
  p[0] = static_cast<uint8_t>(n);
  p[1] = static_cast<uint8_t>(n >> 8);
}
inline void put32(uint8_t* p, uint32_t n) {
  put16(p, static_cast<uint16_t>(n));
  put16(p + 2, static_cast<uint16_t>(n >> 16));
}

/** CRC-16/IBM-3740: polynomial 0x1021, start 0xFFFF; one byte on. */
inline uint16_t crc16(uint16_t crc, uint8_t byte) {
  // Eight steps at once: the divisor has bits 0, 5 and 12, and what those put back reaches the upper half but once.
  uint8_t x = static_cast<uint8_t>((crc >> 8) ^ byte);
  x = static_cast<uint8_t>(x ^ (x >> 4));
  const uint8_t high = static_cast<uint8_t>(crc ^ (x << 4) ^ (x >> 3));
  const uint8_t low = static_cast<uint8_t>(x ^ (x << 5));
  return static_cast<uint16_t>((high << 8) | low);
}

/** FNV-1a of one byte more, 32 bit. */
inline uint32_t fnv32(uint32_t hash, uint8_t byte) { return (hash ^ byte) * 0x01000193UL; }
constexpr uint32_t FNV32_BEGIN = 0x811c9dc5UL;

/** FNV-1a of one byte more, 64 bit. */
inline uint64_t fnv64(uint64_t hash, uint8_t byte) { return (hash ^ byte) * 0x100000001b3ULL; }
constexpr uint64_t FNV64_BEGIN = 0xcbf29ce484222325ULL;
