'use client'
import { useMemo } from 'react'
import { kindOf } from '@/core/catalogue/own-kind'
import { changeRow } from '@/core/rig/edit'
import { byPosition, pagesOf, panelsOf, partsOf, type Rig } from '@/core/rig/rig'
import type { PartRow, ScreenRow } from '@/core/rig/rows'
import { usualSizes } from '@/core/screens/usual-sizes'
import { ExpressionField } from '../editors/expression-field'
import { freeBinding } from '../editors/free-binding'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { TextField } from '../editors/text-field'
import { edit } from '../live/edits'
import { useSurface } from '../surface/view-store'
import { changeScreen, changeScreenSettings } from './change'
import { ColourField } from './colour-field'
import { newPage, removingPage, removingScreen } from './new-screen'
import { BringScreen, TakeScreen } from './screen-file-buttons'
import { useScreens } from './screens-store'

const TEXT = { as: 'type', type: { is: 'text' } } as const

/** Parts of panels that a screen can sit in. */
const placesFor = (rig: Rig): PartRow[] =>
  panelsOf(rig).flatMap((panel) => partsOf(rig, panel.id).filter((p) => kindOf(p)?.front.look === 'screen'))

/** A screen as a whole: its name, its dots, its pages, where it sits. */
export const ScreenForm = ({ rig, screen }: { rig: Rig; screen: ScreenRow }) => {
  const { name, widthPx, heightPx, settings } = screen
  const pages = pagesOf(rig, screen.id)
  const places = placesFor(rig)
  const binding = useMemo(() => freeBinding(`page of ${screen.id}`), [screen.id])
  const said = `“${name}”`
  const usual = usualSizes.findIndex((u) => u.widthPx === widthPx && u.heightPx === heightPx)
  const put = (part: PartRow, on: boolean) => {
    const { screen: _, ...others } = part.settings
    edit(`${on ? `“${part.name}” shows` : `“${part.name}” does not show`} ${said}`, [
      changeRow('part', part, { ...part, settings: on ? { ...others, screen: screen.id } : others }),
    ])
  }
  const dots = (key: 'widthPx' | 'heightPx', label: string) => (
    <NumberField
      {...{ label, unit: 'px', least: 16, most: 8192, value: screen[key] }}
      take={(n) => changeScreen(screen, `Changed the size of ${said}`, { [key]: Math.round(n) })}
    />
  )
  return (
    <section aria-label="Screen" className="form-lines flex flex-col gap-1.5 text-[12px]">
      <TextField
        label="Name of the screen"
        width={260}
        value={name}
        objection={(t) =>
          t.trim() === '' || /[/\\?#%]/.test(t)
            ? 'A name without / \\ ? # % is needed: devices ask for it.'
            : null
        }
        take={(t) => changeScreen(screen, `Renamed ${said} to “${t.trim()}”`, { name: t.trim() })}
      />
      <label className="flex items-center gap-1.5">
        <span className="text-ink2">size</span>
        <select
          aria-label="Usual size"
          value={usual}
          onChange={(e) => {
            const size = usualSizes[Number(e.target.value)]
            if (size)
              changeScreen(screen, `Changed the size of ${said}`, {
                ...{ widthPx: size.widthPx, heightPx: size.heightPx },
                settings: { ...settings, widthMm: size.widthMm },
              })
          }}
        >
          {usual < 0 && <option value={-1}>its own</option>}
          {usualSizes.map((u, i) => (
            <option key={u.name} value={i}>
              {u.name}
            </option>
          ))}
        </select>
      </label>
      {dots('widthPx', 'across')}
      {dots('heightPx', 'down')}
      <NumberField
        {...{ label: 'really wide', unit: 'mm', least: 5, most: 2000, value: settings.widthMm }}
        take={(widthMm) => changeScreenSettings(screen, `Changed how wide ${said} is`, { widthMm })}
      />
      <div className="flex items-center justify-between">
        <span className="text-ink2">ground</span>
        <ColourField
          label="Ground"
          value={settings.ground}
          take={(ground) =>
            ground !== null && changeScreenSettings(screen, `Changed the ground of ${said}`, { ground })
          }
        />
      </div>

      <div className="flex items-center justify-between border-t border-line pt-1.5">
        <b>Pages</b>
        <button type="button" className="btn" onClick={() => newPage(rig, screen)}>
          Add a page
        </button>
      </div>
      {[...pages].sort(byPosition).map((p) => (
        <div key={p.id} className="flex items-center gap-2">
          <TextField
            label={`Name of page ${p.name}`}
            width={170}
            value={p.name}
            objection={(t) => (t.trim() === '' ? 'A page needs a name.' : null)}
            take={(t) =>
              edit(`Renamed the page “${p.name}” to “${t.trim()}”`, [
                changeRow('page', p, { ...p, name: t.trim() }),
              ])
            }
          />
          {pages.length > 1 && (
            <RemoveLine
              label={`Remove the page ${p.name}`}
              take={() => {
                const diff = removingPage(rig, p)
                useScreens.setState({ pageId: pages.find((q) => q.id !== p.id)?.id ?? null })
                edit(`Removed the page “${p.name}” of ${said}`, diff)
              }}
            />
          )}
        </div>
      ))}
      <span className="text-ink2">Which page is shown, by its name; the first where this is empty</span>
      <ExpressionField
        binding={binding}
        use="shaping"
        wanted={TEXT}
        focus={false}
        label="Page that is shown"
        value={settings.pageBy ?? ''}
        emptyMeans="always the first page"
        take={(pageBy) =>
          changeScreenSettings(screen, `Changed what chooses the page of ${said}`, { pageBy })
        }
      />

      {(settings.guides ?? []).length > 0 && <b className="border-t border-line pt-1.5">Guides</b>}
      {(settings.guides ?? []).map((g, i, all) => (
        <div key={`${g.axis} ${g.at}`} className="flex items-center gap-2">
          <NumberField
            {...{
              label: `${g.axis} =`,
              name: `Guide ${i + 1}`,
              unit: 'px',
              least: -9000,
              most: 9000,
              value: g.at,
            }}
            take={(at) =>
              changeScreenSettings(screen, `Moved a guide on ${said}`, { guides: all.with(i, { ...g, at }) })
            }
          />
          <RemoveLine
            label={`Remove the guide at ${g.axis} = ${g.at}`}
            take={() =>
              changeScreenSettings(screen, `Removed a guide of ${said}`, {
                guides: all.filter((_, k) => k !== i),
              })
            }
          />
        </div>
      ))}

      <b className="border-t border-line pt-1.5">In panels</b>
      {places.length === 0 && (
        <p className="text-ink2">
          No panel has a screen among its parts yet. Put one on a panel, and it can show this.
        </p>
      )}
      {places.map((part) => (
        <label key={part.id} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={part.settings.screen === screen.id}
            onChange={(e) => put(part, e.target.checked)}
          />
          {part.name}, on {rig.panel[part.panelId]?.name}
        </label>
      ))}
      <div className="flex flex-wrap gap-2 border-t border-line pt-2">
        <TakeScreen rig={rig} screen={screen} />
        <BringScreen rig={rig} />
        <button
          type="button"
          className="btn"
          onClick={() =>
            useSurface.setState({
              asking: {
                words: `Remove the screen ${said} with all that lies on it? It can be undone.`,
                act: () => {
                  edit(`Removed the screen ${said}`, removingScreen(rig, screen))
                  useScreens.setState({ screenId: null, pageId: null })
                },
              },
            })
          }
        >
          Remove the screen
        </button>
      </div>
    </section>
  )
}
