// The board's program: what it says and hears, what it watches and drives. It knows no register and no clock; bytes, the
// passing of time in microseconds and the functions of hardware.hpp are all there is.
#pragma once
#include <stdint.h>
#include "chains.hpp"
#include "configuration.hpp"
#include "line.hpp"
#include "store.hpp"
// Where the words of this chip are kept.
#include <words.hpp>

/** What a chip has room for. */
template <typename Chip>
class Board {
 public:
  /** Power came on. */
  void begin(uint32_t now) {
    store_.begin();
    install(now);
    heardAt_ = now;
    resting_ = false;
    line_.begin();
    sayHello();
  }

  void receive(uint8_t byte, uint32_t now) {
    Frame frame;
    if (!line_.take(byte, frame)) return;
    heardAt_ = now;
    obey(frame, now);
  }

  /** Lets time pass. Called as often as the chip can. */
  void step(uint32_t now) {
    passTime(now);
    writeOn();
    chains_.scan();
    const bool isDue = (owesWord_ && now - toldAt_ >= CONFIRM_US) || now - heartbeatAt_ >= HEARTBEAT_US;
    const bool hasRoom = hardware::room() >= HEARTBEAT_BYTES;
    // Nothing in a turn waits for the line: what has no room now has it in one of the next.
    watch(now, !isDue);
    light(now);
    chains_.send();
    if (isDue && hasRoom) sayHeartbeat(now);
  }

 private:
  static constexpr uint32_t SILENCE_US = 1500000;
  static constexpr uint32_t HEARTBEAT_US = 250000;
  static constexpr uint32_t CONFIRM_US = 40000;
  static constexpr uint32_t LATE_US = 100000;
  static constexpr uint8_t INPUTS_A_FRAME = 13;
  /** A frame of reports without any: head, time, number, checksum, stuffing. */
  static constexpr uint8_t REPORT_BYTES = 13;
  static constexpr uint8_t HEARTBEAT_BYTES = 25;
  static constexpr uint8_t PIECE_BYTES = 48;
  static constexpr uint8_t RING = 32;
  static constexpr uint8_t BODY_BYTES = 72;
  static constexpr uint8_t MOST_PAYLOAD = BODY_BYTES - HEADER_BYTES - CRC_BYTES;
  static constexpr uint16_t FULL = 1023;
  static constexpr uint16_t STEP = 4;
  static constexpr uint16_t PAUSE_MS = 20;

  enum Flag : uint8_t { TOLD = 1, KNOWN = 2, SEEN = 4 };

  /** One slot as it runs. What its three numbers mean is its kind's business. */
  struct Slot {
    /** Where its settings begin in what is kept, behind its first byte. */
    uint16_t at = 0;
    uint8_t head;
    uint8_t flags;
    uint16_t a, b, c;
    uint8_t kind() const { return head & 15; }
  };

  void passTime(uint32_t now) {
    while (now - msAt_ >= 1000) {
      msAt_ += 1000;
      ms_++;
    }
  }

  // --- what it holds --------------------------------------------------------------------------------------------

  /** Begins with what it holds. Counts and numbers begin anew. */
  void install(uint32_t now) {
    for (uint8_t i = 0; i < count_; i++) letGo(slots_[i]);
    chains_.clear();
    count_ = 0;
    started_ = false;
    loading_ = false;
    pieceLeft_ = 0;
    next_ = 0;
    ringCount_ = 0;
    shown_ = 0;
    inputs_ = 0;
    fingerprint_ = printOf();
    uint16_t at = 0;
    uint16_t slots = 0;
    if (store_.length() == 0 || objection(store_, at, slots) != nullptr) return;
    readChips();
    Reader<Store<Chip::KEPT_BYTES>> r(store_, at);
    for (uint16_t i = 0; i < slots; i++) {
      const uint8_t head = r.byte();
      Slot& slot = slots_[count_++];
      slot = Slot{r.at(), head, 0, 0, 0, 0};
      passSlot(r, head, Chip::PINS);
      prepare(slot);
    }
    (void)now;
  }

  uint64_t printOf() const {
    if (store_.length() == 0) return 0;
    uint64_t print = FNV64_BEGIN;
    for (uint16_t i = 0; i < store_.length(); i++) print = fnv64(print, store_.at(i));
    return print;
  }

  /** Why a configuration cannot be held, or null; where its slots begin, and how many there are. */
  template <typename Source>
  static const char* objection(const Source& source, uint16_t& at, uint16_t& slots) {
    Reader<Source> r(source, 0);
    if (r.byte() != CONFIGURATION_VERSION) return WORDS("configuration version is not known");
    uint8_t chips = r.byte();
    if (chips > Chip::CHAINS) return WORDS("more chips than this board can drive");
    for (; chips > 0; chips--) {
      const uint8_t kind = r.byte();
      const uint8_t chain = r.byte();
      r.byte();
      const uint8_t pins = r.byte();
      const uint8_t wanted = pinsOfChip(kind);
      if (wanted == 0) return WORDS("this program has no driver for one of the chips");
      if (pins != wanted || chain == 0 || chain > (kind == SELECTOR ? 1 : MOST_CHAIN)) return WORDS("a chain of chips does not fit");
      for (uint8_t i = 0; i < pins; i++)
        if (r.byte() >= Chip::PINS) return WORDS("a pin that this board has not");
    }
    slots = r.number();
    at = r.at();
    if (slots > Chip::SLOTS) return WORDS("more slots than this board can hold");
    for (uint16_t i = 0; i < slots; i++) {
      const uint8_t head = r.byte();
      switch (passSlot(r, head, Chip::PINS)) {
        case Passed::WELL:
          break;
        case Passed::UNKNOWN:
          return WORDS("this program does not know one of the slots");
        case Passed::NO_SUCH_PIN:
          return WORDS("a pin that this board has not");
        case Passed::OVER:
          return WORDS("the configuration ends too early");
      }
    }
    return r.over() ? WORDS("the configuration ends too early") : nullptr;
  }

  void readChips() {
    Reader<Store<Chip::KEPT_BYTES>> r(store_, 1);
    for (uint8_t chips = r.byte(); chips > 0; chips--) {
      const uint8_t kind = r.byte();
      const uint8_t chain = r.byte();
      r.byte();
      const uint8_t count = r.byte();
      uint8_t pins[SELECTOR_PINS];
      for (uint8_t i = 0; i < count; i++) pins[i] = r.byte();
      chains_.add(kind, chain, pins);
    }
  }

  /** Makes the pins of a slot what it needs. */
  void prepare(Slot& slot) {
    Reader<Store<Chip::KEPT_BYTES>> r(store_, slot.at);
    switch (slot.kind()) {
      case CONTACTS:
        for (uint16_t left = r.number(); left > 0; left--) pullUp(r.number());
        break;
      case ENCODER:
        pullUp(r.number());
        pullUp(r.number());
        break;
      case LAMP:
        slot.a = 0;
        slot.b = 0xffff;
        break;
      default:
        break;
    }
  }

  static void pullUp(uint16_t place) {
    if (place < CHANNELS_FROM) hardware::pullUp(static_cast<uint8_t>(place));
  }

  /** What a slot drove is nobody's any more. */
  void letGo(const Slot& slot) {
    Reader<Store<Chip::KEPT_BYTES>> r(store_, slot.at);
    if (slot.kind() != LAMP) return;
    (void)r;
    if (slot.c < CHANNELS_FROM) hardware::release(static_cast<uint8_t>(slot.c));
  }

  // --- what it says ---------------------------------------------------------------------------------------------

  void say(uint8_t type, uint8_t payload) {
    line_.say(type, body_, payload, [](uint8_t byte) { hardware::send(byte); });
  }

  uint8_t* payload() { return body_ + HEADER_BYTES; }

  void sayHello() {
    uint8_t* p = payload();
    for (uint8_t i = 0; i < 8; i++) p[i] = store_.identity(i);
    // Most significant byte first, as it is written out.
    for (uint8_t i = 0; i < 8; i++) p[8 + i] = static_cast<uint8_t>(fingerprint_ >> (56 - 8 * i));
    put16(p + 16, store_.length());
    put16(p + 18, store_.starts());
    put16(p + 20, Chip::FRAME_BYTES);
    put16(p + 22, Store<Chip::KEPT_BYTES>::MOST_BYTES);
    put16(p + 24, Chip::SLOTS);
    put32(p + 26, Chip::BYTES_A_SECOND);
    uint8_t end = 30;
    for (const char* c = hardware::model; *c != 0 && end < MOST_PAYLOAD; c++)
      p[end++] = static_cast<uint8_t>(*c);
    say(0x81, end);
  }

  void answer(uint8_t to, const char* problem) {
    uint8_t* p = payload();
    p[0] = to;
    p[1] = problem == nullptr ? 0 : 1;
    uint8_t end = 2;
    for (const char* c = problem; c != nullptr && letterOf(c) != 0 && end < MOST_PAYLOAD; c++)
      p[end++] = static_cast<uint8_t>(letterOf(c));
    say(0x83, end);
  }

  void sayHeartbeat(uint32_t now) {
    heartbeatAt_ = now;
    owesWord_ = false;
    uint8_t* p = payload();
    put32(p, now);
    put16(p + 4, store_.starts());
    p[6] = static_cast<uint8_t>((started_ ? 1 : 0) | (resting_ ? 2 : 0));
    p[7] = rests_;
    p[8] = line_.heard();
    put16(p + 9, line_.bad());
    put16(p + 11, next_);
    put32(p + 13, shown_);
    say(0x85, 17);
  }

  // --- what it hears --------------------------------------------------------------------------------------------

  void obey(const Frame& f, uint32_t now) {
    const uint8_t* p = f.payload;
    switch (f.type) {
      case 0x01:
        if (f.length != 0) break;
        sayHello();
        return;
      case 0x02:
        if (f.length != 0) break;
        started_ = true;
        forgetShown();
        sayAll(now);
        return;
      case 0x03:
        if (f.length % 4 != 0) break;
        for (uint16_t i = 0; i < f.length; i = static_cast<uint16_t>(i + 4)) takeState(get16(p + i), get16(p + i + 2));
        told(now);
        return;
      case 0x04:
        if (f.length != 10) break;
        beginLoad(f.sequence, get16(p), p + 2);
        return;
      case 0x05:
        if (f.length < 2 || f.length > 2 + PIECE_BYTES) break;
        takePiece(f.sequence, get16(p), p + 2, static_cast<uint8_t>(f.length - 2));
        return;
      case 0x06:
        if (f.length != 8) break;
        commit(f.sequence, p, now);
        return;
      case 0x07:
        if (f.length != 2) break;
        sayPiece(get16(p));
        return;
      case 0x08:
        if (f.length != 6) break;
        compare(get16(p), get32(p + 2), now);
        return;
      case 0x09:
        // Rows of displays: nothing that this program drives has any, so none is taken, and none counted.
        if (f.length < 3) break;
        told(now);
        return;
      case 0x0a:
        if (f.length != 2) break;
        sayAgain(get16(p), now);
        return;
      default:
        break;
    }
    line_.dropped();
  }

  void told(uint32_t now) {
    if (!owesWord_) toldAt_ = now;
    owesWord_ = true;
  }

  // --- loading --------------------------------------------------------------------------------------------------

  static uint64_t printAt(const uint8_t* p) {
    uint64_t print = 0;
    for (uint8_t i = 0; i < 8; i++) print = (print << 8) | p[i];
    return print;
  }

  void beginLoad(uint8_t sequence, uint16_t length, const uint8_t* print) {
    if (length > Store<Chip::KEPT_BYTES>::MOST_BYTES) {
      answer(sequence, WORDS("more bytes than this board can hold"));
      return;
    }
    loading_ = true;
    loadLength_ = length;
    loadPrint_ = printAt(print);
    answer(sequence, nullptr);
  }

  /** Takes a piece; it is written byte by byte in turns of its own, and answered when the last is in. */
  void takePiece(uint8_t sequence, uint16_t offset, const uint8_t* bytes, uint8_t count) {
    if (!loading_) {
      answer(sequence, WORDS("nothing is being loaded"));
      return;
    }
    if (pieceLeft_ > 0) return;
    if (offset > loadLength_ || count > loadLength_ - offset) {
      answer(sequence, WORDS("a piece beyond the end"));
      return;
    }
    for (uint8_t i = 0; i < count; i++) piece_[i] = bytes[i];
    pieceAt_ = offset;
    pieceCount_ = count;
    pieceLeft_ = count;
    pieceFrom_ = sequence;
    if (count == 0) answer(sequence, nullptr);
  }

  void writeOn() {
    while (pieceLeft_ > 0 && hardware::keepsNow()) {
      const uint8_t i = static_cast<uint8_t>(pieceCount_ - pieceLeft_);
      const uint16_t at = store_.loadAt(static_cast<uint16_t>(pieceAt_ + i));
      const bool isNew = hardware::kept(at) != piece_[i];
      if (isNew) hardware::keep(at, piece_[i]);
      if (--pieceLeft_ == 0) answer(pieceFrom_, nullptr);
      if (isNew) return;
    }
  }

  /** What is being loaded, as something that can be read. */
  struct Loaded {
    const Store<Chip::KEPT_BYTES>& store;
    uint16_t count;
    uint16_t length() const { return count; }
    uint8_t at(uint16_t i) const { return i < count ? store.loaded(i) : 0xff; }
  };

  void commit(uint8_t sequence, const uint8_t* print, uint32_t now) {
    // Said twice, because the first answer was lost.
    if (!loading_ && printAt(print) == fingerprint_) {
      answer(sequence, nullptr);
      return;
    }
    if (!loading_) {
      answer(sequence, WORDS("nothing is being loaded"));
      return;
    }
    loading_ = false;
    while (!hardware::keepsNow()) {
    }
    const Loaded loaded{store_, loadLength_};
    uint64_t found = FNV64_BEGIN;
    for (uint16_t i = 0; i < loadLength_; i++) found = fnv64(found, loaded.at(i));
    if (found != loadPrint_ || printAt(print) != loadPrint_) {
      answer(sequence, WORDS("the pieces do not match the fingerprint; the old configuration stays"));
      return;
    }
    uint16_t at = 0;
    uint16_t slots = 0;
    const char* problem = objection(loaded, at, slots);
    if (problem == nullptr) {
      for (uint8_t i = 0; i < count_; i++) letGo(slots_[i]);
      count_ = 0;
      store_.commit(loadLength_);
      store_.countStart();
      install(now);
    }
    answer(sequence, problem);
  }

  void sayPiece(uint16_t offset) {
    uint8_t* p = payload();
    put16(p, offset);
    put16(p + 2, store_.length());
    uint8_t count = 0;
    for (; count < PIECE_BYTES && offset + count < store_.length(); count++)
      p[4 + count] = store_.at(static_cast<uint16_t>(offset + count));
    say(0x84, static_cast<uint8_t>(4 + count));
  }

  // --- what it watches ------------------------------------------------------------------------------------------

  bool isClosed(uint16_t place) const {
    return place < CHANNELS_FROM ? hardware::isLow(static_cast<uint8_t>(place)) : chains_.isClosed(place);
  }

  /** What an input stands at now, once it has settled; `all` takes it as it is. True when there is something to tell. */
  bool look(Slot& slot, bool all) {
    Reader<Store<Chip::KEPT_BYTES>> r(store_, slot.at);
    const uint16_t ms = static_cast<uint16_t>(ms_);
    switch (slot.kind()) {
      case CONTACTS: {
        uint16_t bits = 0;
        const uint16_t count = r.number();
        for (uint16_t k = 0; k < count; k++)
          if (isClosed(r.number())) bits = static_cast<uint16_t>(bits | (1u << k));
        if (bits != slot.a || !(slot.flags & SEEN)) {
          slot.a = bits;
          slot.c = ms;
          slot.flags |= SEEN;
        }
        const bool settled = all || static_cast<uint16_t>(ms - slot.c) >= r.byte();
        if (!all && (!settled || ((slot.flags & KNOWN) && slot.b == bits))) return false;
        slot.b = bits;
        return true;
      }
      case ENCODER: {
        const bool a = isClosed(r.number());
        const bool b = isClosed(r.number());
        const uint8_t state = static_cast<uint8_t>((a ? 2 : 0) | (b ? 1 : 0));
        if (slot.flags & SEEN) slot.a = static_cast<uint16_t>(slot.a + turned(static_cast<uint8_t>(slot.c), state));
        slot.c = state;
        slot.flags |= SEEN;
        if (!all && (slot.flags & KNOWN) && slot.b == slot.a) return false;
        slot.b = slot.a;
        return true;
      }
      case ANALOG: {
        const uint16_t place = r.number();
        const uint8_t smoothing = r.byte();
        return lookAnalog(slot, place, smoothing, ms, all);
      }
      default:
        return false;
    }
  }

  /** Which way two contacts a quarter apart have gone; a jump over a state counts nothing. */
  static int8_t turned(uint8_t before, uint8_t now) {
    // 0, -1, 1, 0, 1, 0, 0, -1, -1, 0, 0, 1, 0, 1, -1, 0 by state before and after, two bits each and one more than that.
    const uint32_t table = 0x49941661UL;
    return static_cast<int8_t>(((table >> (2 * (((before & 3) << 2) | now))) & 3) - 1);
  }

  bool lookAnalog(Slot& slot, uint16_t place, uint8_t smoothing, uint16_t ms, bool all) {
    // A sample a millisecond: smoothing goes by time, and a converter takes a tenth of it.
    if (!all && (slot.flags & SEEN) && static_cast<uint8_t>(ms) == lastMs_) return false;
    const uint16_t level =
        place < CHANNELS_FROM ? hardware::analog(static_cast<uint8_t>(place)) : chains_.levelOf(place);
    const uint16_t raw = static_cast<uint16_t>(level << 6);
    if (!(slot.flags & SEEN)) slot.a = raw;
    else slot.a = static_cast<uint16_t>(slot.a + ((static_cast<int32_t>(raw) - slot.a) >> smoothing));
    slot.flags |= SEEN;
    uint16_t near = static_cast<uint16_t>((slot.a + 32) >> 6);
    if (near > FULL) near = FULL;
    if (near < STEP) near = 0;
    else if (near > FULL - STEP) near = FULL;
    const uint16_t by = near > slot.b ? near - slot.b : slot.b - near;
    const bool moved = !(slot.flags & KNOWN) || by >= STEP || (by > 0 && (near == 0 || near == FULL));
    if (!all && (!moved || static_cast<uint16_t>(ms - slot.c) < PAUSE_MS)) return false;
    slot.b = near;
    slot.c = ms;
    return true;
  }

  static bool isInput(const Slot& slot) { return slot.kind() != LAMP; }

  static uint32_t hashOf(uint16_t slot, uint16_t state) {
    uint32_t hash = fnv32(fnv32(fnv32(FNV32_BEGIN, static_cast<uint8_t>(slot)), static_cast<uint8_t>(slot >> 8)), 0);
    return fnv32(fnv32(hash, static_cast<uint8_t>(state)), static_cast<uint8_t>(state >> 8));
  }

  /**
   * Looks at every input in every turn, so that no step of an encoder is missed, and tells as many as the line takes now:
   * what finds no room is told next time, as it is then.
   */
  void watch(uint32_t now, bool mayTell) {
    if (!started_) return;
    uint8_t* p = payload();
    const uint16_t from = next_;
    const uint8_t room = hardware::room();
    const uint8_t most = !mayTell || room < REPORT_BYTES ? 0 : static_cast<uint8_t>((room - REPORT_BYTES) / 4);
    uint8_t found = 0;
    for (uint8_t i = 0; i < count_; i++) {
      Slot& slot = slots_[i];
      if (!isInput(slot)) continue;
      const bool wasKnown = slot.flags & KNOWN;
      const uint16_t before = slot.b;
      if (!look(slot, false)) continue;
      if (found >= most) {
        slot.b = before;
        continue;
      }
      if (wasKnown) inputs_ -= hashOf(i, before);
      inputs_ += hashOf(i, slot.b);
      slot.flags |= KNOWN;
      remember(i, slot.b);
      put16(p + 6 + 4 * found, i);
      put16(p + 8 + 4 * found, slot.b);
      found++;
    }
    lastMs_ = static_cast<uint8_t>(ms_);
    if (found == 0) return;
    reportedAt_ = now;
    put32(p, now);
    put16(p + 4, from);
    say(0x82, static_cast<uint8_t>(6 + 4 * found));
  }

  void remember(uint8_t slot, uint16_t value) {
    ring_[next_ % RING] = Report{slot, value};
    next_++;
    if (ringCount_ < RING) ringCount_++;
  }

  /** Says where every input stands. */
  void sayAll(uint32_t now) {
    uint8_t* p = payload();
    uint8_t found = 0;
    bool said = false;
    inputs_ = 0;
    for (uint8_t i = 0; i < count_; i++) {
      Slot& slot = slots_[i];
      if (!isInput(slot)) continue;
      look(slot, true);
      slot.flags |= KNOWN;
      inputs_ += hashOf(i, slot.b);
      put16(p + 6 + 4 * found, i);
      put16(p + 8 + 4 * found, slot.b);
      if (++found < INPUTS_A_FRAME) continue;
      put32(p, now);
      put16(p + 4, next_);
      say(0x86, static_cast<uint8_t>(6 + 4 * found));
      found = 0;
      said = true;
    }
    // One frame at least, so that the computer knows the number also where there are no inputs.
    if (found == 0 && said) return;
    put32(p, now);
    put16(p + 4, next_);
    say(0x86, static_cast<uint8_t>(6 + 4 * found));
  }

  void sayAgain(uint16_t from, uint32_t now) {
    if (!started_) return;
    const uint16_t missing = static_cast<uint16_t>(next_ - from);
    if (missing > ringCount_) {
      sayAll(now);
      return;
    }
    uint8_t* p = payload();
    for (uint16_t at = from;;) {
      uint8_t found = 0;
      const uint16_t first = at;
      for (; at != next_ && found < INPUTS_A_FRAME; at++, found++) {
        put16(p + 6 + 4 * found, ring_[at % RING].slot);
        put16(p + 8 + 4 * found, ring_[at % RING].value);
      }
      if (found == 0) return;
      put32(p, now);
      put16(p + 4, first);
      say(0x82, static_cast<uint8_t>(6 + 4 * found));
    }
  }

  /** What the computer knows of the inputs, against what they are. */
  void compare(uint16_t next, uint32_t digest, uint32_t now) {
    if (!started_) return;
    if (next != next_) {
      // What was said a moment ago may still be on its way.
      if (now - reportedAt_ > LATE_US) sayAgain(next, now);
    } else if (digest != inputs_) sayAll(now);
  }

  // --- what it drives -------------------------------------------------------------------------------------------

  void forgetShown() {
    shown_ = 0;
    for (uint8_t i = 0; i < count_; i++) slots_[i].flags &= static_cast<uint8_t>(~TOLD);
  }

  void takeState(uint16_t number, uint16_t state) {
    if (number >= count_ || slots_[number].kind() != LAMP) return;
    Slot& slot = slots_[number];
    if (slot.flags & TOLD) shown_ -= hashOf(number, slot.a);
    slot.a = state;
    slot.flags |= TOLD;
    shown_ += hashOf(number, state);
  }

  /** Lights every lamp as it is to be now: told, or at rest, in the lit or the dark half of its blink. */
  void light(uint32_t now) {
    const bool alone = now - heardAt_ > SILENCE_US;
    if (alone && !resting_) {
      rests_++;
      forgetShown();
    }
    resting_ = alone;
    for (uint8_t i = 0; i < count_; i++) {
      Slot& slot = slots_[i];
      if (slot.kind() != LAMP) continue;
      if (alone && !(slot.head & KEEPS)) slot.a = restOf(slot);
      const uint16_t period = static_cast<uint16_t>((slot.a >> 8) * 20);
      const bool dark = period > 0 && ms_ % period >= period / 2;
      const uint16_t level = dark ? 0 : (slot.a & 255);
      if (level == slot.b) continue;
      slot.b = level;
      Reader<Store<Chip::KEPT_BYTES>> r(store_, slot.at);
      slot.c = r.number();
      const uint8_t driven = static_cast<uint8_t>(slot.head & SINKS ? 255 - level : level);
      if (slot.c < CHANNELS_FROM) hardware::brightness(static_cast<uint8_t>(slot.c), driven);
      else chains_.set(slot.c, driven >= 128);
    }
  }

  uint16_t restOf(const Slot& slot) const {
    if (!(slot.head & RESTS)) return 0;
    Reader<Store<Chip::KEPT_BYTES>> r(store_, slot.at);
    r.number();
    return r.number();
  }

  struct Report {
    uint8_t slot;
    uint16_t value;
  };

  Store<Chip::KEPT_BYTES> store_;
  Line<Chip::FRAME_BYTES> line_;
  Chains<Chip::CHAINS> chains_;
  Slot slots_[Chip::SLOTS];
  Report ring_[RING];
  uint8_t body_[BODY_BYTES];
  uint8_t piece_[PIECE_BYTES];
  uint64_t fingerprint_ = 0;
  uint64_t loadPrint_ = 0;
  uint32_t heardAt_ = 0;
  uint32_t heartbeatAt_ = 0;
  uint32_t toldAt_ = 0;
  uint32_t reportedAt_ = 0;
  uint32_t shown_ = 0;
  uint32_t inputs_ = 0;
  uint16_t loadLength_ = 0;
  uint16_t pieceAt_ = 0;
  uint16_t next_ = 0;
  /** Milliseconds, counted from the microseconds: nothing is divided in a turn. */
  uint32_t ms_ = 0;
  uint32_t msAt_ = 0;
  uint8_t count_ = 0;
  uint8_t ringCount_ = 0;
  uint8_t pieceCount_ = 0;
  uint8_t pieceLeft_ = 0;
  uint8_t pieceFrom_ = 0;
  uint8_t rests_ = 0;
  uint8_t lastMs_ = 0;
  bool loading_ = false;
  bool started_ = false;
  bool resting_ = false;
  bool owesWord_ = false;
};
