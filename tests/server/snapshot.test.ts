import { statSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { mulberry32 } from '../../core/audio/dither'
import { openDatabase, schema, type OpenDatabase } from '../../server/db/open'
import { Finder } from '../../server/library/finder/finder'
import { recordFiles } from '../../server/library/record'
import { searchSchema } from '../../contract/searches'
import { addSource } from '../../server/library/sources'
import { freshFolder } from '../helpers/folder'
import { madeFile } from '../helpers/madeLibrary'
import { startPostgres, type RunningPostgres } from '../helpers/postgres'

// Two databases of one server, as when a data folder is used with one and then with the other.
const cache = freshFolder()
const written = join(cache, 'catalogue.bin')
const SOUNDS = 6000
let postgres: RunningPostgres
let databases: OpenDatabase[]

beforeAll(async () => {
  postgres = await startPostgres()
  databases = []
  for (const name of ['quay', 'ferry']) {
    databases.push(await openDatabase({ folder: freshFolder(), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs'), url: await postgres.database(name) }))
  }
  await bringIn(0, 'Bell', SOUNDS)
  await bringIn(1, 'Horn', 10)
  // As one that has seen more changes than what was written down of the other.
  await databases[1]!.db.execute(sql`SELECT setval('sounds_revisions', ${10 * SOUNDS})`)
})

afterAll(async () => {
  for (const database of databases) await database.close()
  await postgres.stop()
})

async function bringIn(which: number, name: string, count: number): Promise<void> {
  const { db } = databases[which]!
  const random = mulberry32(which + 1)
  const source = await addSource(db, { name, path: join(cache, name), uploaded: false })
  await recordFiles(db, source.id, Array.from({ length: count }, (_, i) => madeFile(`${name} ${i + 1}.wav`, i + 1 + which * 10 * SOUNDS, random)))
}

const opened = (which: number) => new Finder(databases[which]!.db, cache)
const count = (finder: Finder, q: string) => finder.answer({ type: 'count', search: searchSchema.parse({ q }), library: 1, arrivals: 1, uses: 1 })

async function warmed(finder: Finder): Promise<void> {
  while (await finder.answer({ type: 'warm', library: 1, arrivals: 1, uses: 1 }));
}

it('what was written down of a large library is taken up, with all that has changed since', async () => {
  await warmed(opened(0))
  const size = statSync(written).size
  const { db } = databases[0]!
  const [one] = await db.select({ id: schema.sounds.id }).from(schema.sounds).limit(1)
  await db.update(schema.sounds).set({ favourite: true }).where(eq(schema.sounds.id, one!.id))
  await bringIn(0, 'Rope', 3)

  const again = opened(0)
  expect([await count(again, 'bell'), await count(again, 'rope'), await count(again, 'is=favourite')]).toEqual([SOUNDS, 3, 1])
  await warmed(again)
  // So few changes are not worth writing all of it again.
  expect(statSync(written).size).toBe(size)
})

it('of another database of the same server nothing is taken up', async () => {
  const other = opened(1)
  expect([await count(other, 'bell'), await count(other, 'horn')]).toEqual([0, 10])
})

it('what was spoilt is made anew from the database', async () => {
  writeFileSync(written, 'no catalogue')
  expect(await count(opened(0), 'bell')).toBe(SOUNDS)
})
