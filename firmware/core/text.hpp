// Text displays: an HD44780U (data sheet ADE-207-272) on six lines of its own in its four-bit mode, or behind a PCF8574
// (SCPS068) on the two-wire bus.
#pragma once
#include "bus.hpp"
#include "devices.hpp"
#include "hardware.hpp"

struct Text : Device {
  uint8_t columns, rows, address;
  /** Rows that were told, and rows that are to be written anew, by bits. */
  uint8_t told, changed;
  uint8_t stage, row, column;
  /** Not before this millisecond. */
  uint16_t waits;
  uint32_t hashes[1];

  static constexpr uint16_t bytesFor(uint16_t columns, uint16_t rows) {
    return static_cast<uint16_t>(sizeof(Text) + (rows - 1) * sizeof(uint32_t) + columns * rows);
  }
  uint8_t* shown(uint8_t row) { return reinterpret_cast<uint8_t*>(hashes + rows) + row * columns; }
  uint8_t allRows() const { return static_cast<uint8_t>((1 << rows) - 1); }

  void blank() {
    for (uint8_t r = 0; r < rows; r++)
      for (uint8_t i = 0; i < columns; i++) shown(r)[i] = ' ';
    changed = allRows();
  }

  void take(uint8_t to, const uint8_t* bytes, uint8_t count) {
    for (uint8_t i = 0; i < columns; i++) shown(to)[i] = i < count ? bytes[i] : ' ';
    changed = static_cast<uint8_t>(changed | (1 << to));
  }

  /** Begins anew, as after power came on: whatever it was in the middle of, it listens again. */
  void setUp(uint16_t ms) {
    stage = 0;
    waits = static_cast<uint16_t>(ms + 50);
  }

  /** What is told next: half a byte or a byte, to its registers or to what it shows. */
  struct Piece {
    uint8_t value;
    bool isHalf, isData;
  };

  bool next(uint16_t ms, Piece& piece) {
    if (static_cast<int16_t>(ms - waits) < 0) return false;
    piece = Piece{0, false, false};
    if (stage < SET) {
      // Eight bits three times, which it understands in every state; then four. Data sheet, figure 24.
      static constexpr uint8_t begins[] = {0x30, 0x30, 0x30, 0x20, 0x28, 0x0c, 0x06};
      piece.value = begins[stage];
      piece.isHalf = stage < 4;
      waits = static_cast<uint16_t>(ms + (stage < 3 ? 6 : 0));
      if (++stage == SET) {
        changed = allRows();
        column = AT_ROW;
      }
      return true;
    }
    if (column == AT_ROW) {
      if (changed == 0) return false;
      for (row = 0; !(changed & (1 << row)); row++) {
      }
      changed = static_cast<uint8_t>(changed & ~(1 << row));
      column = 0;
      // Its rows lie in two halves of 64; the third and fourth go on where the first and second end.
      piece.value = static_cast<uint8_t>(0x80 | ((row & 1) * 0x40 + (row >> 1) * columns));
      return true;
    }
    piece.value = glyph(shown(row)[column]);
    piece.isData = true;
    if (++column == columns) column = AT_ROW;
    return true;
  }

  /** Tells it a piece on lines of its own: register select, enable, data 4 to 7. */
  template <typename Pins>
  static void write(const Pins& pins, const Piece& piece) {
    hardware::drive(pins[0], piece.isData);
    half(pins, static_cast<uint8_t>(piece.value >> 4));
    if (!piece.isHalf) half(pins, piece.value & 15);
  }

  /** The same as bytes to the PCF8574, lit from behind. */
  void write(const Piece& piece, Job& job) const {
    const uint8_t lines = static_cast<uint8_t>(LIGHT | (piece.isData ? 1 : 0));
    job.address = address;
    job.inCount = 0;
    job.outCount = 0;
    const auto half = [&](uint8_t bits) {
      job.out[job.outCount++] = static_cast<uint8_t>((bits & 0xf0) | lines | ENABLE);
      job.out[job.outCount++] = static_cast<uint8_t>((bits & 0xf0) | lines);
    };
    half(piece.value);
    if (!piece.isHalf) half(static_cast<uint8_t>(piece.value << 4));
  }

 private:
  static constexpr uint8_t SET = 7;
  static constexpr uint8_t AT_ROW = 0xff;
  static constexpr uint8_t ENABLE = 4;
  static constexpr uint8_t LIGHT = 8;

  template <typename Pins>
  static void half(const Pins& pins, uint8_t bits) {
    for (uint8_t k = 0; k < 4; k++) hardware::drive(pins[static_cast<uint8_t>(2 + k)], (bits & (1 << k)) != 0);
    hardware::drive(pins[1], true);
    hardware::drive(pins[1], false);
  }

  /** What its own characters have for those of ISO 8859-1: data sheet, table 4, ROM code A00. Its tilde is an arrow. */
  static uint8_t glyph(uint8_t c) {
    switch (c) {
      case 0xb0:
        return 0xdf;
      case 0xb5:
        return 0xe4;
      case 0xe4:
        return 0xe1;
      case 0xf6:
        return 0xef;
      case 0xfc:
        return 0xf5;
      case 0xdf:
        return 0xe2;
      case 0xf1:
        return 0xee;
      case 0xf7:
        return 0xfd;
      default:
        return c < 0x20 ? ' ' : c < 0x80 ? c : '?';
    }
  }
};
