import type { ControlSettings } from '../../rig/binding'
import type { ControlUnit } from '../units'

const nowhere: readonly string[] = []

/** Positions of a switch that are only passed through. */
export const skippedPositions = ({ settings }: ControlUnit): readonly string[] =>
  settings?.kind === 'positions' ? (settings.skips ?? nowhere) : nowhere

/** Whether a gesture's position is the one its control stands in: the named one, or any but the first. */
export const isPressed = ({ position }: ControlSettings, control: ControlUnit): boolean => {
  const { aspect } = control
  if (aspect.kind !== 'positions' || control.position === null) return false
  return position === undefined ? control.position !== aspect.positions[0].id : control.position === position
}
