import { writeFileSync } from 'node:fs'
import { notices } from './notices'

writeFileSync('NOTICES.txt', notices(process.cwd()))
