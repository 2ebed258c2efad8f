import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

/** A file of the page that devices show: what it is, and its bytes. */
export interface ScreenFile {
  readonly type: string
  readonly bytes: Buffer | string
}

const fonts: Readonly<Record<string, string>> = {
  'words.woff2': '@fontsource/b612/files/b612-latin-400-normal.woff2',
  'words-bold.woff2': '@fontsource/b612/files/b612-latin-700-normal.woff2',
  'figures.woff2': '@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-400-normal.woff2',
  'figures-bold.woff2': '@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-700-normal.woff2',
}

const face = (family: string, weight: number, file: string): string =>
  `@font-face{font-family:"${family}";font-weight:${weight};src:url("/screen-files/${file}") format("woff2");font-display:swap}`

const STYLE = [
  face('B612', 400, 'words.woff2'),
  face('B612', 700, 'words-bold.woff2'),
  face('IBM Plex Mono', 400, 'figures.woff2'),
  face('IBM Plex Mono', 700, 'figures-bold.woff2'),
  'html,body{margin:0;height:100%;overflow:hidden;background:#0d1214;cursor:none}',
  'svg{display:block;width:100vw;height:100vh}',
  '#sign{position:fixed;left:0;right:0;bottom:0;padding:.5em 1em;background:#0d1214;color:#ffd9a8;font:18px "B612",sans-serif;text-align:center}',
  '#sign[hidden]{display:none}',
  '@keyframes blink{50%{opacity:0}}',
  '#screens{position:fixed;inset:12vh 0 auto;margin:0 auto;max-width:24em;padding:0 1em;list-style:none}',
  '#screens a{display:block;margin:.4em 0;padding:.7em 1em;border:1px solid #364147;color:#eef2ee;font:20px "B612",sans-serif;text-decoration:none}',
].join('\n')

/** Of the page on which a device is paired. */
const PAIRING_STYLE = `body{margin:0;background:#edefea;color:#13222b;font:18px/26px sans-serif}
main{max-width:26em;margin:10vh auto;padding:0 1em}h1{font-size:22px}
input{font:28px monospace;width:8em;padding:.2em .4em;border:1px solid #c3c9c4;border-radius:2px;display:block;margin:.4em 0 .8em}
button{font:18px sans-serif;padding:.5em 1.6em;background:#13222b;color:#edefea;border:0;border-radius:2px}`

/** The page that a device shows: no frame, no scroll bars, and a script that older browsers read as well. */
export const screenPage = (nonce: string): string =>
  [
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Clavik</title>',
    '<meta name="viewport" content="width=device-width,initial-scale=1,viewport-fit=cover">',
    '<meta name="mobile-web-app-capable" content="yes"><meta name="apple-mobile-web-app-capable" content="yes">',
    '<link rel="preload" as="font" type="font/woff2" href="/screen-files/figures.woff2" crossorigin>',
    '<link rel="stylesheet" href="/screen-files/style.css"></head>',
    '<body><svg xmlns="http://www.w3.org/2000/svg" role="img" aria-label="Screen"></svg><div id="sign" role="status"></div>',
    `<script nonce="${nonce}" src="/screen-files/device.js"></script></body></html>`,
  ].join('\n')

const scripts: Readonly<Record<string, string>> = {
  'device.js': 'screen-device.js',
  'parts.js': 'screen-parts.js',
}

const CSS = 'text/css; charset=utf-8'
const known = new Map<string, ScreenFile>([
  ['style.css', { type: CSS, bytes: STYLE }],
  ['pair.css', { type: CSS, bytes: PAIRING_STYLE }],
])

/** One of the files that the page is made of, or null. */
export const screenFile = (dir: string, name: string): ScreenFile | null => {
  const before = known.get(name)
  if (before) return before
  const font = Object.hasOwn(fonts, name) ? fonts[name] : undefined
  const path =
    font !== undefined
      ? join(dir, 'node_modules', font)
      : Object.hasOwn(scripts, name)
        ? join(dir, 'build', scripts[name] as string)
        : null
  if (path === null || !existsSync(path)) return null
  const type = font !== undefined ? 'font/woff2' : 'text/javascript; charset=utf-8'
  const file: ScreenFile = { type, bytes: readFileSync(path) }
  known.set(name, file)
  return file
}
