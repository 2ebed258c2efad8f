// What a board watches and drives: the slots of its configuration, on pins of its own and on its chips.
#pragma once
#include <stdint.h>
#include "arena.hpp"
#include "bytes.hpp"
#include "chains.hpp"
#include "configuration.hpp"
#include "devices.hpp"
#include "digits.hpp"
#include "hardware.hpp"
#include "needle.hpp"
#include "store.hpp"
#include "strip.hpp"
#include "text.hpp"
// Where the words of this chip are kept.
#include <words.hpp>

/** What a slot, or one row of it, adds to a digest. */
inline uint32_t hashOf(uint16_t slot, uint8_t row, const uint8_t* bytes, uint8_t count) {
  uint32_t hash = fnv32(fnv32(fnv32(FNV32_BEGIN, static_cast<uint8_t>(slot)), static_cast<uint8_t>(slot >> 8)), row);
  for (uint8_t i = 0; i < count; i++) hash = fnv32(hash, bytes[i]);
  return hash;
}
inline uint32_t hashOf(uint16_t slot, uint16_t state) {
  const uint8_t bytes[2] = {static_cast<uint8_t>(state), static_cast<uint8_t>(state >> 8)};
  return hashOf(slot, 0, bytes, 2);
}

/** What is kept, once it was found to be sound: read without looking for its end. */
template <typename Kept>
struct Sure {
  const Kept& kept;
  uint8_t at(uint16_t i) const { return kept.sure(i); }
  static constexpr uint16_t length() { return 0xffff; }
};

template <typename Chip>
class Works {
 public:
  using Kept = Store<Chip::KEPT_BYTES>;
  using Memory = Arena<Chip::MEMORY_BYTES>;
  using SureReader = Reader<Sure<Kept>>;

  explicit Works(const Kept& kept) : kept_(kept), chains_(memory_, kept) {}

  uint16_t count() const { return count_; }
  /** Digest of all states that were told and are shown. */
  uint32_t shown() const { return shown_; }

  /** Why a configuration cannot be held, or null. */
  template <typename Source>
  static const char* objection(const Source& source) {
    Reader<Source> r(source, 0);
    if (r.byte() != CONFIGURATION_VERSION) return WORDS("configuration version is not known");
    uint8_t chips = r.byte();
    if (chips > Chip::CHAINS) return WORDS("more chips than this board can drive");
    uint32_t bytes = 0;
    Timers timers;
    for (; chips > 0; chips--) {
      const uint8_t kind = r.byte();
      const uint8_t chain = r.byte();
      const uint8_t address = r.byte();
      const uint8_t pins = r.byte();
      const uint8_t wanted = pinsOfChip(kind);
      if (wanted == 0) return WORDS("this program has no driver for one of the chips");
      const bool isChain = kind == HC165 || kind == HC595 || kind == TLC5940;
      if (pins != wanted || chain == 0 || chain > (isChain ? MOST_CHAIN : 1) || address > 127) return WORDS("a chain of chips does not fit");
      bytes += Chains<Memory, Kept, Chip::CHAINS>::bytesOf(kind, chain);
      uint8_t last[2] = {0, 0};
      for (uint8_t i = 0; i < pins; i++) {
        last[0] = last[1];
        last[1] = r.byte();
        if (last[1] >= Chip::PINS) return WORDS("a pin that this board has not");
      }
      if (isOnBus(kind) && !hardware::isBus(last[0], last[1])) return WORDS("its two-wire bus is on other pins");
      if (kind == TLC5940 && !timers.takes(hardware::Use::STEPS, last[1])) return WORDS("the brightness clock needs a pin with a timer of its own");
    }
    const uint16_t slots = r.number();
    if (slots > Chip::SLOTS) return WORDS("more slots than this board can hold");
    bytes += Memory::taken(static_cast<uint16_t>(slots * sizeof(Slot)));
    for (uint16_t i = 0; i < slots; i++) {
      SlotRead slot;
      switch (passSlot(r, r.byte(), Chip::PINS, slot)) {
        case Passed::WELL:
          break;
        case Passed::UNKNOWN:
          return WORDS("this program does not know one of the slots");
        case Passed::NO_SUCH_PIN:
          return WORDS("a pin that this board has not");
        case Passed::TOO_LARGE:
          return WORDS("a slot does not fit its kind");
        case Passed::OVER:
          return WORDS("the configuration ends too early");
      }
      const uint16_t more = bytesOf(slot);
      bytes += more > 0 ? Memory::taken(more) : 0;
      if (slot.kind == TEXT && slot.address > 0 && !hardware::isBus(static_cast<uint8_t>(slot.first), static_cast<uint8_t>(slot.last)))
        return WORDS("its two-wire bus is on other pins");
      if (slot.kind != NEEDLE || slot.first >= CHANNELS_FROM) continue;
      if ((slot.flags & SERVO) && !timers.takes(hardware::Use::SERVO, static_cast<uint8_t>(slot.first)))
        return WORDS("a servo needs a timer that something else has taken");
      if ((slot.flags & PULSES) && !timers.takes(hardware::Use::FREQUENCY, static_cast<uint8_t>(slot.first)))
        return WORDS("a frequency needs a pin with a timer of its own");
    }
    if (bytes > Chip::MEMORY_BYTES) return WORDS("more displays, motors and chips than this board has memory for");
    return r.over() ? WORDS("the configuration ends too early") : nullptr;
  }

  /** Lets go of all that it drives: before what is kept changes. */
  void letGo() {
    for (uint16_t i = 0; i < count_; i++) {
      Reader<Kept> r(kept_, slots()[i].at);
      SlotRead slot;
      passSlot(r, slots()[i].head, Chip::PINS, slot);
      if (slot.kind == LAMP && slot.first < CHANNELS_FROM) hardware::release(static_cast<uint8_t>(slot.first));
      if (slot.kind == NEEDLE && (slot.flags & (SERVO | PULSES)) && slot.first < CHANNELS_FROM) hardware::release(static_cast<uint8_t>(slot.first));
    }
    hardware::freeTimers();
    hardware::busReset();
    chains_.clear();
    memory_.clear();
    count_ = 0;
    inputs_ = onPins_ = Range{};
    devices_ = 0;
    shown_ = 0;
    busUser_ = NOBODY;
  }

  /** Begins with what is kept. */
  void install(uint16_t ms) {
    Reader<Kept> r(kept_, 0);
    if (kept_.length() == 0 || objection(kept_) != nullptr) return;
    r.byte();
    bool isSlow = false;
    isOther_ = true;
    for (uint8_t chips = r.byte(); chips > 0; chips--) {
      const uint8_t kind = r.byte();
      const uint8_t chain = r.byte();
      const uint8_t address = r.byte();
      uint8_t pins = r.byte();
      chains_.add(kind, chain, address, r.at());
      for (; pins > 0; pins--) r.byte();
    }
    const uint16_t all = r.number();
    for (; count_ < all; count_++) {
      Slot& slot = slots()[count_];
      const uint8_t head = r.byte();
      slot = Slot{r.at(), head, 0, 0, 0, 0};
      SlotRead read;
      passSlot(r, head, Chip::PINS, read);
      prepare(slot, read, ms);
      if (isInput(head)) {
        inputs_.take(count_);
        if (!(slot.flags & ON_CHIPS)) onPins_.take(count_);
      }
      // A PCF8574 hears no more than 100,000 bits a second.
      if (read.kind == TEXT && read.address > 0) isSlow = true;
    }
    hardware::busBegin(!isSlow);
  }

  /** Slots that stand between others. */
  struct Range {
    uint16_t from = 0, end = 0;
    void take(uint16_t number) {
      if (end == 0) from = number;
      end = static_cast<uint16_t>(number + 1);
    }
  };
  /** Where the inputs are, and where those among them are that do not hang on chips alone. */
  const Range& inputs() const { return inputs_; }
  const Range& inputsOnPins() const { return onPins_; }
  static constexpr bool isInput(uint8_t head) { return (head & 15) != LAMP && (head & 15) < DIGITS; }

  enum Flag : uint8_t { IS_TOLD = 1, KNOWN = 2, SEEN = 4, SETTLED = 8, ON_CHIPS = 16, RESTFUL = KNOWN | SETTLED | ON_CHIPS };

  /** One slot as it runs. What its numbers mean is its kind's business; larger kinds have a device in memory, at `b`. */
  struct Slot {
    /** Where its settings begin in what is kept, behind its first byte. */
    uint16_t at;
    uint8_t head;
    uint8_t flags;
    uint16_t a, b;
    uint8_t c;
    uint8_t kind() const { return head & 15; }
  };
  Slot* slots() { return reinterpret_cast<Slot*>(memory_.at(0)); }

  /** What hangs on chips alone stands as it stood while those do: nearly all inputs, in nearly all turns. */
  static bool isOnChips(const Slot& slot) { return slot.flags & ON_CHIPS; }
  static bool isRestful(const Slot& slot) { return (slot.flags & RESTFUL) == RESTFUL && slot.a == slot.b; }
  bool chipsMoved() const { return chains_.hasMoved(); }

  /** What an input stands at now, once it has settled; `all` takes it as it is. True when there is something to tell, in `b`. */
  bool look(Slot& slot, uint16_t ms, bool all) {
    hasMoved = false;
    const Sure<Kept> sure{kept_};
    SureReader r(sure, slot.at);
    switch (slot.kind()) {
      case CONTACTS:
        return lookContacts(slot, r, static_cast<uint8_t>(ms), all);
      case ENCODER: {
        const bool a = isClosed(r.number());
        const bool b = isClosed(r.number());
        const uint8_t state = static_cast<uint8_t>((a ? 2 : 0) | (b ? 1 : 0));
        if (slot.flags & SEEN) slot.a = static_cast<uint16_t>(slot.a + turned(slot.c, state));
        hasMoved = slot.c != state;
        slot.c = state;
        slot.flags |= SEEN | SETTLED;
        if (!all && (slot.flags & KNOWN) && slot.b == slot.a) return false;
        slot.b = slot.a;
        return true;
      }
      case ANALOG: {
        const uint16_t place = r.number();
        const uint8_t smoothing = r.byte();
        return lookAnalog(slot, place, smoothing, static_cast<uint8_t>(ms), all);
      }
      default:
        return false;
    }
  }

  /** Whether a contact of what was looked at last has just moved; it may still bounce. */
  bool hasMoved = false;
  static bool isLevel(const Slot& slot) { return slot.kind() == ANALOG; }
  /** Contacts as they stand this moment, the first lowest, or a level that is not evened out. */
  uint16_t standsAt(const Slot& slot) const {
    if (slot.kind() == CONTACTS) return slot.a;
    if (slot.kind() == ENCODER) return static_cast<uint16_t>((slot.c >> 1) | ((slot.c & 1) << 1));
    Reader<Kept> r(kept_, slot.at);
    return levelAt(r.number());
  }

  /** A turn begins: chips are read, and the two-wire bus goes on. */
  void scan(uint32_t now, uint16_t ms) {
    chains_.scan();
    runBus(now, ms);
  }
  /** All inputs have been looked at. */
  void looked(uint16_t ms) { lastMs_ = static_cast<uint8_t>(ms); }

  void takeState(uint16_t number, uint16_t state) {
    if (number >= count_) return;
    Slot& slot = slots()[number];
    if (slot.kind() != LAMP && slot.kind() != NEEDLE) return;
    if (slot.flags & IS_TOLD) shown_ -= hashOf(number, slot.a);
    slot.a = state;
    slot.flags |= IS_TOLD;
    isOther_ = true;
    shown_ += hashOf(number, state);
    if (slot.kind() == NEEDLE) aim(slot);
  }

  void takeRow(uint16_t number, uint8_t row, const uint8_t* bytes, uint8_t count) {
    if (number >= count_) return;
    Slot& slot = slots()[number];
    uint32_t* hash = nullptr;
    bool wasTold = false;
    if (slot.kind() == TEXT) {
      Text& text = memory_.template as<Text>(slot.b);
      if (row >= text.rows) return;
      hash = text.hashes + row;
      wasTold = text.told & (1 << row);
      text.told = static_cast<uint8_t>(text.told | (1 << row));
      text.take(row, bytes, count);
    } else if (slot.kind() == DIGITS || slot.kind() == COLOUR) {
      if (row > 0) return;
      wasTold = slot.flags & IS_TOLD;
      slot.flags |= IS_TOLD;
      if (slot.kind() == DIGITS) {
        Digits& digits = memory_.template as<Digits>(slot.b);
        hash = &digits.hash;
        digits.take(bytes, count);
      } else {
        Strip& strip = memory_.template as<Strip>(slot.b);
        hash = &strip.hash;
        strip.take(bytes, count);
      }
    } else return;
    if (wasTold) shown_ -= *hash;
    *hash = hashOf(number, row, bytes, count);
    shown_ += *hash;
  }

  /** What the computer told before does not count any more. */
  void forget() {
    shown_ = 0;
    for (uint16_t i = 0; i < count_; i++) {
      Slot& slot = slots()[i];
      slot.flags &= static_cast<uint8_t>(~IS_TOLD);
      if (slot.kind() == TEXT) memory_.template as<Text>(slot.b).told = 0;
    }
  }

  /** Everything to what it shows when nobody is heard. */
  void rest() {
    isOther_ = true;
    for (uint16_t i = 0; i < count_; i++) {
      Slot& slot = slots()[i];
      if (slot.head & KEEPS) continue;
      switch (slot.kind()) {
        case LAMP:
        case NEEDLE:
          slot.a = restOf(slot);
          if (slot.kind() == NEEDLE) aim(slot);
          break;
        case DIGITS:
          memory_.template as<Digits>(slot.b).blank();
          break;
        case TEXT:
          memory_.template as<Text>(slot.b).blank();
          break;
        case COLOUR:
          memory_.template as<Strip>(slot.b).blank();
          break;
        default:
          break;
      }
    }
  }

  /** Lights every lamp as it is to be now, turns every needle, and tells displays what has changed. */
  void show(uint32_t now, uint32_t ms) {
    // Where nothing was told and nothing blinks, all lamps are as they are to be.
    if (isOther_) {
      isOther_ = false;
      Slot* const end = slots() + count_;
      for (Slot* s = slots(); s != end; s++)
        if (s->kind() == LAMP && (s->a != s->b || s->a > 255)) light(*s, ms);
    }
    const uint8_t passed = static_cast<uint8_t>(ms - shownMs_);
    shownMs_ = static_cast<uint8_t>(ms);
    // Every 128 ms the next chip is told everything anew, every second digits and strips, every four seconds text displays.
    const uint8_t round = static_cast<uint8_t>(ms >> 7);
    if (round != round_) {
      round_ = round;
      chains_.refresh();
      if ((round & 7) == 0) refreshDisplays(static_cast<uint16_t>(ms), (round & 31) == 0);
    }
    for (uint16_t at = devices_; at != 0; at = memory_.template as<Device>(at).next) {
      Device& device = memory_.template as<Device>(at);
      const PinsOf<Kept> pins(kept_, device);
      switch (device.kind) {
        case DIGITS: {
          Digits& digits = memory_.template as<Digits>(at);
          for (uint8_t left = Chip::PIECES; left > 0 && digits.send(pins); left--) {
          }
          break;
        }
        case COLOUR:
          memory_.template as<Strip>(at).send(pins[0], ms);
          break;
        case TEXT:
          write(memory_.template as<Text>(at), pins, static_cast<uint16_t>(ms));
          break;
        case NEEDLE:
          turn(memory_.template as<Needle>(at), pins, now, passed);
          break;
        default:
          break;
      }
    }
    chains_.send();
  }

 private:
  static constexpr uint16_t FULL = 1023;
  static constexpr uint16_t STEP = 4;
  static constexpr uint8_t PAUSE_MS = 20;
  static constexpr uint32_t BUS_US = 10000;
  static constexpr uint16_t NOBODY = 0xffff;
  /** Users of the bus from here on are displays, by where they lie in memory. */
  static constexpr uint16_t DISPLAYS_FROM = 256;

  /** Timers that something has for itself. */
  class Timers {
   public:
    bool takes(hardware::Use use, uint8_t pin) {
      const uint8_t timer = hardware::timerFor(use, pin);
      if (timer == hardware::NO_TIMER) return false;
      const uint8_t mask = static_cast<uint8_t>(1 << timer);
      // All servos have one between them.
      if ((taken_ & mask) && !(use == hardware::Use::SERVO && servos_ == timer)) return false;
      taken_ = static_cast<uint8_t>(taken_ | mask);
      if (use == hardware::Use::SERVO) servos_ = timer;
      return true;
    }

   private:
    uint8_t taken_ = 0;
    uint8_t servos_ = hardware::NO_TIMER;
  };

  /** What a slot needs beyond its own few bytes. */
  static uint16_t bytesOf(const SlotRead& slot) {
    switch (slot.kind) {
      case DIGITS:
        return Digits::bytesFor(slot.size);
      case TEXT:
        return Text::bytesFor(slot.size, slot.other);
      case NEEDLE:
        return sizeof(Needle);
      case COLOUR:
        return Strip::bytesFor(slot.size);
      default:
        return 0;
    }
  }

  /** Makes the pins of a slot what it needs. */
  void prepare(Slot& slot, const SlotRead& read, uint16_t ms) {
    Reader<Kept> r(kept_, slot.at);
    switch (read.kind) {
      case CONTACTS:
      case ENCODER:
        if (read.channels == read.places) slot.flags |= ON_CHIPS;
        if (read.kind == CONTACTS) r.byte();
        for (uint8_t left = read.places; left > 0; left--) pullUp(r.number());
        return;
      case LAMP:
        slot.b = 0xffff;
        if (read.first >= CHANNELS_FROM) chains_.claim(read.first, false);
        return;
      case ANALOG:
        return;
      default:
        break;
    }
    slot.b = memory_.give(bytesOf(read));
    Device& device = memory_.template as<Device>(slot.b);
    device.next = devices_;
    // Behind the number of its places, where it has more than one.
    device.at = static_cast<uint16_t>(slot.at + (read.kind == COLOUR ? 0 : 1));
    device.kind = read.kind;
    devices_ = slot.b;
    const PinsOf<Kept> pins(kept_, device);
    if (read.first < CHANNELS_FROM && !(read.kind == TEXT && read.address > 0))
      for (uint8_t i = 0; i < read.places - isSensed(read); i++) hardware::drive(pins[i], read.kind == DIGITS && i == (read.flags & TWO_LINES ? 1 : 2));
    switch (read.kind) {
      case DIGITS: {
        Digits& digits = memory_.template as<Digits>(slot.b);
        digits.width = static_cast<uint8_t>(read.size);
        digits.isOnTwoLines = (read.flags & TWO_LINES) != 0;
        digits.blank();
        break;
      }
      case TEXT: {
        Text& text = memory_.template as<Text>(slot.b);
        text.columns = static_cast<uint8_t>(read.size);
        text.rows = static_cast<uint8_t>(read.other);
        text.address = read.address;
        text.blank();
        text.setUp(ms);
        break;
      }
      case COLOUR: {
        Strip& strip = memory_.template as<Strip>(slot.b);
        strip.lamps = static_cast<uint8_t>(read.size);
        strip.blank();
        break;
      }
      default: {
        Needle& needle = memory_.template as<Needle>(slot.b);
        needle.flags = static_cast<uint8_t>((read.first >= CHANNELS_FROM ? ON_CHIP : 0) | (read.flags & SERVO ? IS_SERVO : 0) |
                                            (read.flags & PULSES ? PULSED : 0) | (isSensed(read) ? SENSED : 0));
        needle.gentle = static_cast<uint8_t>(read.gentle + 1);
        if (isSensed(read)) pullUp(read.last);
        needle.begin(read.size, read.other);
        if ((needle.flags & IS_SERVO) && (needle.flags & ON_CHIP)) chains_.claim(read.first, true);
        break;
      }
    }
  }

  static void pullUp(uint16_t place) {
    if (place < CHANNELS_FROM) hardware::pullUp(static_cast<uint8_t>(place));
  }

  bool isClosed(uint16_t place) const {
    return place < CHANNELS_FROM ? hardware::isLow(static_cast<uint8_t>(place)) : chains_.isClosed(place);
  }

  uint16_t levelAt(uint16_t place) const {
    return place < CHANNELS_FROM ? hardware::analog(static_cast<uint8_t>(place)) : chains_.levelOf(place);
  }

  bool lookContacts(Slot& slot, SureReader& r, uint8_t ms, bool all) {
    uint16_t bits = 0;
    const uint16_t count = r.number();
    for (uint16_t k = 0; k < count; k++)
      if (isClosed(r.number())) bits = static_cast<uint16_t>(bits | (1u << k));
    hasMoved = bits != slot.a;
    if (hasMoved || !(slot.flags & SEEN)) {
      slot.a = bits;
      slot.c = ms;
      slot.flags = static_cast<uint8_t>((slot.flags | SEEN) & ~SETTLED);
    }
    // Once still for its time it stays so: what is counted begins anew every 256 ms.
    if (all || static_cast<uint8_t>(ms - slot.c) >= r.byte()) slot.flags |= SETTLED;
    if (!all && (!(slot.flags & SETTLED) || ((slot.flags & KNOWN) && slot.b == bits))) return false;
    slot.b = bits;
    return true;
  }

  /** Which way two contacts a quarter apart have gone; a jump over a state counts nothing. */
  static int8_t turned(uint8_t before, uint8_t now) {
    // 0, -1, 1, 0, 1, 0, 0, -1, -1, 0, 0, 1, 0, 1, -1, 0 by state before and after, two bits each and one more than that.
    const uint32_t table = 0x49941661UL;
    return static_cast<int8_t>(((table >> (2 * (((before & 3) << 2) | now))) & 3) - 1);
  }

  bool lookAnalog(Slot& slot, uint16_t place, uint8_t smoothing, uint8_t ms, bool all) {
    // A sample a millisecond: smoothing goes by time, and a converter takes a tenth of it.
    if (!all && (slot.flags & SEEN) && ms == lastMs_) return false;
    const uint16_t raw = static_cast<uint16_t>(levelAt(place) << 6);
    if (!(slot.flags & SEEN)) slot.a = raw;
    else slot.a = static_cast<uint16_t>(slot.a + ((static_cast<int32_t>(raw) - slot.a) >> smoothing));
    slot.flags |= SEEN;
    uint16_t near = static_cast<uint16_t>((slot.a + 32) >> 6);
    if (near > FULL) near = FULL;
    if (near < STEP) near = 0;
    else if (near > FULL - STEP) near = FULL;
    const uint16_t by = near > slot.b ? near - slot.b : slot.b - near;
    const bool moved = !(slot.flags & KNOWN) || by >= STEP || (by > 0 && (near == 0 || near == FULL));
    if (!all && (!moved || static_cast<uint8_t>(ms - slot.c) < PAUSE_MS)) return false;
    slot.b = near;
    slot.c = ms;
    return true;
  }

  uint16_t restOf(const Slot& slot) const {
    if (!(slot.head & RESTS)) return 0;
    Reader<Kept> r(kept_, slot.at);
    if (slot.kind() == NEEDLE) {
      for (uint16_t places = static_cast<uint16_t>(r.number() + 2); places > 0; places--) r.number();
    } else r.number();
    return r.number();
  }

  void light(Slot& slot, uint32_t ms) {
    uint16_t level = slot.a & 255;
    if (slot.a > 255) {
      isOther_ = true;
      const uint16_t period = static_cast<uint16_t>((slot.a >> 8) * 20);
      if (ms % period >= period / 2) level = 0;
    }
    if (level == slot.b) return;
    slot.b = level;
    const Sure<Kept> sure{kept_};
    SureReader r(sure, slot.at);
    const uint16_t place = r.number();
    const bool sinks = slot.head & SINKS;
    if (place >= CHANNELS_FROM) chains_.light(place, static_cast<uint8_t>(level), sinks);
    else hardware::brightness(static_cast<uint8_t>(place), static_cast<uint8_t>(sinks ? 255 - level : level));
  }

  /** A needle is told where it is to stand. */
  void aim(Slot& slot) {
    Needle& needle = memory_.template as<Needle>(slot.b);
    needle.take(slot.a);
    if (needle.flags & PULSED)
      hardware::frequency(kept_.at(needle.at),
                          static_cast<uint16_t>(static_cast<uint32_t>(needle.goal) * needle.speed / needle.travel));
  }

  void turn(Needle& needle, const PinsOf<Kept>& pins, uint32_t now, uint8_t passed) {
    if (needle.flags & PULSED) return;
    if (needle.flags & IS_SERVO) {
      if (passed == 0) return;
      needle.follow(passed);
      if (needle.flags & ON_CHIP) chains_.pulse(placeOf(needle), needle.pulseUs());
      else hardware::servo(pins[0], needle.pulseUs());
      return;
    }
    if ((needle.flags & (SENSED | HOMED)) == SENSED) needle.sense(isClosed(placeOf(needle, 4)));
    if (needle.flags & ON_CHIP) {
      const uint16_t place = placeOf(needle);
      needle.turn(now, [&](bool forwards) { chains_.step(place, forwards); });
    } else needle.turn(now, [&](bool forwards) { needle.coils(pins, forwards); });
  }

  uint16_t placeOf(const Device& device, uint8_t skipped = 0) const {
    Reader<Kept> r(kept_, device.at);
    while (skipped-- > 0) r.number();
    return r.number();
  }

  void write(Text& text, const PinsOf<Kept>& pins, uint16_t ms) {
    if (text.address > 0) return;
    Text::Piece piece;
    for (uint8_t left = Chip::PIECES; left > 0 && text.next(ms, piece); left--) Text::write(pins, piece);
  }

  void refreshDisplays(uint16_t ms, bool alsoTexts) {
    for (uint16_t at = devices_; at != 0; at = memory_.template as<Device>(at).next) {
      Device& device = memory_.template as<Device>(at);
      if (device.kind == TEXT) {
        if (alsoTexts) memory_.template as<Text>(at).setUp(ms);
      } else if (device.kind == DIGITS) memory_.template as<Digits>(at).begin();
      else if (device.kind == COLOUR) device.flags |= CHANGED;
    }
  }

  /** Whoever is through is told, and the next that wants something has its turn. */
  void runBus(uint32_t now, uint16_t ms) {
    for (uint8_t left = Chip::PIECES; left > 0; left--) {
      const hardware::Bus bus = hardware::busState();
      if (bus == hardware::Bus::BUSY) {
        // Somebody holds a line: nobody can talk, and nobody waits for it.
        if (now - busFrom_ < BUS_US) return;
        hardware::busReset();
      }
      if (busUser_ != NOBODY) tellBusUser(bus == hardware::Bus::DONE, ms);
      if (!startNext(ms)) return;
      busFrom_ = now;
      hardware::busStart(job_.address, job_.out, job_.outCount, job_.in, job_.inCount);
    }
  }

  void tellBusUser(bool well, uint16_t ms) {
    if (busUser_ < DISPLAYS_FROM) chains_.done(static_cast<uint8_t>(busUser_), job_, well);
    else if (!well) memory_.template as<Text>(static_cast<uint16_t>(busUser_ - DISPLAYS_FROM)).setUp(ms);
    busUser_ = NOBODY;
  }

  /** In turn: chips, then displays, beginning behind whoever had the last. */
  bool startNext(uint16_t ms) {
    const uint8_t chips = chains_.count();
    for (uint8_t i = 0; i <= chips; i++) {
      if (++busTurn_ > chips) busTurn_ = 0;
      if (busTurn_ < chips) {
        if (!chains_.next(busTurn_, job_)) continue;
        busUser_ = busTurn_;
        return true;
      }
      for (uint16_t at = devices_; at != 0; at = memory_.template as<Device>(at).next) {
        if (memory_.template as<Device>(at).kind != TEXT) continue;
        Text& text = memory_.template as<Text>(at);
        Text::Piece piece;
        if (text.address == 0 || !text.next(ms, piece)) continue;
        text.write(piece, job_);
        busUser_ = static_cast<uint16_t>(DISPLAYS_FROM + at);
        return true;
      }
    }
    return false;
  }

  const Kept& kept_;
  Memory memory_;
  Chains<Memory, Kept, Chip::CHAINS> chains_;
  Job job_;
  uint32_t shown_ = 0;
  uint32_t busFrom_ = 0;
  uint16_t count_ = 0;
  Range inputs_, onPins_;
  uint16_t devices_ = 0;
  uint16_t busUser_ = NOBODY;
  uint8_t busTurn_ = 0;
  uint8_t lastMs_ = 0;
  uint8_t shownMs_ = 0;
  uint8_t round_ = 0;
  bool isOther_ = true;
};
