// Sends the program damaged bytes for as long as it is told: sound frames of every kind, spoiled here and there, and
// configurations that are none, over the line and in the memory it wakes up with. Usage: fuzz BYTES [SEED]
#include <cstdio>
#include <cstdlib>
#include <new>
#include "../../core/board.hpp"
#include "host.hpp"

namespace {

uint32_t state = 1;
uint32_t next() {
  state ^= state << 13;
  state ^= state >> 17;
  state ^= state << 5;
  return state;
}
bool oneIn(uint32_t n) { return next() % n == 0; }

using Program = Board<host::Room>;
alignas(Program) unsigned char memory[sizeof(Program)];

/** A configuration that might be one: right in its beginning, mostly right behind. */
uint8_t configuration(uint8_t* to) {
  uint8_t at = 0;
  to[at++] = oneIn(20) ? static_cast<uint8_t>(next()) : CONFIGURATION_VERSION;
  const uint8_t chips = static_cast<uint8_t>(next() % (oneIn(6) ? 7 : 3));
  to[at++] = chips;
  for (uint8_t i = 0; i < chips; i++) {
    const uint8_t kind = static_cast<uint8_t>(1 + next() % (oneIn(8) ? 9 : 7));
    const bool isChain = kind == HC165 || kind == HC595 || kind == TLC5940;
    to[at++] = kind;
    to[at++] = static_cast<uint8_t>(!isChain && !oneIn(8) ? 1 : 1 + next() % (oneIn(8) ? 255 : 8));
    to[at++] = isOnBus(kind) ? static_cast<uint8_t>(0x20 + next() % 8) : 0;
    const uint8_t pins = oneIn(10) ? static_cast<uint8_t>(next() % 6) : pinsOfChip(kind);
    to[at++] = pins;
    for (uint8_t p = 0; p < pins; p++)
      to[at++] = isOnBus(kind) && !oneIn(10) ? static_cast<uint8_t>(18 + p)
                 : kind == TLC5940 && p == 4 ? 3
                                             : static_cast<uint8_t>(next() % (oneIn(10) ? 256 : 20));
  }
  // Sometimes as many lamps as there is room for, or a few more.
  if (oneIn(15)) {
    const uint8_t lamps = static_cast<uint8_t>(80 + next() % 40);
    to[at++] = lamps;
    for (uint8_t i = 0; i < lamps && at < 254; i++) {
      to[at++] = LAMP;
      to[at++] = static_cast<uint8_t>(next() % 20);
    }
    return at;
  }
  const uint8_t slots = static_cast<uint8_t>(next() % 6);
  to[at++] = slots;
  for (uint8_t i = 0; i < slots; i++) {
    const uint8_t kind = static_cast<uint8_t>(1 + next() % (oneIn(8) ? 15 : 8));
    const uint8_t flags = static_cast<uint8_t>(next() & 0xf0);
    to[at++] = static_cast<uint8_t>(kind | flags);
    const auto place = [&] {
      // A channel of one of the first chips, or a pin.
      if (chips > 0 && oneIn(3)) {
        to[at++] = static_cast<uint8_t>(0x80 | (next() & 15));
        to[at++] = static_cast<uint8_t>(2 + 2 * (next() % chips));
      } else to[at++] = static_cast<uint8_t>(next() % (oneIn(10) ? 256 : 20));
    };
    const auto few = [&](uint8_t most) { to[at++] = static_cast<uint8_t>(next() % (oneIn(10) ? 256 : most)); };
    const auto places = [&](uint8_t count) {
      to[at++] = count;
      for (uint8_t k = 0; k < count; k++) place();
    };
    switch (kind) {
      case CONTACTS:
        places(static_cast<uint8_t>(1 + next() % 4));
        few(20);
        break;
      case ENCODER:
        place();
        place();
        break;
      case DIGITS:
        places(flags & TWO_LINES ? 2 : 3);
        few(9);
        break;
      case TEXT: {
        const uint8_t address = oneIn(2) ? 0x27 : 0;
        places(address ? 2 : 6);
        few(21);
        few(5);
        to[at++] = address;
        break;
      }
      case NEEDLE:
        places(flags & (SERVO | PULSES) ? 1 : 4);
        few(120);
        few(120);
        if ((flags & (KEEPS | RESTS)) == RESTS) few(100);
        break;
      case COLOUR:
        place();
        few(20);
        break;
      default:
        place();
        few(9);
    }
  }
  return at;
}

uint8_t loaded[256];
uint8_t loadedLength = 0;
uint64_t print = 0;

/** What is to be loaded next. */
void choose() {
  loadedLength = configuration(loaded);
  print = FNV64_BEGIN;
  for (uint8_t i = 0; i < loadedLength; i++) print = fnv64(print, loaded[i]);
}

/** A frame with this body, stuffed, and spoiled now and then. */
uint16_t travelling(uint8_t* body, uint16_t length, uint8_t* to) {
  uint16_t crc = 0xffff;
  for (uint16_t i = 0; i < length; i++) crc = crc16(crc, body[i]);
  put16(body + length, crc);
  length = static_cast<uint16_t>(length + 2);
  uint16_t out = 0;
  for (uint16_t at = 0; at <= length;) {
    uint16_t end = at;
    while (end < length && body[end] != 0) end++;
    to[out++] = static_cast<uint8_t>(end - at + 1);
    while (at < end) to[out++] = body[at++];
    at++;
  }
  to[out++] = 0;
  for (uint16_t i = 0; i < out; i++)
    if (oneIn(600)) to[i] = static_cast<uint8_t>(next());
  return out;
}

/** One message as a computer would say it, or nearly so. */
uint16_t message(uint8_t* body, uint8_t type, uint16_t offset) {
  uint16_t length = 3;
  if (type == 4) {
    put16(body + 3, oneIn(12) ? static_cast<uint16_t>(next()) : loadedLength);
    for (uint8_t i = 0; i < 8; i++) body[5 + i] = static_cast<uint8_t>(print >> (56 - 8 * i));
    length = 13;
  } else if (type == 5) {
    put16(body + 3, oneIn(12) ? static_cast<uint16_t>(next()) : offset);
    length = 5;
    const uint8_t most = oneIn(12) ? static_cast<uint8_t>(next() % 86) : 48;
    for (uint8_t i = 0; i < most && offset + i < loadedLength; i++) body[length++] = loaded[offset + i];
  } else if (type == 6) {
    for (uint8_t i = 0; i < 8; i++) body[3 + i] = static_cast<uint8_t>(print >> (56 - 8 * i));
    length = 11;
  } else {
    const uint8_t usual = static_cast<uint8_t>(type == 3 ? 8 : type == 8 ? 6 : type == 9 ? 3 + next() % 20 : type == 1 || type == 2 ? 0 : 2);
    const uint8_t payload = oneIn(4) ? static_cast<uint8_t>(next() % 90) : usual;
    for (uint8_t i = 0; i < payload; i++) body[length++] = static_cast<uint8_t>(next() % (oneIn(2) ? 4 : 256));
  }
  body[0] = oneIn(60) ? static_cast<uint8_t>(next()) : LINK_VERSION;
  body[1] = type;
  return length;
}

}  // namespace

int main(int count, char** arguments) {
  const unsigned long most = count > 1 ? strtoul(arguments[1], nullptr, 10) : 1000000UL;
  state = count > 2 ? static_cast<uint32_t>(strtoul(arguments[2], nullptr, 10)) : 1;
  uint32_t now = 0;
  unsigned long sent = 0;
  unsigned long starts = 0;
  while (sent < most) {
    // Power comes on, now and then with a memory that something else has written.
    if (oneIn(6))
      for (uint16_t i = 0; i < host::KEPT_BYTES; i++)
        if (oneIn(3)) host::kept[i] = static_cast<uint8_t>(next());
    Program* program = new (memory) Program();
    // Its time begins with it; now and then shortly before its microseconds come round.
    now = oneIn(500) ? 0xffffffff - next() % 4000000 : 0;
    program->begin(now);
    starts++;
    uint8_t sequence = 0;
    const auto say = [&](uint8_t type, uint16_t offset) {
      uint8_t body[320];
      uint8_t bytes[700];
      const uint16_t length = message(body, type, offset);
      body[2] = oneIn(30) ? sequence : ++sequence;
      const uint16_t count = travelling(body, length, bytes);
      for (uint16_t i = 0; i < count; i++) program->receive(bytes[i], now);
      sent += count;
      for (uint8_t turns = static_cast<uint8_t>(next() % 4); turns > 0; turns--) {
        host::low[next() % host::PINS] ^= 1;
        now += next() % (oneIn(30) ? 2000000 : 3000);
        program->step(now);
      }
    };
    for (uint8_t acts = static_cast<uint8_t>(10 + next() % 60); acts > 0; acts--) {
      if (!oneIn(6)) {
        say(static_cast<uint8_t>(1 + next() % (oneIn(12) ? 255 : 10)), static_cast<uint16_t>(next() % 300));
        continue;
      }
      // A whole load, as it is meant; what is spoiled on the way spoils it.
      choose();
      say(4, 0);
      for (uint16_t offset = 0; offset < loadedLength; offset = static_cast<uint16_t>(offset + 48)) {
        say(5, offset);
        // A turn writes one byte.
        for (uint8_t turns = oneIn(20) ? 7 : 48; turns > 0; turns--) program->step(now);
      }
      say(6, 0);
      say(2, 0);
    }
    program->~Program();
  }
  printf("%lu bytes in %lu starts, %lu said\n", sent, starts, static_cast<unsigned long>(host::said));
  return 0;
}
