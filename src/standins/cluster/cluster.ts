// The cluster knows its messages as its maker wrote them down, byte by byte; nothing of it comes from a database.

/** As quickly as its needles turn: in 1/min and km/h for each second, and how long they take to settle. */
const ENGINE_PER_S = 6000
const ROAD_PER_S = 55
const LAG_S = 0.14
/** Without a sound message for so long it lets its needles fall. */
const PATIENCE_S = 0.5

const ENGINE = 0x280
const ROAD = 0x290
const LAMPS = 0x2a0
const TELLS = 0x5a0

/** CRC-8/SAE-J1850 by its definition, bit by bit. */
const crc8 = (bytes: readonly number[]): number => {
  let crc = 0xff
  for (const byte of bytes)
    for (let bit = 7; bit >= 0; bit--) {
      const top = (crc >> 7) ^ ((byte >> bit) & 1)
      crc = (crc << 1) & 0xff
      if (top) crc ^= 0x1d
    }
  return crc ^ 0xff
}

/** An instrument cluster on a bus: it wants counts that go on and checks that hold, and its needles take their time. */
export class Cluster {
  engine = 0
  road = 0
  gear = 0
  lamps = 0
  light = 0
  refused = 0
  private toldEngine = 0
  private toldRoad = 0
  private heardS = Number.NEGATIVE_INFINITY
  private readonly counts = new Map<number, number>()

  /** A message from the bus. */
  take(id: number, data: Uint8Array, nowS: number): void {
    if (id === LAMPS && data.length >= 2) {
      this.lamps = data[0] as number
      this.light = data[1] as number
      return
    }
    if ((id !== ENGINE && id !== ROAD) || data.length < 8) return
    const count = (data[6] as number) >> 4
    const before = this.counts.get(id)
    this.counts.set(id, count)
    const follows = before === undefined || count === ((before + 1) & 15)
    if (!follows || crc8([...data.subarray(0, 7)]) !== data[7]) {
      this.refused = (this.refused + 1) & 255
      return
    }
    this.heardS = nowS
    if (id === ENGINE) this.toldEngine = ((data[2] as number) | ((data[3] as number) << 8)) / 4
    else {
      this.toldRoad = (((data[0] as number) << 8) | (data[1] as number)) / 100
      const gear = (data[2] as number) & 15
      this.gear = gear > 7 ? gear - 16 : gear
    }
  }

  get awake(): boolean {
    return this.heardS > Number.NEGATIVE_INFINITY
  }

  step(nowS: number, dt: number): void {
    if (nowS - this.heardS > PATIENCE_S) {
      this.heardS = Number.NEGATIVE_INFINITY
      this.toldEngine = 0
      this.toldRoad = 0
    }
    const toward = (at: number, told: number, perS: number): number => {
      const wanted = (told - at) * (1 - Math.exp(-dt / LAG_S))
      return at + Math.max(-perS * dt, Math.min(perS * dt, wanted))
    }
    this.engine = toward(this.engine, this.toldEngine, ENGINE_PER_S)
    this.road = toward(this.road, this.toldRoad, ROAD_PER_S)
  }

  /** What it tells of itself. */
  tells(): { readonly id: number; readonly data: Uint8Array } {
    const engine = Math.round(this.engine * 4)
    const road = Math.round(this.road * 100)
    return {
      id: TELLS,
      data: Uint8Array.of(
        engine & 255,
        engine >> 8,
        road & 255,
        road >> 8,
        this.awake ? 1 : 0,
        this.refused,
        0,
        0,
      ),
    }
  }
}
