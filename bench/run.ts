import { benchExpression } from './compiled-expression'
import { benchContactToLamp } from './contact-to-lamp'
import { benchEngineFrame } from './engine-frame'

benchEngineFrame()
benchExpression()
await benchContactToLamp()
process.exit(0)
