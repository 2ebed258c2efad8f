// The board's program: what it says and hears, what it watches and drives. It knows no register and no clock; bytes, the
// passing of time in microseconds and the functions of hardware.hpp are all there is.
#pragma once
#include <stdint.h>
#include "line.hpp"
#include "store.hpp"
#include "works.hpp"

/** One more with each change of what this program can do; the computer knows the number of the one that it has. */
constexpr uint8_t PROGRAM = 4;

/** What is seldom needed stands once, and not wherever it is called. */
#define SLOW __attribute__((noinline))

/** What a chip has room for. */
template <typename Chip>
class Board {
 public:
  /** Power came on. */
  void begin(uint32_t now) {
    store_.begin();
    install();
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
    works_.scan(now, static_cast<uint16_t>(ms_));
    const bool isDue = (owesWord_ && now - toldAt_ >= CONFIRM_US) || now - heartbeatAt_ >= HEARTBEAT_US;
    const bool hasRoom = hardware::room() >= HEARTBEAT_BYTES;
    // Nothing in a turn waits for the line: what has no room now has it in one of the next.
    watch(now, !isDue);
    if (noted_ > 0 && !isDue) sayNoted(now);
    show(now);
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
  /** Of what a probe notes: bytes in one frame, how long they wait for more, and units of time between two. */
  static constexpr uint8_t NOTED_BYTES = 36;
  static constexpr uint8_t LONGEST_NOTE = 8;
  static constexpr uint32_t NOTED_US = 8000;
  static constexpr uint8_t NOTED_UNIT = 4;
  /** What is probed: one input by its slot, the contacts of all, or nothing. */
  static constexpr uint16_t ALL_CONTACTS = 0xffff;
  static constexpr uint16_t NOTHING = 0xfffe;
  static constexpr uint8_t BODY_BYTES = 72;
  static constexpr uint8_t MOST_PAYLOAD = BODY_BYTES - HEADER_BYTES - CRC_BYTES;
  void passTime(uint32_t now) {
    while (now - msAt_ >= 1000) {
      msAt_ += 1000;
      ms_++;
    }
  }

  // --- what it holds --------------------------------------------------------------------------------------------

  /** Begins with what it holds. Counts and numbers begin anew. */
  void install() {
    works_.letGo();
    started_ = false;
    loading_ = false;
    pieceLeft_ = 0;
    next_ = 0;
    ringCount_ = 0;
    inputs_ = 0;
    calm_ = false;
    probe(NOTHING);
    fingerprint_ = printOf();
    works_.install(static_cast<uint16_t>(ms_));
  }

  uint64_t printOf() const {
    if (store_.length() == 0) return 0;
    uint64_t print = FNV64_BEGIN;
    for (uint16_t i = 0; i < store_.length(); i++) print = fnv64(print, store_.at(i));
    return print;
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
    // Behind a zero, which program this is.
    static_assert(PROGRAM < 100, "two digits are meant");
    if (end + 3 <= MOST_PAYLOAD) {
      p[end++] = 0;
      if (PROGRAM >= 10) p[end++] = static_cast<uint8_t>('0' + PROGRAM / 10);
      p[end++] = static_cast<uint8_t>('0' + PROGRAM % 10);
    }
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
    put32(p + 13, works_.shown());
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
        probe(NOTHING);
        works_.forget();
        sayAll(now);
        return;
      case 0x03:
        if (f.length % 4 != 0) break;
        for (uint16_t i = 0; i < f.length; i = static_cast<uint16_t>(i + 4)) works_.takeState(get16(p + i), get16(p + i + 2));
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
        commit(f.sequence, p);
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
        if (f.length < 3) break;
        works_.takeRow(get16(p), p[2], p + 3, static_cast<uint8_t>(f.length - 3));
        told(now);
        return;
      case 0x0a:
        if (f.length != 2) break;
        sayAgain(get16(p), now);
        return;
      case 0x0b:
        if (f.length != 0 && f.length != 2) break;
        probe(f.length == 0 ? NOTHING : get16(p));
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
    // What is noted lies where the pieces come.
    probe(NOTHING);
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
      // A byte that is being written ends the turn.
      if (hardware::kept(at) != piece_[i]) hardware::keep(at, piece_[i]);
      if (--pieceLeft_ == 0) answer(pieceFrom_, nullptr);
    }
  }

  /** What is being loaded, as something that can be read. */
  struct Loaded {
    const Store<Chip::KEPT_BYTES>& store;
    uint16_t count;
    uint16_t length() const { return count; }
    uint8_t at(uint16_t i) const { return i < count ? store.loaded(i) : 0xff; }
  };

  void commit(uint8_t sequence, const uint8_t* print) {
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
      answer(sequence, WORDS("it was damaged on the way; the old configuration stays"));
      return;
    }
    const char* problem = works_.objection(loaded);
    if (problem == nullptr) {
      works_.letGo();
      store_.commit(loadLength_);
      store_.countStart();
      install();
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

  /**
   * Looks at every input in every turn, so that no step of an encoder is missed, and tells as many as the line takes now:
   * what finds no room is told next time, as it is then. While all that hangs on chips stands as it stood, only the rest is looked at.
   */
  void watch(uint32_t now, bool mayTell) {
    if (!started_) return;
    uint8_t* p = payload();
    const uint16_t from = next_;
    const uint8_t room = hardware::room();
    uint8_t most = !mayTell || room < REPORT_BYTES ? 0 : static_cast<uint8_t>((room - REPORT_BYTES) / 4);
    if (most > INPUTS_A_FRAME) most = INPUTS_A_FRAME;
    uint8_t found = 0;
    const uint16_t ms = static_cast<uint16_t>(ms_);
    uint16_t earlier[INPUTS_A_FRAME];
    uint16_t isNew = 0;
    const bool moved = works_.chipsMoved();
    const auto& range = moved || !calm_ ? works_.inputs() : works_.inputsOnPins();
    calm_ = true;
    auto* at = works_.slots() + range.from;
    for (uint16_t i = range.from; i < range.end; i++, at++) {
      auto& slot = *at;
      if ((!moved && works_.isRestful(slot)) || !works_.isInput(slot.head)) continue;
      if (works_.isOnChips(slot)) calm_ = false;
      const bool wasKnown = slot.flags & works_.KNOWN;
      const uint16_t before = slot.b;
      const bool isNews = works_.look(slot, ms, false);
      if (probed_ == i || (probed_ == ALL_CONTACTS && works_.hasMoved)) note(i, slot, now);
      if (!isNews) continue;
      if (found >= most) {
        slot.b = before;
        continue;
      }
      slot.flags |= works_.KNOWN;
      remember(i, slot.b);
      earlier[found] = before;
      if (!wasKnown) isNew |= static_cast<uint16_t>(1u << found);
      put16(p + 6 + 4 * found, i);
      put16(p + 8 + 4 * found, slot.b);
      found++;
    }
    works_.looked(ms);
    if (found == 0) return;
    reportedAt_ = now;
    put32(p, now);
    put16(p + 4, from);
    say(0x82, static_cast<uint8_t>(6 + 4 * found));
    // The report is on its way: what follows has time.
    for (uint8_t k = 0; k < found; k++) {
      const uint16_t slot = get16(p + 6 + 4 * k);
      if (!(isNew & (1u << k))) inputs_ -= hashOf(slot, earlier[k]);
      inputs_ += hashOf(slot, get16(p + 8 + 4 * k));
    }
  }

  // --- what it is asked to note of an input, as it comes ----------------------------------------------------------

  SLOW void probe(uint16_t what) {
    probed_ = what;
    noted_ = 0;
    notes_ = 0;
    isFresh_ = true;
  }

  /** Notes what contacts have changed to, or a level once a millisecond. What finds no room is left out, and counted. */
  SLOW void note(uint16_t number, const typename Works<Chip>::Slot& slot, uint32_t now) {
    if (works_.isLevel(slot)) {
      if (static_cast<uint16_t>(static_cast<uint16_t>(ms_) - sampledAt_) == 0) return;
      sampledAt_ = static_cast<uint16_t>(ms_);
    } else if (!works_.hasMoved && !isFresh_) return;
    isFresh_ = false;
    notes_++;
    if (noted_ > NOTED_BYTES - LONGEST_NOTE) return;
    const uint16_t at = static_cast<uint16_t>(now >> NOTED_UNIT);
    number7(noted_ == 0 ? 0 : static_cast<uint16_t>(at - notedAt_));
    notedAt_ = at;
    notedLast_ = now;
    number7(number);
    number7(works_.standsAt(slot));
  }

  SLOW void number7(uint16_t n) {
    for (; n > 0x7f; n >>= 7) piece_[noted_++] = static_cast<uint8_t>(n | 0x80);
    piece_[noted_++] = static_cast<uint8_t>(n);
  }

  SLOW void sayNoted(uint32_t now) {
    if ((noted_ <= NOTED_BYTES - LONGEST_NOTE && now - notedLast_ < NOTED_US) || hardware::room() < REPORT_BYTES + noted_) return;
    uint8_t* p = payload();
    put32(p, notedLast_);
    put16(p + 4, notes_);
    for (uint8_t i = 0; i < noted_; i++) p[6 + i] = piece_[i];
    say(0x87, static_cast<uint8_t>(6 + noted_));
    noted_ = 0;
  }

  void remember(uint16_t slot, uint16_t value) {
    ring_[next_ % RING] = Report{static_cast<typename Chip::SlotNumber>(slot), value};
    next_++;
    if (ringCount_ < RING) ringCount_++;
  }

  /** Says where every input stands. */
  void sayAll(uint32_t now) {
    uint8_t* p = payload();
    uint8_t found = 0;
    bool said = false;
    inputs_ = 0;
    for (uint16_t i = 0; i < works_.count(); i++) {
      auto& slot = works_.slots()[i];
      if (!works_.isInput(slot.head)) continue;
      works_.look(slot, static_cast<uint16_t>(ms_), true);
      slot.flags |= works_.KNOWN;
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

  /** Shows what it was told; at rest where nobody has been heard for long. */
  void show(uint32_t now) {
    const bool alone = now - heardAt_ > SILENCE_US;
    // However long it lasts: the clock comes round in 71 minutes.
    if (alone) heardAt_ = now - SILENCE_US - 1;
    if (alone && !resting_) {
      probe(NOTHING);
      rests_++;
      works_.forget();
      works_.rest();
    }
    resting_ = alone;
    works_.show(now, ms_);
  }

  struct Report {
    typename Chip::SlotNumber slot;
    uint16_t value;
  };

  Store<Chip::KEPT_BYTES> store_;
  Works<Chip> works_{store_};
  Line<Chip::FRAME_BYTES> line_;
  Report ring_[RING];
  uint8_t body_[BODY_BYTES];
  uint8_t piece_[PIECE_BYTES];
  uint64_t fingerprint_ = 0;
  uint64_t loadPrint_ = 0;
  uint32_t heardAt_ = 0;
  uint32_t heartbeatAt_ = 0;
  uint32_t toldAt_ = 0;
  uint32_t reportedAt_ = 0;
  uint32_t inputs_ = 0;
  /** Whatever hangs on chips alone has been told as it stands. */
  bool calm_ = false;
  uint16_t loadLength_ = 0;
  uint16_t pieceAt_ = 0;
  uint16_t next_ = 0;
  /** Milliseconds, counted from the microseconds: nothing is divided in a turn. */
  uint32_t ms_ = 0;
  uint32_t msAt_ = 0;
  /** Of what is probed: when something was noted last, and the millisecond of the last level. */
  uint32_t notedLast_ = 0;
  uint16_t notedAt_ = 0;
  uint16_t sampledAt_ = 0;
  uint16_t probed_ = NOTHING;
  uint16_t notes_ = 0;
  uint8_t noted_ = 0;
  bool isFresh_ = false;
  uint8_t ringCount_ = 0;
  uint8_t pieceCount_ = 0;
  uint8_t pieceLeft_ = 0;
  uint8_t pieceFrom_ = 0;
  uint8_t rests_ = 0;
  bool loading_ = false;
  bool started_ = false;
  bool resting_ = false;
  bool owesWord_ = false;
};
