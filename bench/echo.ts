import { connect } from 'node:net'

/** A bare echo through the same sockets: what the board says goes to the simulator, and back, untouched. */
const [boardPort, simulatorPort] = (process.env.CLAVIK_ECHO ?? '').split(',').map(Number)
const board = connect({ host: '127.0.0.1', port: boardPort ?? 0, noDelay: true })
const simulator = connect({ host: '127.0.0.1', port: simulatorPort ?? 0, noDelay: true })
board.on('data', (bytes) => simulator.write(bytes))
simulator.on('data', (bytes) => board.write(bytes))
process.on('SIGTERM', () => process.exit(0))
