/** One message on a vehicle bus: CAN 2.0 (ISO 11898-1), with 11 or 29 bits of identifier and up to eight bytes. */
export interface BusFrame {
  readonly id: number
  readonly extended: boolean
  readonly data: Uint8Array
}

/** One number for an identifier of either length. */
export const keyOf = (id: number, extended: boolean): number => (extended ? id + 2 ** 29 : id)

/** An identifier as people write it: three digits, or eight. */
export const idWords = (id: number, extended: boolean): string =>
  id
    .toString(16)
    .toUpperCase()
    .padStart(extended ? 8 : 3, '0')
