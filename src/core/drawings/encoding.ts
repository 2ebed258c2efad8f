/** $DWGCODEPAGE of a DXF file that is older than its Unicode (before AC1021), as encodings are called on the web. */
const codePages: Readonly<Record<string, string>> = {
  ansi_874: 'windows-874',
  ansi_932: 'shift_jis',
  ansi_936: 'gbk',
  ansi_949: 'euc-kr',
  ansi_950: 'big5',
  ansi_1250: 'windows-1250',
  ansi_1251: 'windows-1251',
  ansi_1252: 'windows-1252',
  ansi_1253: 'windows-1253',
  ansi_1254: 'windows-1254',
  ansi_1255: 'windows-1255',
  ansi_1256: 'windows-1256',
  ansi_1257: 'windows-1257',
  ansi_1258: 'windows-1258',
}
/** Files say their encoding near their beginning. */
const HEAD_BYTES = 20_000

/** The text of a drawing's file: by its mark, by what it says of itself, else UTF-8, else the usual one of the west. */
export const decoded = (bytes: Uint8Array): string => {
  const [a, b] = bytes
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes)
  const head = new TextDecoder('windows-1252').decode(bytes.subarray(0, HEAD_BYTES))
  const said = inXml(head) ?? inDxf(head)
  if (said !== null)
    try {
      return new TextDecoder(said).decode(bytes)
    } catch {
      // An encoding that nobody knows says nothing.
    }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

const inXml = (head: string): string | null =>
  /^\s*<\?xml[^>]*\sencoding\s*=\s*["']([\w.:-]+)["']/.exec(head)?.[1]?.toLowerCase() ?? null

const inDxf = (head: string): string | null => {
  const version = /\$ACADVER\s+1\s+AC(\d{4})/.exec(head)?.[1]
  const page = /\$DWGCODEPAGE\s+3\s+(\S+)/.exec(head)?.[1]
  if (page === undefined || Number(version ?? 0) >= 1021) return null
  return codePages[page.toLowerCase()] ?? null
}
