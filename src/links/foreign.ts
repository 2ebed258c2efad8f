/** What speaks, where its first bytes tell that it is something well known and not what was called for; or null. */
export const foreignWords = (first: string): string | null => {
  const start = first.replace(/^\0+/, '').trimStart()
  if (/^(HTTP\/\d|<!doctype html|<html)/i.test(start)) return 'a web server answers there'
  if (start.startsWith('SSH-')) return 'a login server (SSH) answers there'
  if (/^220[ -]/.test(start)) return 'a mail or file server answers there'
  if (start.startsWith('{"say":')) return 'it speaks the simulator link'
  return null
}

/** The first bytes that came over a line, as text, as far as that tells who speaks. */
export class FirstBytes {
  text = ''

  take(bytes: Uint8Array): void {
    if (this.text.length >= 64) return
    for (const b of bytes.subarray(0, 64 - this.text.length)) this.text += String.fromCharCode(b)
  }
}
