// Words and tables stay in the program's own memory: there is little of any other.
#pragma once
#include <avr/pgmspace.h>
#define WORDS(text) PSTR(text)
#define STAYS PROGMEM
inline char letterOf(const char* at) { return static_cast<char>(pgm_read_byte(at)); }
inline uint8_t fixed8(const uint8_t* at) { return pgm_read_byte(at); }
inline uint16_t fixed16(const uint16_t* at) { return pgm_read_word(at); }
