import { createInterface } from 'node:readline'
import { SerialPort } from 'serialport'
import { Chip } from './chip'

/**
 * An emulated chip at the far end of a serial port, as quick as the clock on the wall. What happens to its pins comes in as
 * lines of JSON, and so does what is asked of them: {"pin": 4, "closed": true} or {"pin": 8}.
 */
const chip = new Chip('atmega328p')
const port = new SerialPort({ path: process.argv[2] ?? '', baudRate: 115_200 })
const said: number[] = []
await chip.open({ received: (bytes) => said.push(...bytes), closed: () => {} })
port.on('data', (bytes: Buffer) => chip.receive(bytes))
let ranTo = performance.now()
setInterval(() => {
  const now = performance.now()
  // One that cannot keep up falls behind the wall's clock, and is a slower chip for a moment.
  chip.run(Math.min(20, now - ranTo))
  ranTo = now
  if (said.length > 0) port.write(Buffer.from(said.splice(0)))
}, 3)
createInterface({ input: process.stdin })
  .on('line', (line) => {
    const { pin, closed } = JSON.parse(line) as { pin: number; closed?: boolean }
    if (closed !== undefined) chip.contact(pin, closed)
    process.stdout.write(`${JSON.stringify({ pin, high: chip.isHigh(pin) })}\n`)
  })
  .on('close', () => process.exit(0))
process.stdout.write('running\n')
