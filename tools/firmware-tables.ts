import type { BoardModel, PinAbility } from '../src/core/catalogue/board-model'
import { atmega32u4 } from '../src/core/catalogue/boards/atmega32u4'
import { atmega328pSmall } from '../src/core/catalogue/boards/atmega328p'
import { atmega2560 } from '../src/core/catalogue/boards/atmega2560'
import { segmentBits } from '../src/core/signal/segments'

const note =
  '// Written by `npm run firmware-tables` from the records in src/core.\n#pragma once\n#include <stdint.h>\n'

/** Segments of the printable characters of ASCII, then of the two that bars and degrees have beyond it. */
export const fontTable = (): string => {
  const rows: string[] = []
  for (let from = 0x20; from < 0x80; from += 16) {
    const bits = Array.from({ length: 16 }, (_, i) => segmentBits(String.fromCharCode(from + i)))
    rows.push(`    ${bits.map((b) => `0x${b.toString(16).padStart(2, '0')}`).join(', ')},`)
  }
  return `${note}#include <words.hpp>

constexpr uint8_t FIRST_GLYPH = 0x20;
constexpr uint8_t segmentBits[] STAYS = {
${rows.join('\n')}
};

/** Segments a to g of a character, a lowest. */
inline uint8_t segmentsOf(uint8_t c) {
  if (c == 0xaf) return 0x${segmentBits('¯').toString(16).padStart(2, '0')};
  if (c == 0xb0) return 0x${segmentBits('°').toString(16).padStart(2, '0')};
  return c < FIRST_GLYPH || c >= 0x80 ? 0 : fixed8(&segmentBits[c - FIRST_GLYPH]);
}
`
}

const chips: readonly [macro: string, model: BoardModel][] = [
  // The small boards have all pins of the large ones, and two more.
  ['__AVR_ATmega328P__', { ...atmega328pSmall, name: 'ATmega328P board' }],
  ['__AVR_ATmega2560__', atmega2560],
  ['__AVR_ATmega32U4__', atmega32u4],
]

const list = (name: string, pins: readonly number[]): string =>
  `constexpr uint8_t ${name}[] = {${pins.join(', ')}};`

/** What the pins of each chip's boards can do, as the interface has it. */
export const abilityTable = (): string => {
  const can = (model: BoardModel, ability: PinAbility) =>
    model.pins.filter((p) => p.abilities.includes(ability)).map((p) => p.number)
  const parts = chips.map(([macro, model], i) => {
    const [data] = can(model, 'two-wire-data')
    const [clock] = can(model, 'two-wire-clock')
    return `${i === 0 ? '#if' : '#elif'} defined(${macro})
struct Abilities {
  static constexpr uint8_t PINS = ${model.pins.length};
  static constexpr uint8_t FIRST_ANALOG = ${model.pins.find((p) => p.name === 'A0')?.number};
  static constexpr uint8_t BUS_DATA = ${data};
  static constexpr uint8_t BUS_CLOCK = ${clock};
  static constexpr uint16_t MEMORY_BYTES = ${model.works?.bytes};
  static constexpr uint16_t SLOTS = ${model.works?.slots};
  static constexpr uint8_t CHAINS = ${model.works?.chips};
};
namespace abilities {
${list('PWM', can(model, 'pwm'))}
${list('STEPS', can(model, 'steps'))}
${list('FREQUENCY', can(model, 'frequency'))}
}  // namespace abilities
#define MODEL "${model.name}"
`
  })
  return `${note}
${parts.join('\n')}
#else
#error "This chip has no record"
#endif
`
}
