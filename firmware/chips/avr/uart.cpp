#include "uart.hpp"
#include <avr/interrupt.h>
#include <avr/io.h>

// The chip's first serial line; the ATmega32U4 has but its second.
#ifdef UDR0
#define LINE(a, b) a##0##b
#else
#define LINE(a, b) a##1##b
#endif

namespace uart {
namespace {

constexpr uint8_t IN = 128;
constexpr uint8_t OUT = 64;
volatile uint8_t in[IN];
volatile uint8_t inFrom = 0, inTo = 0;
volatile uint8_t out[OUT];
volatile uint8_t outFrom = 0, outTo = 0;

}  // namespace

void begin() {
  // 115,200 bits a second of 16 MHz at double speed: 16 gives 117,647, 2.1 % quick, as the data sheet's table has it.
  LINE(UBRR, ) = 16;
  LINE(UCSR, A) = _BV(LINE(U2X, ));
  LINE(UCSR, C) = _BV(LINE(UCSZ, 1)) | _BV(LINE(UCSZ, 0));
  LINE(UCSR, B) = _BV(LINE(RXEN, )) | _BV(LINE(TXEN, )) | _BV(LINE(RXCIE, ));
}

void send(uint8_t byte) {
  const uint8_t next = static_cast<uint8_t>((outTo + 1) % OUT);
  while (next == outFrom) {
  }
  out[outTo] = byte;
  outTo = next;
  LINE(UCSR, B) |= _BV(LINE(UDRIE, ));
}

uint8_t room() { return static_cast<uint8_t>((outFrom - outTo - 1) & (OUT - 1)); }

bool take(uint8_t& byte) {
  if (inFrom == inTo) return false;
  byte = in[inFrom];
  inFrom = static_cast<uint8_t>((inFrom + 1) % IN);
  return true;
}

}  // namespace uart

#if defined(USART1_RX_vect) && !defined(UDR0)
#define CAME USART1_RX_vect
#define EMPTY USART1_UDRE_vect
#elif defined(USART0_RX_vect)
#define CAME USART0_RX_vect
#define EMPTY USART0_UDRE_vect
#else
#define CAME USART_RX_vect
#define EMPTY USART_UDRE_vect
#endif

ISR(CAME) {
  const uint8_t byte = LINE(UDR, );
  const uint8_t next = static_cast<uint8_t>((uart::inTo + 1) % uart::IN);
  // What finds no room is lost: its frame is damaged then, is counted, and told again.
  if (next == uart::inFrom) return;
  uart::in[uart::inTo] = byte;
  uart::inTo = next;
}

// Asked for only while something waits, so that there always is a byte to be said.
ISR(EMPTY) {
  LINE(UDR, ) = uart::out[uart::outFrom];
  const uint8_t from = static_cast<uint8_t>((uart::outFrom + 1) % uart::OUT);
  uart::outFrom = from;
  if (from == uart::outTo) LINE(UCSR, B) &= static_cast<uint8_t>(~_BV(LINE(UDRIE, )));
}
