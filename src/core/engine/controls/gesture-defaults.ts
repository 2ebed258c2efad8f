/** Gestures of a binding that says nothing of its own, in milliseconds. */
export const gestureDefaults = { longMs: 500, doubleMs: 300, delayMs: 500, intervalMs: 120 } as const
