/** Why a value does not get past a station, for those who act on it; the words beside it are for people. */
export type StopCode =
  /** It fits no aspect of its part; its part is left to the simulator; nothing is bound; it is switched off; it has a mistake; it has thrown something. */
  | 'stray'
  | 'left'
  | 'unbound'
  | 'off'
  | 'mistake'
  | 'fault'
  /** Terminals without a wire; a board that is away, or holds something else; contacts that cannot be closed together. */
  | 'unwired'
  | 'away'
  | 'not loaded'
  | 'contradiction'
  /** Another layer is active; its condition does not hold; it goes round in a loop. */
  | 'layer'
  | 'condition'
  | 'loop'
  /** Nothing flows; another binding has the say; it is driven by hand. */
  | 'held'
  | 'overridden'
  | 'exercised'
  /** The simulator is gone, or quiet; it has no value; none comes out; it is beyond limits; the simulator refused it. */
  | 'gone'
  | 'stale'
  | 'absent'
  | 'no value'
  | 'beyond'
  | 'refused'
