import { checkBoard } from '../check/board'
import { type Joint, jointOf } from '../check/joints'
import { wallClock } from '../check/wire'
import { USUAL_SPEED } from '../core/connections/board-serial'
import { runCheck, usage } from './check-run'
import { hostAndPortOf, serialWire, tcpWire } from './wires'

const USAGE = `Usage: bin/check-board PATH|HOST:PORT [--speed ${USUAL_SPEED}] [--joined OUT:IN[,OUT:IN]]
Speaks the board link (docs/board-link.md) with what answers there, tries every message, good and bad, and says what is
right, wrong and missing. It lights lamps for a moment, shows something on whatever else it drives, and loads what the board holds once more. Clavik must have let go
of the port.
Pins by the board's own numbers that you have joined by a wire with a kiloohm in it, as in --joined 8:2,9:3, are driven
and watched, too; two joints make an encoder. What the board held is loaded again afterwards.`

const args = process.argv.slice(2)
const named = args.indexOf('--speed')
const speed = named < 0 ? USUAL_SPEED : Number(args.splice(named, 2)[1])
const joined = args.indexOf('--joined')
const joints = joined < 0 ? [] : (args.splice(joined, 2)[1] ?? '').split(',').map(jointOf)
const areJoints = (list: readonly (Joint | null)[]): list is readonly Joint[] => !list.includes(null)
const [place] = args
if (args.length !== 1 || place === undefined || !Number.isInteger(speed) || speed < 300 || !areJoints(joints))
  usage(USAGE)
else {
  const tcp = hostAndPortOf(place)
  await runCheck((findings) =>
    checkBoard(tcp ? tcpWire(tcp.host, tcp.port) : serialWire(place, speed), findings, wallClock, joints),
  )
}
