import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { mulberry32 } from '../../core/audio/dither'
import { openDatabase, schema, type OpenDatabase } from '../../server/db/open'
import { Finder } from '../../server/library/finder/finder'
import { recordFiles } from '../../server/library/record'
import { searchSchema } from '../../contract/searches'
import { addSource } from '../../server/library/sources'
import { giveDatabase } from '../helpers/server'
import { madeFile } from '../helpers/madeLibrary'

const random = mulberry32(1)
let database: OpenDatabase
let finder: Finder
let sourceId: number
let made = 0

beforeAll(async () => {
  const data = mkdtempSync(join(tmpdir(), 'emporion-finder-'))
  giveDatabase(data)
  database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs') })
  finder = new Finder(database.db, data)
  sourceId = (await addSource(database.db, { name: 'Pier', path: data, uploaded: false })).id
})

afterAll(() => database.close())

const bringIn = (count: number) => recordFiles(database.db, sourceId, Array.from({ length: count }, () => madeFile(`Bell ${++made}.wav`, made, random)))
const setFavourite = (id: number) => database.db.update(schema.sounds).set({ favourite: true }).where(eq(schema.sounds.id, id))

function count(q: string, states: { library: number, arrivals: number, uses?: number }): Promise<number> {
  return finder.answer({ type: 'count', search: searchSchema.parse({ q }), uses: 1, ...states })
}

it('what a scan has brought that goes on is not waited for, and seen soon after; what ended or was set by hand is seen at once', async () => {
  await bringIn(3)
  expect(await count('bell', { library: 1, arrivals: 1 })).toBe(3)

  await bringIn(2)
  expect(await count('bell', { library: 1, arrivals: 2 })).toBe(3)
  await expect.poll(() => count('bell', { library: 1, arrivals: 2 })).toBe(5)

  await bringIn(1)
  expect(await count('bell', { library: 2, arrivals: 2 })).toBe(6)
})

it('what was read behind an answer never hides what is newer', async () => {
  const [sound] = await database.db.select({ id: schema.sounds.id }).from(schema.sounds).limit(1)
  await bringIn(2)
  // Asked at once, so that the one is still reading what has come while the other waits for what was set by hand.
  const before = count('is=favourite', { library: 2, arrivals: 3 })
  await setFavourite(sound!.id)
  const after = count('is=favourite', { library: 3, arrivals: 3 })
  expect(await before).toBe(0)
  expect(await after).toBe(1)
  await expect.poll(() => count('bell', { library: 3, arrivals: 4 })).toBe(8)
  expect(await count('is=favourite', { library: 3, arrivals: 4 })).toBe(1)
})
