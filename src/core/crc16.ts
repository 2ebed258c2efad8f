/** What each byte does to the checksum. */
const crcTable = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = byte << 8
  for (let i = 0; i < 8; i++) crc = crc & 0x8000 ? ((crc << 1) ^ 0x1021) & 0xffff : (crc << 1) & 0xffff
  return crc
})

/** CRC-16/IBM-3740 (polynomial 0x1021, start 0xFFFF), as in ITU-T V.41 without reflection, over the first `length` bytes. */
export const crc16 = (bytes: Uint8Array, length = bytes.length): number => {
  let crc = 0xffff
  for (let i = 0; i < length; i++) {
    crc = ((crc << 8) & 0xffff) ^ (crcTable[(crc >> 8) ^ (bytes[i] as number)] as number)
  }
  return crc
}
