import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, describe, expect, it } from 'vitest'
import { until } from '../../tests/app'
import { pressables, pressedAs } from '../core/keys/keys'
import { KeysClient } from './keys-client'
import { HelperLine, ShownLine } from './lines/helper-line'
import type { LineEvents } from './lines/line'

const HELPER = 'src/hub/keys/press.py'
const clients: KeysClient[] = []
afterEach(() => {
  for (const c of clients.splice(0)) c.close('over')
})

const begin = (isReal: boolean, make: (events: LineEvents) => HelperLine | ShownLine) => {
  const told: Record<string, unknown> = {}
  const answers: (string | null)[] = []
  const client: KeysClient = new KeysClient('k', isReal, make, {
    described: () => client.subscribe('all', true),
    up: () => {},
    quiet: () => {},
    frame: (indexes, values) => {
      for (const [k, i] of indexes.entries()) told[pressables[i]?.name ?? ''] = values[k]
    },
    answer: (_, problem) => answers.push(problem),
  })
  clients.push(client)
  client.open()
  return { client, told, answers }
}

const indexOf = (name: string): number => pressables.findIndex((p) => p.name === name)

it('keys have the numbers that the system’s own headers give them', () => {
  const header = readFileSync('/usr/include/linux/input-event-codes.h', 'utf8')
  const defined = new Map(
    [...header.matchAll(/^#define\s+((?:KEY|BTN|ABS)_\w+)\s+(0x[0-9a-f]+|\d+)/gim)].map((m) => [
      m[1],
      Number(m[2]),
    ]),
  )
  const written: Readonly<Record<string, string>> = {
    ...{ 'key.escape': 'ESC', 'key.bracket.left': 'LEFTBRACE', 'key.bracket.right': 'RIGHTBRACE' },
    ...{
      'key.page.up': 'PAGEUP',
      'key.page.down': 'PAGEDOWN',
      'key.pad.times': 'KPASTERISK',
      'key.pad.point': 'KPDOT',
      'key.point': 'DOT',
    },
  }
  const named = (name: string): string => {
    const bare = name.slice(4)
    const side = /^(control|shift|alt)\.(left|right)$/.exec(bare)
    if (side) return `${side[2]}${side[1] === 'control' ? 'ctrl' : side[1]}`.toUpperCase()
    return written[name] ?? bare.replace(/^pad\./, 'KP').toUpperCase()
  }
  const keys = pressables.filter((p) => p.is === 'key')
  expect(keys.length).toBeGreaterThan(95)
  for (const k of keys) expect(defined.get(`KEY_${named(k.name)}`), k.name).toBe(k.code)
  expect(pressables.find((p) => p.name === 'button.1')?.code).toBe(defined.get('BTN_TRIGGER'))
  expect(pressables.find((p) => p.name === 'button.17')?.code).toBe(defined.get('BTN_TRIGGER_HAPPY1'))
  expect(pressables.find((p) => p.name === 'axis.rudder')?.code).toBe(defined.get('ABS_RUDDER'))
  expect(new Set(pressables.map((p) => p.name)).size).toBe(pressables.length)
})

describe('the helper that presses', () => {
  it('speaks to the system as its own headers say', () => {
    const folder = mkdtempSync(join(tmpdir(), 'clavik-uinput-'))
    try {
      const names = [
        'UI_DEV_CREATE',
        'UI_DEV_DESTROY',
        'UI_DEV_SETUP',
        'UI_ABS_SETUP',
        'UI_SET_EVBIT',
        'UI_SET_KEYBIT',
        'UI_SET_ABSBIT',
      ]
      const source = `#include <linux/uinput.h>\n#include <stdio.h>\nint main() { ${names.map((n) => `printf("${n} = 0x%X\\n", (unsigned)${n});`).join(' ')} printf("%zu %zu %zu", sizeof(uinput_setup), sizeof(uinput_abs_setup), sizeof(input_event)); }`
      writeFileSync(join(folder, 'u.cpp'), source)
      execFileSync('g++', ['-o', join(folder, 'u'), join(folder, 'u.cpp')])
      const theirs = execFileSync(join(folder, 'u')).toString().split('\n')
      const ours = readFileSync(HELPER, 'utf8')
      for (const line of theirs.slice(0, names.length)) expect(ours).toContain(line)
      expect(theirs.at(-1)).toBe('92 28 24')
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  })

  it('makes a keyboard and a controller, and writes what is pressed as the kernel reads it', () => {
    // The system’s calls are written down in place of being made.
    const wrapper = `
import fcntl, os, runpy, sys
made = []
fcntl.ioctl = lambda fd, request, arg=0: made.append((fd, request, len(arg) if isinstance(arg, bytes) else arg))
real = os.open
opened = []
def fake(path, flags):
    opened.append(path)
    return 100 + len(opened)
os.open = fake
os.write = lambda fd, data: sys.stderr.write("%d %s\\n" % (fd, data.hex())) and len(data)
sys.argv = ["press.py", "30,57", "288", "0"]
runpy.run_path("${HELPER}", run_name="__main__")
sys.stderr.write("made %r %r\\n" % (opened, made))
`
    const { stdout, stderr } = spawnSync('python3', ['-c', wrapper], {
      input: '1 30 1\nnonsense\n1 30 0\n3 0 -32767\n1 288 1\n',
    })
    expect(stdout.toString()).toBe('ready\n')
    const lines = stderr.toString().trim().split('\n')
    const events = lines.slice(0, -1).map((l) => {
      const [fd, hex = ''] = l.split(' ')
      const b = Buffer.from(hex, 'hex')
      // An event, then the one that ends a report; 24 bytes each.
      expect([b.length, b.readUInt16LE(40), b.readUInt16LE(42), b.readInt32LE(44)]).toEqual([48, 0, 0, 0])
      return [Number(fd), b.readUInt16LE(16), b.readUInt16LE(18), b.readInt32LE(20)]
    })
    expect(events).toEqual([
      [101, 1, 30, 1],
      [101, 1, 30, 0],
      [102, 3, 0, -32_767],
      [102, 1, 288, 1],
    ])
    // Sizes of what is set up are those of the kernel’s structures.
    expect(lines.at(-1)).toContain('(101, 1079792899, 92)')
    expect(lines.at(-1)).toContain('(102, 1075598596, 28)')
  })

  it('says why where it may not, and that is what the builder reads', async () => {
    const { client } = begin(
      true,
      (events) =>
        new HelperLine(
          () => ['python3', HELPER, '30', '288', '0'],
          () => 'this computer',
          events,
        ),
    )
    await until('it is said', () => client.problem?.startsWith('nothing can be pressed: ') === true)
    expect(client.up).toBe(false)
    expect(client.cure).toContain('/dev/uinput')
    const none = begin(
      true,
      (events) =>
        new HelperLine(
          () => ['no-such-python'],
          () => 'this computer',
          events,
        ),
    )
    await until('it is said', () => none.client.problem === 'no-such-python is not on this computer')
  })

  it('lets go of everything when Clavik ends, however it ends: it ends with its input', async () => {
    const child = spawn('python3', [
      '-c',
      `import sys\nprint("ready", flush=True)\nfor line in sys.stdin: pass`,
    ])
    const ended = new Promise((done) => child.on('exit', done))
    child.stdin.end()
    await ended
  })
})

describe('keys that are only shown', () => {
  it('are pressed and let go as they are told, and all of them when it is closed', async () => {
    const { client, told, answers } = begin(false, (events) => new ShownLine(events))
    await until('it is there', () => client.up)
    expect(client.odd).toEqual(['Nothing is really pressed: it is only shown.'])
    const sent: string[] = []
    client.line.tap = (_, data) => sent.push(String(data).trim())
    client.set(1, indexOf('key.space'), 1)
    client.set(2, indexOf('key.space'), 1)
    client.set(3, indexOf('axis.x'), -7)
    client.set(4, indexOf('button.17'), 1)
    client.set(5, indexOf('key.a'), 'x')
    expect(told).toMatchObject({ 'key.space': 1, 'axis.x': -1, 'button.17': 1, 'key.a': 0 })
    expect(answers).toEqual([null, null, null, null, 'Key a takes 0 or 1'])
    client.set(6, indexOf('key.space'), 0)
    client.close('over')
    // What is pressed already is not pressed again; what still is, is let go.
    expect(sent).toEqual(['1 57 1', '3 0 -32767', '1 704 1', '1 57 0', '3 0 0', '1 704 0'])
  })

  it('what is no number presses nothing', () => {
    const key = pressables[0] as (typeof pressables)[number]
    expect(
      [Number.NaN, 'a', null, undefined, Number.POSITIVE_INFINITY].map((v) => pressedAs(key, v)),
    ).toEqual(new Array(5).fill(null))
  })
})
