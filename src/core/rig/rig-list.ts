/** A rig among those that are kept, as it is listed. */
export interface ListedRig {
  readonly id: string
  readonly name: string
  readonly open: boolean
  /** Put aside: it is kept, and can be brought back. */
  readonly removed: boolean
  readonly panels: number
  readonly parts: number
  readonly boards: number
  /** When it was last edited, or begun; as text of ISO 8601. */
  readonly changedAt: string
}
