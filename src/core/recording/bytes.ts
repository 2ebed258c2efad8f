/** Bytes that grow as they are written; whole numbers take as many of them as they need. */
export class ByteWriter {
  private bytes = new Uint8Array(1024)
  length = 0

  private room(more: number): void {
    if (this.length + more <= this.bytes.length) return
    const bytes = new Uint8Array(Math.max(this.bytes.length * 2, this.length + more))
    bytes.set(this.bytes.subarray(0, this.length))
    this.bytes = bytes
  }

  byte(value: number): void {
    this.room(1)
    this.bytes[this.length++] = value
  }

  /** A whole number from 0 to 2^53: seven bits a byte, the lowest first. */
  whole(value: number): void {
    this.room(8)
    let rest = value
    while (rest >= 0x80) {
      this.bytes[this.length++] = (rest % 0x80) | 0x80
      rest = Math.floor(rest / 0x80)
    }
    this.bytes[this.length++] = rest
  }

  raw(bytes: Uint8Array): void {
    this.room(bytes.length)
    this.bytes.set(bytes, this.length)
    this.length += bytes.length
  }

  done(): Uint8Array {
    return this.bytes.subarray(0, this.length)
  }
}

/** Reads what a `ByteWriter` wrote. Throws where there is no more to read. */
export class ByteReader {
  private at = 0

  constructor(private readonly bytes: Uint8Array) {}

  byte(): number {
    const value = this.bytes[this.at++]
    if (value === undefined) throw new Error('it ends too early')
    return value
  }

  whole(): number {
    let value = 0
    for (let scale = 1; ; scale *= 0x80) {
      if (scale > 2 ** 49) throw new Error('a number in it is too large')
      const byte = this.byte()
      value += (byte & 0x7f) * scale
      if (byte < 0x80) return value
    }
  }

  raw(length: number): Uint8Array {
    if (this.at + length > this.bytes.length) throw new Error('it ends too early')
    const bytes = this.bytes.subarray(this.at, this.at + length)
    this.at += length
    return bytes
  }
}
