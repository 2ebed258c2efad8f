/** Every kind of file that a recording can become. */
export const recordingFormats = {
  jsonl: { words: 'JSON Lines: all of it, to be played', type: 'application/jsonl', ending: 'jsonl' },
  changes: { words: 'CSV: a line a change', type: 'text/csv', ending: 'csv' },
  columns: { words: 'CSV: a column a value', type: 'text/csv', ending: 'csv' },
} as const

export type RecordingFormat = keyof typeof recordingFormats
export const recordingFormatNames = Object.keys(recordingFormats) as RecordingFormat[]
