import { App, CraftSide, pause, until } from './app'
import { Bench } from './browser'

/** Clavik running on its own, a browser on one of its views, and an ear at the craft's side. */
export interface Session {
  readonly app: App
  readonly craft: CraftSide
  readonly bench: Bench
}

/** One that files use in turn which end none of its processes, and leave none stopped. */
let lent: App | null = null

const isLoaded = async (app: App): Promise<boolean> => (await app.health()).body.ok === true

const on = async (app: App, view: string): Promise<Session> => {
  const craft = await new CraftSide(await app.craftPort()).open()
  const bench = await Bench.open(`${app.address}${view}`)
  return { app, craft, bench }
}

/** An application of one's own: for those that end what runs in it, start it again, or start it otherwise. */
export const beginSession = async (view: string, ...options: string[]): Promise<Session> => {
  const app = await App.make()
  await app.start(...options)
  return on(app, view)
}

/** Lets actions and outputs flow, as the hub keeps over rigs whether they do. */
const arm = async ({ page }: Bench): Promise<void> => {
  const armed = '[role="switch"][aria-label="Armed"]'
  await page.waitForSelector(`${armed}:enabled`)
  const is = () => page.$eval(armed, (e) => e.getAttribute('aria-checked'))
  // Its first word may still be under way.
  await pause(200)
  if ((await is()) === 'false') await page.click(armed)
  await until('it is armed', async () => (await is()) === 'true')
}

/** One that others have used before, with the rig as it comes, and nothing left of what they did to it. */
export const borrowSession = async (view: string): Promise<Session> => {
  if (lent) await lent.resetRig()
  else {
    lent = await App.make()
    await lent.start()
  }
  const session = await on(lent, view)
  await arm(session.bench)
  return session
}

/** Everything up and every board loaded: where most of what is tried begins. */
const allLoaded = async (session: Session): Promise<Session> => {
  await session.bench.sees('Craft says')
  await until('all is up and loaded', () => isLoaded(session.app))
  return session
}

/** On Mirror, with all of it up. */
export const beginOnMirror = async (): Promise<Session> => allLoaded(await beginSession('/mirror'))
export const borrowOnMirror = async (): Promise<Session> => allLoaded(await borrowSession('/mirror'))

/** Ends what has begun, however far that came. Whoever comes next does not wait until all of it has ended. */
export const endSession = async ({ app, craft, bench }: Partial<Session>): Promise<void> => {
  await bench?.close()
  craft?.close()
  if (app !== lent) void app?.remove()
}
