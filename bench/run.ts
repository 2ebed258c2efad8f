import { benchBoardLine } from './board-line'
import { benchExpression } from './compiled-expression'
import { benchContactToLamp } from './contact-to-lamp'
import { benchEngineFrame } from './engine-frame'
import { benchMemory } from './memory'

benchEngineFrame()
benchExpression()
benchBoardLine()
benchMemory()
await benchContactToLamp()
process.exit(0)
