#pragma once
#include <stdint.h>
#define WORDS(text) (text)
#define STAYS
inline char letterOf(const char* at) { return *at; }
inline uint8_t fixed8(const uint8_t* at) { return *at; }
inline uint16_t fixed16(const uint16_t* at) { return *at; }
