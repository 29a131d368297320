import { beforeEach, expect, it } from 'vitest'
import { eq } from 'drizzle-orm'
import { fillSource, hashOf, idsOf, madeFacts } from '../../tests/helpers/filledLibrary'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import { schema, type Database } from '../db/open'
import { handOn } from './handOn'
import { marksOf, setMarks } from './marks'
import { recordFiles } from './record'
import { addToTray, listTrays, readTray } from './trays'

let db: Database
let source: number

beforeEach(async () => {
  db = await memoryDatabase()
  source = await fillSource(db, 'Pier', { 'a.wav': 1, 'b.wav': 2 })
  const [first] = await idsOf(db, 1)
  await setMarks(db, { ids: [first!], addTags: ['dry'], removeTags: [], favourite: true }, 'dry')
})

/** The file of a path holds another sound now, as a scan finds. */
const edited = (path: string, n: number) => recordFiles(db, source, [{ file: { type: 'file', path, size: 101, modifiedMs: 2 }, analysis: { facts: madeFacts(n) } }])
const tagsOf = async (n: number) => (await marksOf(db, await idsOf(db, n)))[0]!.tags

it('what was set of a sound goes on to what its file holds now, with its places on trays', async () => {
  const tray = (await listTrays(db))[0]!.id
  await addToTray(db, tray, [hashOf(1)])
  await edited('a.wav', 3)
  expect(await handOn(db, source)).toBe(true)
  expect([await tagsOf(3), await tagsOf(1)]).toEqual([['dry'], ['dry']])
  expect((await readTray(db, tray)).map(({ row }) => row.hash)).toEqual([hashOf(3)])
  const [former] = await db.select({ became: schema.sounds.becameId }).from(schema.sounds).where(eq(schema.sounds.hash, hashOf(1)))
  expect([former!.became]).toEqual(await idsOf(db, 3))
  expect(await handOn(db, source)).toBe(false)
})

it('not where the former sound lies in another file, nor onto one of which something was set', async () => {
  await fillSource(db, 'Deck', { 'moved.wav': 1 })
  await edited('a.wav', 3)
  await handOn(db, source)
  expect(await tagsOf(3)).toEqual([])
  const [second] = await idsOf(db, 2)
  await setMarks(db, { ids: [second!], addTags: ['aft'], removeTags: [] }, 'aft')
  await setMarks(db, { ids: await idsOf(db, 3), addTags: ['own'], removeTags: [] }, 'own')
  await edited('b.wav', 3)
  await handOn(db, source)
  expect(await tagsOf(3)).toEqual(['own'])
})
