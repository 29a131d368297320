import { beforeEach, describe, expect, it } from 'vitest'
import { differenceOf } from '../../core/document/difference'
import { emptyPattern } from '../../core/groove/document'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import { schema, type Database } from '../db/open'
import { createPattern, deletePattern, keepRevision, listPatterns, listRevisions, readPattern, savePattern, setPatternDetails, takePresetPattern } from './store'

let db: Database

beforeEach(async () => {
  db = await memoryDatabase()
})

const renamed = (from: string, to: string) => differenceOf(emptyPattern(from), emptyPattern(to))

describe('patterns', () => {
  it('are listed by folder and name as people count, each with the presets that use it', async () => {
    for (const name of ['Gangway 10', 'Gangway 2']) await createPattern(db, emptyPattern(name))
    const { id } = await createPattern(db, emptyPattern('Anchor'), { folder: 'Harbour' })
    await db.insert(schema.presets).values({ id: 'quay', name: 'Quay', folder: 'Quay', latest: 1, patternId: id })
    const listed = await listPatterns(db)
    expect(listed.map(pattern => [pattern.folder, pattern.name])).toEqual([['Harbour', 'Anchor'], ['Mine', 'Gangway 2'], ['Mine', 'Gangway 10']])
    expect(listed[0]!.usedIn).toEqual(['Quay'])
  })

  it('an edit builds on the revision that is stored', async () => {
    const { id } = await createPattern(db, emptyPattern('Buoy'))
    expect(await savePattern(db, id, renamed('Buoy', 'Bell buoy'), 1)).toBe(2)
    await expect(savePattern(db, id, renamed('Buoy', 'Lost'), 1)).rejects.toThrow('was changed elsewhere in the meantime')
    expect((await readPattern(db, id)).pattern.name).toBe('Bell buoy')
    expect((await listPatterns(db))[0]!.name).toBe('Bell buoy')
    expect(await listRevisions(db, id)).toEqual([])
  })

  it('after a pause the state before is kept', async () => {
    const { id } = await createPattern(db, emptyPattern('Buoy'))
    await db.update(schema.patterns).set({ updatedAt: new Date(Date.now() - 11 * 60_000) })
    await savePattern(db, id, renamed('Buoy', 'Bell buoy'), 1)
    expect((await listRevisions(db, id)).map(({ number, pattern }) => [number, pattern.name])).toEqual([[1, 'Buoy']])
    expect(await keepRevision(db, id)).toBe(2)
  })

  it('what came with Emporion is neither changed nor deleted, but may be a favourite', async () => {
    const { id } = await createPattern(db, emptyPattern('Buoy'))
    await db.update(schema.patterns).set({ isShipped: true })
    await expect(savePattern(db, id, renamed('Buoy', 'Mine'), 1)).rejects.toThrow('came with Emporion')
    await expect(deletePattern(db, id)).rejects.toThrow('came with Emporion')
    await setPatternDetails(db, id, { favourite: true })
    expect(await listPatterns(db)).toMatchObject([{ id, favourite: true }])
  })

  it('one of a preset is taken up once; where the own one has gone on, beside it', async () => {
    const own = { id: '22222222-2222-4222-8222-222222222222', document: emptyPattern('Buoy') }
    expect(await takePresetPattern(db, own, 'Quay')).toBe(own.id)
    expect(await takePresetPattern(db, own, 'Quay')).toBe(own.id)
    expect(await listPatterns(db)).toHaveLength(1)
    await deletePattern(db, own.id)
    await expect(readPattern(db, own.id)).rejects.toThrow('This pattern is no longer there.')
    await expect(setPatternDetails(db, own.id, { favourite: true })).rejects.toThrow('This pattern is no longer there.')
  })
})
