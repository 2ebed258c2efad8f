import { create } from 'zustand'

const KEY = 'clavik.sound'

const kept = (): boolean => {
  try {
    return localStorage.getItem(KEY) !== 'off'
  } catch {
    return true
  }
}

/** Whether steps sound when they are taken; kept in this browser. */
export const useSound = create<{ readonly on: boolean }>()(() => ({ on: true }))

/** Finds what was kept, once there is a browser. */
export const recallSound = (): void => useSound.setState({ on: kept() })

export const flipSound = (): void => {
  const on = !useSound.getState().on
  useSound.setState({ on })
  try {
    localStorage.setItem(KEY, on ? 'on' : 'off')
  } catch {
    // It is off for as long as the page is open.
  }
}

let context: AudioContext | null = null

const tones = { taken: [880, 0.14], 'not yet': [330, 0.22] } as const

/** One tone for a step that was taken, another for one that cannot be taken as it is. */
export const sound = (what: keyof typeof tones): void => {
  if (!useSound.getState().on) return
  context ??= new AudioContext()
  const [hertz, seconds] = tones[what]
  const now = context.currentTime
  const gain = new GainNode(context, { gain: 0 })
  const tone = new OscillatorNode(context, { frequency: hertz })
  gain.gain.setValueAtTime(0.18, now)
  gain.gain.exponentialRampToValueAtTime(0.001, now + seconds)
  tone.connect(gain).connect(context.destination)
  tone.start(now)
  tone.stop(now + seconds)
}
