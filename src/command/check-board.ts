import { checkBoard } from '../check/board'
import { USUAL_SPEED } from '../core/connections/board-serial'
import { runCheck, usage } from './check-run'
import { hostAndPortOf, serialWire, tcpWire } from './wires'

const USAGE = `Usage: bin/check-board PATH|HOST:PORT [--speed ${USUAL_SPEED}]
Speaks the board link (docs/board-link.md) with what answers there, tries every message, good and bad, and says what is
right, wrong and missing. It lights lamps for a moment and loads what the board holds once more. Clavik must have let go
of the port.`

const args = process.argv.slice(2)
const named = args.indexOf('--speed')
const speed = named < 0 ? USUAL_SPEED : Number(args.splice(named, 2)[1])
const [place] = args
if (args.length !== 1 || place === undefined || !Number.isInteger(speed) || speed < 300) usage(USAGE)
else {
  const tcp = hostAndPortOf(place)
  await runCheck((findings) =>
    checkBoard(tcp ? tcpWire(tcp.host, tcp.port) : serialWire(place, speed), findings),
  )
}
