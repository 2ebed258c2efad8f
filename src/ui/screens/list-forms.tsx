'use client'
import type { ColourRanges } from '@/core/elements/element-kind'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { TextField } from '../editors/text-field'
import { ColourField } from './colour-field'

const FAR = 1e9

interface Of<T> {
  readonly value: T
  readonly take: (value: T) => void
}

const More = ({ words, take }: { words: string; take: () => void }) => (
  <button type="button" className="btn self-start" onClick={take}>
    {words}
  </button>
)

/** Between its neighbours, however close they are. */
const between = (before: number | undefined, after: number | undefined): readonly [number, number] => [
  before === undefined ? -FAR : before + 1e-9,
  after === undefined ? FAR : after - 1e-9,
]

type Stops = ColourRanges['stops']

/** Which colour is shown from which value on. */
export const StopsForm = ({ value: stops, take }: Of<Stops>) => (
  <>
    {stops.map((stop, i) => {
      const [least, most] = between(stops[i - 1]?.at, stops[i + 1]?.at)
      return (
        <div key={i} className="flex items-center gap-2">
          <NumberField
            {...{ label: 'from', name: `Colour ${i + 1} begins at`, unit: '', narrow: true, least, most }}
            value={stop.at}
            take={(at) => take(stops.with(i, { ...stop, at }))}
          />
          <ColourField
            label={`Colour from ${stop.at}`}
            value={stop.colour}
            take={(c) => c !== null && take(stops.with(i, { ...stop, colour: c }))}
          />
          {stops.length > 1 && (
            <RemoveLine
              label={`Remove the colour from ${stop.at}`}
              take={() => take(stops.filter((_, k) => k !== i))}
            />
          )}
        </div>
      )
    })}
    {stops.length < 12 && (
      <More
        words="Another colour"
        take={() => take([...stops, { at: (stops.at(-1)?.at ?? 0) + 10, colour: '#f2a93b' }])}
      />
    )}
  </>
)

/** Colours by what is shown, where there are any. */
export const RangesForm = ({ value, take }: Of<ColourRanges | null>) =>
  value === null ? (
    <More
      words="Colours by value"
      take={() =>
        take({
          blend: false,
          stops: [
            { at: 0, colour: '#3fbf6a' },
            { at: 80, colour: '#e0483c' },
          ],
        })
      }
    />
  ) : (
    <>
      <StopsForm value={value.stops} take={(stops) => take({ ...value, stops })} />
      <div className="flex items-center justify-between">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={value.blend}
            onChange={(e) => take({ ...value, blend: e.target.checked })}
          />
          blends between them
        </label>
        <button type="button" className="btn" onClick={() => take(null)}>
          One colour
        </button>
      </div>
    </>
  )

type Bands = readonly { readonly from: number; readonly to: number; readonly colour: string }[]

export const BandsForm = ({ value: bands, take }: Of<Bands>) => (
  <>
    {bands.map((band, i) => {
      const put = (to: Partial<Bands[number]>) => take(bands.map((b, k) => (k === i ? { ...b, ...to } : b)))
      return (
        <div key={i} className="flex flex-wrap items-center gap-2">
          {(['from', 'to'] as const).map((end) => (
            <NumberField
              key={end}
              {...{ label: end, name: `Stretch ${i + 1} ${end}`, unit: '', narrow: true }}
              {...{ least: -FAR, most: FAR, value: band[end] }}
              take={(n) => put({ [end]: n })}
            />
          ))}
          <ColourField
            label={`Colour of stretch ${i + 1}`}
            value={band.colour}
            take={(colour) => colour !== null && put({ colour })}
          />
          <RemoveLine label={`Remove stretch ${i + 1}`} take={() => take(bands.filter((_, k) => k !== i))} />
        </div>
      )
    })}
    <More
      words="A coloured stretch"
      take={() =>
        take([...bands, { from: bands.at(-1)?.to ?? 0, to: (bands.at(-1)?.to ?? 0) + 10, colour: '#e0483c' }])
      }
    />
  </>
)

type Choices = readonly { readonly is: string; readonly shows: string }[]

export const ChoicesForm = ({ value: choices, take }: Of<Choices>) => (
  <>
    {choices.map((choice, i) => {
      const put = (to: Partial<Choices[number]>) =>
        take(choices.map((c, k) => (k === i ? { ...c, ...to } : c)))
      return (
        <div key={i} className="flex items-center gap-1.5">
          <TextField label={`Value ${i + 1}`} width={70} value={choice.is} take={(is) => put({ is })} />
          <span className="text-ink2">is</span>
          <TextField
            label={`Shown as ${i + 1}`}
            width={110}
            value={choice.shows}
            take={(shows) => put({ shows })}
          />
          <RemoveLine label={`Remove ${choice.is}`} take={() => take(choices.filter((_, k) => k !== i))} />
        </div>
      )
    })}
    <More words="Another choice" take={() => take([...choices, { is: String(choices.length), shows: '' }])} />
  </>
)

type Points = readonly { readonly value: number; readonly deg: number }[]

/** Where the needle stands for which value, as for a real one. */
export const PointsForm = ({ value: points, take }: Of<Points>) => (
  <>
    {points.map((p, i) => {
      const [least, most] = between(points[i - 1]?.value, points[i + 1]?.value)
      const put = (to: Partial<Points[number]>) => take(points.map((q, k) => (k === i ? { ...q, ...to } : q)))
      return (
        <div key={i} className="flex items-center gap-2">
          <NumberField
            {...{ label: '', name: `Value of point ${i + 1}`, unit: '', narrow: true, least, most }}
            value={p.value}
            take={(value) => put({ value })}
          />
          <span className="text-ink2">at</span>
          <NumberField
            {...{
              label: '',
              name: `Angle of point ${i + 1}`,
              unit: '°',
              narrow: true,
              least: -720,
              most: 720,
            }}
            value={p.deg}
            take={(deg) => put({ deg })}
          />
          {points.length > 2 && (
            <RemoveLine label={`Remove point ${i + 1}`} take={() => take(points.filter((_, k) => k !== i))} />
          )}
        </div>
      )
    })}
    {points.length < 40 && (
      <More
        words="Another point"
        take={() => {
          const [a, b] = points.slice(-2)
          if (a && b) take([...points, { value: 2 * b.value - a.value, deg: b.deg + (b.deg - a.deg) / 2 }])
        }}
      />
    )}
  </>
)
