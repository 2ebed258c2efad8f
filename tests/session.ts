import { App, CraftSide, until } from './app'
import { Bench } from './browser'

/** Clavik running on its own, a browser on one of its views, and an ear at the craft's side. */
export interface Session {
  readonly app: App
  readonly craft: CraftSide
  readonly bench: Bench
}

export const beginSession = async (view: string, ...options: string[]): Promise<Session> => {
  const app = await App.make()
  await app.start(...options)
  const craft = await new CraftSide(await app.craftPort()).open()
  const bench = await Bench.open(`${app.address}${view}`)
  return { app, craft, bench }
}

/** The same on Mirror, with everything up and every board loaded: where most of what is tried begins. */
export const beginOnMirror = async (): Promise<Session> => {
  const session = await beginSession('/mirror')
  await session.bench.sees('Craft says')
  await until('all is up and loaded', async () => (await session.app.health()).body.ok === true)
  return session
}

/** Ends what has begun, however far that came. Whoever comes next does not wait until all of it has ended. */
export const endSession = async ({ app, craft, bench }: Partial<Session>): Promise<void> => {
  await bench?.close()
  craft?.close()
  void app?.remove()
}
