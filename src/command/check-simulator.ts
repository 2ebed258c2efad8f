import { checkSimulator } from '../check/simulator'
import { runCheck, usage } from './check-run'
import { hostAndPortOf, tcpWire } from './wires'

const USAGE = `Usage: bin/check-simulator HOST:PORT [--event NAME]
Speaks the simulator link (docs/simulator-link.md) with what answers there, tries every message, good and bad, and says
what is right, wrong and missing. Variables are only set to what they are; an event is only sent if it is named.`

const args = process.argv.slice(2)
const named = args.indexOf('--event')
const event = named < 0 ? null : (args.splice(named, 2)[1] ?? usage(USAGE))
const place = args.length === 1 ? hostAndPortOf(args[0] as string) : null
if (!place) usage(USAGE)
else await runCheck((findings) => checkSimulator(tcpWire(place.host, place.port), findings, { event }))
