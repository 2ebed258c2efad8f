// Words stay in the program's own memory: there is little of any other.
#pragma once
#include <avr/pgmspace.h>
#define WORDS(text) PSTR(text)
inline char letterOf(const char* at) { return static_cast<char>(pgm_read_byte(at)); }
