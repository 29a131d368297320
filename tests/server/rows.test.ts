import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import fc from 'fast-check'
import { eq, inArray, sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { FIGURES_VERSION, type Figures } from '../../core/audio/analysis/figures'
import { openDatabase, schema, type OpenDatabase } from '../../server/db/open'
import type { Analysis } from '../../server/library/analyse'
import { knownFiles } from '../../server/library/knownFiles'
import { recordFiles, type AnalysedFile } from '../../server/library/record'
import { addSource } from '../../server/library/sources'
import { tidyWhenGrown } from '../../server/db/upkeep'
import { giveDatabase } from '../helpers/server'

const { files, sounds } = schema

let database: OpenDatabase
let sourceId: number

beforeAll(async () => {
  const data = mkdtempSync(join(tmpdir(), 'emporion-rows-'))
  giveDatabase(data)
  database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs') })
  sourceId = (await addSource(database.db, { name: 'Night {"ferry"}', path: data, uploaded: false })).id
})

afterAll(() => database.close())

const figures: Figures = {
  version: FIGURES_VERSION, flags: ['clipped', 'loop'], level: null, timing: null, hits: [{ startSeconds: 0.1, endSeconds: 0.25 }], attack: null, body: null,
  brightness: 50, pitch: null, clippedRuns: 4, dcOffset: -0.02,
}

/** Any text that a file system, a tag or a message may hold: all but zero, which PostgreSQL has no place for. */
const text = fc.string({ unit: 'binary', maxLength: 40 }).map(value => value.replaceAll('\0', ''))

it('rows that travel as one JSON text come back as they were, whatever is in them', async () => {
  let count = 0
  await fc.assert(fc.asyncProperty(fc.array(fc.record({
    path: text, warnings: fc.array(text, { maxLength: 3 }), info: fc.dictionary(text, text, { maxKeys: 3 }),
    size: fc.nat(), modifiedMs: fc.double({ min: 0, max: 4e12, noNaN: true }),
    overview: fc.uint8Array({ maxLength: 40 }), features: fc.option(fc.uint8Array({ minLength: 1, maxLength: 40 })), peak: fc.float({ min: 0, max: 2, noNaN: true }),
  }), { minLength: 1, maxLength: 12 }), async (made) => {
    const batch = made.map((one): AnalysedFile & { readonly analysis: Extract<Analysis, { facts: unknown }> } => {
      const hash = (count++).toString(16).padStart(64, '0')
      return {
        file: { type: 'file', path: `${hash}/${one.path}`, size: one.size, modifiedMs: one.modifiedMs },
        analysis: { facts: {
          hash, formerHash: null, container: 'WAVE', codec: 'PCM', sampleRate: 44_100, bitDepth: 16, channels: 1, frames: 5_000_000_000, lengthSeconds: 0.1, peak: one.peak,
          overview: one.overview, embedded: { info: one.info }, warnings: one.warnings, figures, features: one.features, audioKind: null,
        } },
      }
    })
    await recordFiles(database.db, sourceId, batch)
    const known = await knownFiles(database.db, sourceId)
    const rows = await database.db.select().from(sounds).where(inArray(sounds.hash, batch.map(({ analysis }) => analysis.facts.hash)))
    for (const { file, analysis: { facts } } of batch) {
      const row = rows.find(one => one.hash === facts.hash)
      expect(row).toMatchObject({
        frames: facts.frames, warnings: facts.warnings, embedded: facts.embedded, figures, flags: figures.flags, fileCount: 1, sourceIds: [sourceId], favourite: false, handTags: [],
      })
      expect(Math.fround(row!.peak)).toBe(facts.peak)
      expect(new Uint8Array(row!.overview)).toEqual(facts.overview)
      expect(row!.features && new Uint8Array(row!.features)).toEqual(facts.features)
      expect(known.get(file.path)).toMatchObject({ size: file.size, modifiedMs: file.modifiedMs, missing: false, soundId: row!.id, isOutdated: false })
    }
  }), { numRuns: 25 })
})

it('a file whose sound an older method measured is told apart', async () => {
  const [row] = await database.db.select({ path: files.path, soundId: files.soundId }).from(files).limit(1)
  await database.db.update(sounds).set({ figuresVersion: FIGURES_VERSION - 1 }).where(eq(sounds.id, row!.soundId!))
  const known = await knownFiles(database.db, sourceId)
  expect([...known].filter(([, file]) => file.isOutdated).map(([path]) => path)).toEqual([row!.path])
})

it('the library is tidied when it has grown by more than a tenth, and not for a handful of sounds', async () => {
  const counted = async () => Number((await database.db.execute<{ reltuples: number }>(sql`SELECT reltuples FROM pg_class WHERE oid = 'sounds'::regclass`)).rows[0]!.reltuples)
  await tidyWhenGrown(database.db)
  const before = await counted()
  expect(before).toBe(await database.db.$count(sounds))
  const more = async (count: number) => {
    await database.db.execute(sql`
      INSERT INTO sounds (hash, container, codec, sample_rate, bit_depth, channels, frames, length_seconds, peak, overview, embedded, warnings)
      SELECT 'more ' || ${before} || ' ' || ${count} || ' ' || i, 'WAVE', 'PCM', 44100, 16, 1, 1, 1, 1, '', '{}', '[]' FROM generate_series(1, ${count}::integer) i`)
    await tidyWhenGrown(database.db)
    return counted()
  }
  expect(await more(1)).toBe(before)
  expect(await more(1 + Math.ceil(before / 10))).toBe(before + 2 + Math.ceil(before / 10))
})
