#pragma once
#define WORDS(text) (text)
inline char letterOf(const char* at) { return *at; }
