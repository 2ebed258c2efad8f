#include <avr/interrupt.h>
#include "../../core/board.hpp"
#include "chip.hpp"
#include "clock.hpp"
#include "timers.hpp"
#include "uart.hpp"

static Board<ChipRoom> board;

int main() {
  clock::begin();
  timers_of::begin();
  uart::begin();
  sei();
  board.begin(clock::micros());
  for (;;) {
    uint8_t byte;
    while (uart::take(byte)) board.receive(byte, clock::micros());
    board.step(clock::micros());
  }
}
