import { arc as arcShape, select } from 'd3'
import type { ElementRow } from '../src/core/rig/rows'
import { ScreenView } from '../src/screen/screen-view'
import { CHANGING, dense, followers } from './screen-elements'

/** What runs in the browser: the same screen drawn by Clavik's own drawing and by joins of a charting library. */

const SVG = 'http://www.w3.org/2000/svg'
const sheet = (): SVGSVGElement => {
  const svg = document.createElementNS(SVG, 'svg')
  svg.setAttribute('width', '1280')
  svg.setAttribute('height', '800')
  svg.setAttribute('viewBox', '0 0 1280 800')
  document.body.append(svg)
  return svg
}

/** The values of one picture: each time other ones change. */
const valuesOf = (turn: number): { i: number[]; v: number[] } => {
  const i: number[] = []
  const v: number[] = []
  for (let k = 0; k < CHANGING; k++) {
    const at = (turn * 7 + k) % followers.length
    i.push(at)
    v.push(50 + 50 * Math.sin(turn / 20 + at))
  }
  return { i, v }
}

const ours = () => {
  const svg = sheet()
  const view = new ScreenView(svg)
  view.setContent(dense)
  view.setCells(followers.map((e) => `${e.id} ${Object.keys(e.settings.follows)[0]}`))
  return {
    turn: (turn: number) => {
      const { i, v } = valuesOf(turn)
      view.setValues(i, v, undefined)
    },
    draw: () => view.draw(),
    end: () => {
      view.end()
      svg.remove()
    },
  }
}

interface Datum {
  readonly row: ElementRow
  value: number
}

/** As one would write it with joins: everything is bound to its value, and every picture says anew how all of it looks. */
const joins = () => {
  const svg = sheet()
  const data: Datum[] = dense.elements.map((row) => ({ row, value: 0 }))
  const of = new Map(data.map((d) => [d.row.id, d]))
  const kind = (...names: string[]) => data.filter((d) => names.includes(d.row.settings.kind))
  const ring = arcShape()
  const update = () => {
    const root = select(svg)
    const groups = (name: string, own: Datum[]) =>
      root
        .selectAll<SVGGElement, Datum>(`g.${name}`)
        .data(own, (d) => d.row.id)
        .join('g')
        .attr('class', name)
        .attr('transform', (d) => `translate(${d.row.x},${d.row.y})`)
    const one = <K extends keyof SVGElementTagNameMap>(of: ReturnType<typeof groups>, name: K) =>
      of
        .selectAll<SVGElementTagNameMap[K], Datum>(name)
        .data((d) => [d])
        .join(name)
    one(groups('value', kind('value', 'words')), 'text')
      .attr('y', 18)
      .attr('font-size', 16)
      .attr('fill', '#eef2ee')
      .text((d) => d.value.toFixed(0))
    const bars = groups('bar', kind('bar', 'frame'))
    bars
      .selectAll<SVGRectElement, number>('rect')
      .data((d) => [56, (56 * d.value) / 100])
      .join('rect')
      .attr('height', 24)
      .attr('width', (w) => Math.max(0, w))
      .attr('fill', (_, i) => (i === 0 ? '#2a3337' : '#7fd1a8'))
    const signs = groups('sign', kind('annunciator'))
    one(signs, 'rect')
      .attr('width', 56)
      .attr('height', 24)
      .attr('fill', (d) => (d.value > 50 ? '#f2a93b' : '#171d20'))
    one(signs, 'text')
      .attr('y', 18)
      .text(() => 'CAUTION')
    const dials = groups('dial', kind('needle'))
    dials
      .selectAll<SVGLineElement, number>('line.tick')
      .data(Array.from({ length: 26 }, (_, i) => -135 + (i * 270) / 25))
      .join('line')
      .attr('class', 'tick')
      .attr('y1', -26)
      .attr('y2', -22)
      .attr('transform', (deg) => `translate(28,28) rotate(${deg})`)
      .attr('stroke', '#e6ebe7')
    one(dials, 'path')
      .attr('d', 'M-1 4L-.5 -22h1L1 4z')
      .attr('fill', '#ff8f5a')
      .attr('transform', (d) => `translate(28,28) rotate(${-135 + 2.7 * d.value})`)
    groups('strip', kind('lamps'))
      .selectAll<SVGRectElement, string>('rect')
      .data((d) => Array.from({ length: 12 }, (_, i) => (d.value > i * 8 ? '#3fbf6a' : '#262f33')))
      .join('rect')
      .attr('x', (_, i) => i * 4.6)
      .attr('width', 4)
      .attr('height', 24)
      .attr('fill', (c) => c)
    one(groups('arc', kind('arc')), 'path')
      .attr('fill', '#7fd1a8')
      .attr('d', (d) =>
        ring({ innerRadius: 8, outerRadius: 12, startAngle: -2, endAngle: -2 + d.value / 25 }),
      )
  }
  return {
    turn: (turn: number) => {
      const { i, v } = valuesOf(turn)
      for (const [k, at] of i.entries()) {
        const d = of.get(followers[at]?.id ?? '')
        if (d) d.value = v[k] ?? 0
      }
    },
    draw: update,
    end: () => svg.remove(),
  }
}

const made = { ours, joins }

/** Milliseconds of script that each takes for a picture, in turns. */
const script = (rounds: number): Record<keyof typeof made, number> => {
  const both = { ours: made.ours(), joins: made.joins() }
  const times: Record<keyof typeof made, number[]> = { ours: [], joins: [] }
  let turn = 0
  for (let r = 0; r < rounds; r++)
    for (const name of ['ours', 'joins'] as const) {
      const began = performance.now()
      for (let k = 0; k < 10; k++) {
        both[name].turn(turn + k)
        both[name].draw()
      }
      times[name].push((performance.now() - began) / 10)
      if (name === 'joins') turn += 10
    }
  both.ours.end()
  both.joins.end()
  const middle = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0
  return { ours: middle(times.ours), joins: middle(times.joins) }
}

/** Pictures a second while values come with each, for so long. */
const live = (ms: number): Promise<{ frames: number; ms: number }> =>
  new Promise((resolve) => {
    const screen = made.ours()
    let frames = 0
    let began = 0
    const turn = (now: number) => {
      if (began === 0) began = now
      else frames++
      if (now - began >= ms) {
        screen.end()
        resolve({ frames, ms: now - began })
        return
      }
      screen.turn(frames)
      requestAnimationFrame(turn)
    }
    requestAnimationFrame(turn)
  })

Object.assign(window, { benchScript: script, benchLive: live })
