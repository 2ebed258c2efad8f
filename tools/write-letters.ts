import { writeFileSync } from 'node:fs'
import { faceTables, hersheyTable } from './letters'

writeFileSync('src/core/lettering/face-tables.ts', faceTables(process.cwd()))
writeFileSync('src/core/lettering/hershey.ts', hersheyTable(process.cwd()))
