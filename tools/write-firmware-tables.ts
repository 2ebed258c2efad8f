import { writeFileSync } from 'node:fs'
import { abilityTable, fontTable } from './firmware-tables'

writeFileSync('firmware/core/font.hpp', fontTable())
writeFileSync('firmware/chips/avr/abilities.hpp', abilityTable())
