import { benchAssignment } from './assignment'
import { benchBoardLine } from './board-line'
import { benchExpression } from './compiled-expression'
import { benchContactToLamp } from './contact-to-lamp'
import { benchEngineFrame } from './engine-frame'
import { benchMemory } from './memory'
import { benchPanel } from './panel'

benchEngineFrame()
benchExpression()
benchBoardLine()
benchMemory()
await benchAssignment()
await benchPanel()
await benchContactToLamp()
process.exit(0)
