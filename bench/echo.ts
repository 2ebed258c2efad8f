import { connect } from 'node:net'
import { hostEnd } from '../src/links/board-link'

/**
 * The way of a contact with nothing in the middle: whatever the board says, the simulator is told the same line, and
 * whatever it answers, the board gets the same frame. Lines and frames are made before the first is needed.
 */
const [boardPort, simulatorPort, lampSlot] = (process.env.CLAVIK_ECHO ?? '').split(',').map(Number)
const board = connect({ host: '127.0.0.1', port: boardPort ?? 0, noDelay: true })
const simulator = connect({ host: '127.0.0.1', port: simulatorPort ?? 0, noDelay: true })
const link = hostEnd()
const frames = [1, 0].map(
  (state) => link.encode({ say: 'outputs', outputs: [{ slot: lampSlot ?? 0, state }] }).bytes,
)
let told = 0
let asked = false
board.on('data', () => {
  asked = true
  simulator.write('{"say":"set","id":1,"i":0,"v":1}\n')
})
simulator.on('data', () => {
  if (!asked) return
  asked = false
  board.write(frames[told++ % frames.length] as Uint8Array)
})
process.on('SIGTERM', () => process.exit(0))
