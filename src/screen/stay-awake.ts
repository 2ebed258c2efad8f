interface WakeLocks {
  request(kind: 'screen'): Promise<{ addEventListener(of: 'release', heard: () => void): void }>
}

/** A picture of one dot that plays all the time: what keeps devices awake that know no other way. */
const playSomething = (): void => {
  const canvas = document.createElement('canvas') as HTMLCanvasElement & {
    captureStream?: (hz: number) => MediaStream
  }
  if (!canvas.captureStream) return
  canvas.width = canvas.height = 2
  const pen = canvas.getContext('2d')
  const video = document.createElement('video')
  video.muted = true
  video.setAttribute('playsinline', '')
  video.srcObject = canvas.captureStream(2)
  let even = false
  setInterval(() => {
    even = !even
    if (!pen) return
    pen.fillStyle = even ? '#000000' : '#010101'
    pen.fillRect(0, 0, 2, 2)
  }, 1000)
  const play = () => void video.play().catch(() => {})
  play()
  // Some only let it play once somebody has touched them.
  document.addEventListener('pointerdown', play)
}

/** Keeps the device's display on while this page is to be seen. */
export const stayAwake = (): void => {
  const { wakeLock } = navigator as unknown as { wakeLock?: WakeLocks }
  // Known only on pages that are reached safely, which one of another computer in the house is not.
  if (!wakeLock) {
    playSomething()
    return
  }
  const ask = () => {
    if (document.visibilityState !== 'visible') return
    wakeLock.request('screen').catch(() => {})
  }
  ask()
  document.addEventListener('visibilitychange', ask)
}
