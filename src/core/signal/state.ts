/** What an indicator shows, as one plain value: a packed lamp, tenths of a degree, digits, a page, colours. */
export type State = number | string
