import type { FieldTypeName } from '../datagrams/field-type'
import type { DeviceDescription, SentValue } from './description'
import { fingerprintOf } from './fingerprint'
import { bytesOfSent, packetBytes } from './write-line'

const cppTypes: Readonly<Record<FieldTypeName, string>> = {
  ...{ u8: 'uint8_t', i8: 'int8_t', u16: 'uint16_t', i16: 'int16_t', u32: 'uint32_t', i32: 'int32_t' },
  ...{ u64: 'uint64_t', i64: 'int64_t', f32: 'float', f64: 'double' },
}

/** A text as C++ writes it. */
const quoted = (text: string): string => JSON.stringify(text)

/** So long a text of a line may be. */
const TEXT_ROOM = 33

const member = (s: SentValue, d: DeviceDescription): string => {
  const unit = s.unit ? `  // ${s.unit}` : ''
  if (d.form === 'line')
    return s.as === 'text'
      ? `  char ${s.name}[${TEXT_ROOM}] = "";${unit}`
      : `  float ${s.name} = NAN;${unit || '  // NAN while it is absent'}`
  return s.as === 'text'
    ? `  char ${s.name}[${bytesOfSent(s) + 1}] = "";${unit}`
    : `  ${cppTypes[s.as]} ${s.name} = 0;${unit}`
}

const head = (
  d: DeviceDescription,
  name: string,
): string => `// Reads what Clavik sends to “${name.replace(/[^\x20-\x7e]/g, '?')}”. Written for the description with the fingerprint ${fingerprintOf(d)}.
// It needs nothing but a compiler for C++11: give each byte that comes to reader.feed(), and look at reader.values whenever
// it returns true. Once at start, and whenever feed() has set otherDescription, send reader.hello() back, so that Clavik can
// say that the two ends no longer fit.
#pragma once
#include <math.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>

struct ClavikValues {
${d.send.map((s) => member(s, d)).join('\n')}
};

class ClavikReader {
 public:
  ClavikValues values;
  /** The other end writes by another description: nothing of it is taken. */
  bool otherDescription = false;
  /** What came damaged. */
  unsigned long bad = 0;

  static const char* hello() { return "?${fingerprintOf(d)}\\n"; }

`

const crcCode = `  static uint16_t crc(const uint8_t* bytes, size_t length) {
    uint16_t sum = 0xffff;
    for (size_t i = 0; i < length; i++) {
      sum ^= (uint16_t)bytes[i] << 8;
      for (int b = 0; b < 8; b++) sum = sum & 0x8000 ? (uint16_t)((sum << 1) ^ 0x1021) : (uint16_t)(sum << 1);
    }
    return sum;
  }
`
const xorCode = `  static uint16_t crc(const uint8_t* bytes, size_t length) {
    uint8_t sum = 0;
    for (size_t i = 0; i < length; i++) sum ^= bytes[i];
    return sum;
  }
`
const sumCode = `  static uint16_t crc(const uint8_t* bytes, size_t length) {
    uint8_t sum = 0;
    for (size_t i = 0; i < length; i++) sum = (uint8_t)(sum + bytes[i]);
    return sum;
  }
`
const codes = { none: '', xor: xorCode, sum: sumCode, 'crc-16': crcCode }

const lineReader = (d: DeviceDescription): string => {
  const longest =
    64 +
    d.send.reduce((n, s) => n + (s.as === 'text' ? TEXT_ROOM : 24) + (d.named ? s.name.length + 1 : 0), 0)
  const cases = d.send.map((s, i) => {
    const take =
      s.as === 'text'
        ? `strncpy(next.${s.name}, text, sizeof next.${s.name} - 1);`
        : `next.${s.name} = *text == 0 ? NAN : (float)atof(text);`
    return `      case ${i}: ${take} break;`
  })
  const names = d.named
    ? `    static const char* const names[] = {${d.send.map((s) => quoted(`${s.name}=`)).join(', ')}};
    const size_t length = strlen(names[index]);
    if (strncmp(text, names[index], length) != 0) return false;
    text += length;
`
    : ''
  const check =
    d.check === 'none'
      ? ''
      : `    char* star = strrchr(line, '*');
    if (star == nullptr) return fail();
    *star = 0;
    if (strtoul(star + 1, nullptr, 16) != crc((const uint8_t*)line, strlen(line)) || strlen(star + 1) != ${d.check === 'crc-16' ? 4 : 2}) return fail();
`
  const marked = d.marked
    ? `      if (index == 0 && !markSeen) {
        markSeen = true;
        otherDescription = strcmp(at, "${fingerprintOf(d)}") != 0;
        if (otherDescription) return false;
      } else`
    : '     '
  return `  bool feed(char c) {
    if (c == '\\n' || c == '\\r') {
      if (length == 0) return false;
      line[length] = 0;
      const bool fits = !tooLong;
      length = 0;
      tooLong = false;
      return fits ? take() : fail();
    }
    if (length + 1 < sizeof line) line[length++] = c;
    else tooLong = true;
    return false;
  }

 private:
  char line[${longest}];
  size_t length = 0;
  bool tooLong = false;

  bool fail() {
    bad++;
    return false;
  }
${codes[d.check]}
  static bool put(ClavikValues& next, int index, const char* text) {
${names}    switch (index) {
${cases.join('\n')}
      default: return false;
    }
    return true;
  }

  bool take() {
${check}    static const char begins[] = ${quoted(d.begins)};
    static const char separator[] = ${quoted(d.separator)};
    if (strncmp(line, begins, sizeof begins - 1) != 0) return fail();
    ClavikValues next;
    int index = 0;
${d.marked ? '    bool markSeen = false;\n' : ''}    for (char* at = line + sizeof begins - 1; at != nullptr;) {
      char* end = strstr(at, separator);
      if (end != nullptr) *end = 0;
${marked} if (!put(next, index++, at)) return fail();
      at = end == nullptr ? nullptr : end + sizeof separator - 1;
    }
    if (index != ${d.send.length}) return fail();
    values = next;
    return true;
  }
};
`
}

const packetReader = (d: DeviceDescription): string => {
  const size = packetBytes(d) + (d.marked ? 2 : 0)
  const tail = d.check === 'none' ? 0 : d.check === 'crc-16' ? 2 : 1
  let at = 2 + (d.marked ? 2 : 0)
  const takes = d.send.map((s) => {
    const from = at
    at += bytesOfSent(s)
    return s.as === 'text'
      ? `    memcpy(values.${s.name}, bytes + ${from}, ${bytesOfSent(s)});`
      : `    memcpy(&values.${s.name}, bytes + ${from}, sizeof values.${s.name});`
  })
  const told = tail === 2 ? `(uint16_t)(bytes[${2 + size}] | bytes[${3 + size}] << 8)` : `bytes[${2 + size}]`
  return `  bool feed(uint8_t b) {
    bytes[length++] = b;
    bool taken = false;
    // What does not hold is looked through for another beginning, so that a lost byte costs one packet and no more.
    while (length > 0) {
      if (bytes[0] != 0xa5 || (length > 1 && bytes[1] != ${size & 255})) drop(1);
      else if (length < ${2 + size + tail}) break;
      else if (${tail === 0 ? 'true' : `crc(bytes, ${2 + size}) == ${told}`}) {
        taken = take();
        drop(${2 + size + tail});
      } else {
        bad++;
        drop(1);
      }
    }
    return taken;
  }

 private:
  uint8_t bytes[${2 + size + tail}];
  size_t length = 0;

  void drop(size_t count) {
    length -= count;
    memmove(bytes, bytes + count, length);
  }
${codes[d.check]}
  // The chip keeps its numbers with the low byte first, as the packet does; all that this is made for do.
  bool take() {
${d.marked ? `    otherDescription = (bytes[2] << 8 | bytes[3]) != 0x${fingerprintOf(d)};\n    if (otherDescription) return false;\n` : ''}${takes.join('\n')}
    return true;
  }
};
`
}

/** The reading side in C++, ready to be put into a program. */
export const cppSketch = (d: DeviceDescription, name: string): string =>
  head(d, name) + (d.form === 'line' ? lineReader(d) : packetReader(d))
