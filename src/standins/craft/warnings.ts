import type { Variable, World } from './world'

/** Annunciators gathered from the systems, with a master caution that a push silences. */
export const warnings = (w: World, power: { essentialLive: () => boolean }) => {
  w.inGroup('Warnings')
  const list: { lamp: Variable; when: () => boolean; was: boolean }[] = []
  const master = w.flag('warning.master', 'Master caution')
  const count = w.number('warning.count', null, 'Warnings that stand')
  w.event('warning.master.reset', 'Silence the master caution', 'warnings', () => {
    master.is = false
  })
  const test = w.flag('warning.test', 'Lights every annunciator', false, { system: 'warnings' })
  w.switchEvents('warning.test', 'the annunciator test', 'warnings', test)

  return {
    add(name: string, words: string, when: () => boolean): void {
      list.push({ lamp: w.flag(`warning.${name}`, words), when, was: false })
    },
    step(): void {
      let standing = 0
      for (const item of list) {
        const now = item.when()
        if (now && !item.was) master.is = true
        item.was = now
        if (now) standing++
        item.lamp.is = power.essentialLive() && (now || test.is)
      }
      count.n = standing
      if (standing === 0 || !power.essentialLive()) master.is = false
    },
  }
}
