import type { FieldTypeName } from '../datagrams/field-type'
import type { DeviceDescription, SentValue } from './description'
import { fingerprintOf } from './fingerprint'
import { bytesOfSent, packetBytes } from './write-line'

const letters: Readonly<Record<FieldTypeName, string>> = {
  ...{ u8: 'B', i8: 'b', u16: 'H', i16: 'h', u32: 'I', i32: 'i', u64: 'Q', i64: 'q', f32: 'f', f64: 'd' },
}

/** A text as Python writes it: JSON's escapes are its own. */
const quoted = (text: string): string => JSON.stringify(text)

const head = (
  d: DeviceDescription,
  name: string,
): string => `"""Reads what Clavik sends to ${quoted(name.replace(/[\\"]/g, ' '))}.

Written for the description with the fingerprint ${fingerprintOf(d)}. Give whatever bytes come to Reader.feed(); it returns a list of
dictionaries, one for each ${d.form} that has come whole. Send HELLO back once at start, and whenever other_description has
become true, so that Clavik can say that the two ends no longer fit.
"""
${d.form === 'packet' ? 'import struct\n\n' : ''}FINGERPRINT = "${fingerprintOf(d)}"
HELLO = b"?${fingerprintOf(d)}\\n"


def check(data):
${checkCode[d.check]}

`

const checkCode = {
  none: '    return 0',
  xor: '    total = 0\n    for b in data:\n        total ^= b\n    return total',
  sum: '    return sum(data) & 255',
  'crc-16':
    '    total = 0xFFFF\n    for b in data:\n        total ^= b << 8\n        for _ in range(8):\n            total = ((total << 1) ^ 0x1021) & 0xFFFF if total & 0x8000 else (total << 1) & 0xFFFF\n    return total',
}

const comment = (s: SentValue): string => (s.unit ? `  # ${s.unit}` : '')

const lineReader = (d: DeviceDescription): string => `NAMES = [
${d.send.map((s) => `    (${quoted(s.name)}, ${s.as === 'text' ? 'str' : 'float'}),${comment(s)}`).join('\n')}
]


class Reader:
    def __init__(self):
        self.other_description = False
        self.bad = 0
        self.held = b""

    def feed(self, data):
        self.held += data
        whole = []
        while True:
            ends = [i for i in (self.held.find(b"\\n"), self.held.find(b"\\r")) if i >= 0]
            if not ends:
                # What never ends is no line.
                if len(self.held) > 65536:
                    self.held = b""
                    self.bad += 1
                return whole
            line, self.held = self.held[: min(ends)], self.held[min(ends) + 1 :]
            if line:
                values = self.take(line)
                if values is not None:
                    whole.append(values)

    def take(self, line):
${
  d.check === 'none'
    ? '        body = line\n'
    : `        body, star, told = line.rpartition(b"*")
        if not star or told.decode("ascii", "replace").upper() != "%0${d.check === 'crc-16' ? 4 : 2}X" % check(body):
            self.bad += 1
            return None
`
}        text = body.decode("utf-8", "replace")
        if not text.startswith(${quoted(d.begins)}):
            self.bad += 1
            return None
        parts = text[len(${quoted(d.begins)}) :].split(${quoted(d.separator)})
${
  d.marked
    ? `        self.other_description = parts[0] != FINGERPRINT
        if self.other_description:
            return None
        parts = parts[1:]
`
    : ''
}        if len(parts) != len(NAMES):
            self.bad += 1
            return None
        values = {}
        for (name, kind), part in zip(NAMES, parts):
${
  d.named
    ? `            if not part.startswith(name + "="):
                self.bad += 1
                return None
            part = part[len(name) + 1 :]
`
    : ''
}            try:
                values[name] = None if part == "" else kind(part)
            except ValueError:
                self.bad += 1
                return None
        return values
`

const packetReader = (d: DeviceDescription): string => {
  const size = packetBytes(d) + (d.marked ? 2 : 0)
  const tail = d.check === 'none' ? 0 : d.check === 'crc-16' ? 2 : 1
  const format = d.send.map((s) => (s.as === 'text' ? `${bytesOfSent(s)}s` : letters[s.as])).join('')
  return `SIZE = ${size}
WHOLE = ${2 + size + tail}
NAMES = [
${d.send.map((s) => `    (${quoted(s.name)}, ${s.as === 'text' ? 'True' : 'False'}),${comment(s)}`).join('\n')}
]


class Reader:
    def __init__(self):
        self.other_description = False
        self.bad = 0
        self.held = b""

    def feed(self, data):
        self.held += data
        whole = []
        # What does not hold is looked through for another beginning, so that a lost byte costs one packet and no more.
        while self.held:
            if self.held[0] != 0xA5 or (len(self.held) > 1 and self.held[1] != SIZE & 255):
                self.held = self.held[1:]
            elif len(self.held) < WHOLE:
                break
            elif ${tail === 0 ? 'True' : `check(self.held[: 2 + SIZE]) == int.from_bytes(self.held[2 + SIZE : WHOLE], "little")`}:
                values = self.take(self.held[2 : 2 + SIZE])
                if values is not None:
                    whole.append(values)
                self.held = self.held[WHOLE:]
            else:
                self.bad += 1
                self.held = self.held[1:]
        return whole

    def take(self, body):
${
  d.marked
    ? `        self.other_description = body[:2].hex().upper() != FINGERPRINT
        if self.other_description:
            return None
        body = body[2:]
`
    : ''
}        values = struct.unpack("<${format}", body)
        return {
            name: value.split(b"\\0")[0].decode("utf-8", "replace") if is_text else value
            for (name, is_text), value in zip(NAMES, values)
        }
`
}

/** The reading side in Python, ready to be put into a program. */
export const pythonSketch = (d: DeviceDescription, name: string): string =>
  head(d, name) + (d.form === 'line' ? lineReader(d) : packetReader(d))
