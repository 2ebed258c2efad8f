import pg from 'pg'
import type { OwnWords } from '../core/rig/own-words'
import { type Database, openDatabase } from '../store/database'
import { EDITS, editsSince, type HistoryEntry } from '../store/edit-store'
import { RECORDINGS } from '../store/recording-store'
import { type LoadedRig, loadRig, openRigId } from '../store/rig-store'
import { loadWords, WORDS } from '../store/word-store'

export interface RigEvents {
  readonly whole: (loaded: LoadedRig) => void
  readonly edit: (entry: HistoryEntry) => void
  readonly database: (up: boolean) => void
  /** Recordings were added, changed or deleted. */
  readonly recordings: () => void
  /** What the builder says of the names of each craft. */
  readonly words: (words: OwnWords) => void
}

const RETRY_MS = 700
/** How often the database is asked whether it is there, and how long it may take to say so. */
const ASK_MS = 2000
const ANSWER_MS = 2500

/** Follows the rig in the database: the whole of it at first, then edit by edit as they are announced. */
export class RigFollower {
  up = false
  private readonly db: Database
  private revision = -1
  private rigId: string | null = null
  private listener: pg.Client | null = null
  private ended = false
  private following: Promise<void> = Promise.resolve()

  constructor(
    private readonly url: string,
    private readonly events: RigEvents,
  ) {
    this.db = openDatabase(url)
  }

  open(): void {
    void this.connect()
  }

  async close(): Promise<void> {
    this.ended = true
    await this.listener?.end().catch(() => {})
    await this.db.end()
  }

  private async connect(): Promise<void> {
    if (this.ended) return
    const client = new pg.Client({
      connectionString: this.url,
      connectionTimeoutMillis: 2000,
      keepAlive: true,
    })
    client.on('error', () => this.gone(client))
    client.on('end', () => this.gone(client))
    client.on('notification', ({ channel }) => {
      if (channel === RECORDINGS) this.events.recordings()
      else if (channel === WORDS) this.followWords()
      else this.follow()
    })
    try {
      await client.connect()
      this.listener = client
      await client.query(`LISTEN ${EDITS}`)
      await client.query(`LISTEN ${RECORDINGS}`)
      await client.query(`LISTEN ${WORDS}`)
      await this.catchUp()
      this.followWords()
      this.up = true
      this.events.database(true)
      this.ask(client)
    } catch {
      this.listener = client
      this.gone(client)
    }
  }

  /** A database that stands still closes no connection: it is asked now and then. */
  private ask(client: pg.Client): void {
    if (this.listener !== client || this.ended) return
    const late = setTimeout(() => this.gone(client), ANSWER_MS)
    const answered = (sound: boolean) => {
      clearTimeout(late)
      if (!sound) this.gone(client)
      else setTimeout(() => this.ask(client), ASK_MS)
    }
    Promise.all([client.query('SELECT 1'), this.knock()]).then(
      () => answered(true),
      () => answered(false),
    )
  }

  /** Whether it lets somebody in anew: a server that stands still may have given lines to others that go on. */
  private async knock(): Promise<void> {
    const visitor = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: ANSWER_MS })
    visitor.on('error', () => {})
    try {
      await visitor.connect()
    } finally {
      visitor.end().catch(() => {})
    }
  }

  private gone(client: pg.Client): void {
    if (this.listener !== client) return
    this.listener = null
    client.end().catch(() => {})
    if (this.up) {
      this.up = false
      this.events.database(false)
    }
    if (!this.ended) setTimeout(() => void this.connect(), RETRY_MS)
  }

  /** What the builder says of names, all of it: there is little. */
  private followWords(): void {
    loadWords(this.db).then(this.events.words, (error: Error) => {
      process.stderr.write(`hub: cannot read what is said of names: ${error.message}\n`)
    })
  }

  /** Announcements are taken one after the other. */
  private follow(): void {
    this.following = this.following
      .then(() => this.catchUp())
      .catch((error: Error) => {
        process.stderr.write(`hub: cannot follow the rig: ${error.message}\n`)
      })
  }

  private async catchUp(): Promise<void> {
    if (this.rigId === null || (await openRigId(this.db)) !== this.rigId) return this.loadWhole()
    for (const entry of await editsSince(this.db, this.rigId, this.revision)) {
      try {
        this.events.edit(entry)
      } catch (error) {
        // What could not be taken as an edit is taken as part of the whole.
        process.stderr.write(`hub: edit ${entry.revision} could not be taken: ${(error as Error).stack}\n`)
        return this.loadWhole()
      }
      // Only what is in counts as seen.
      this.revision = entry.revision
    }
  }

  private async loadWhole(): Promise<void> {
    const loaded = await loadRig(this.db)
    if (!loaded) throw new Error('there is no rig yet')
    this.events.whole(loaded)
    this.rigId = loaded.id
    this.revision = loaded.revision
  }
}
