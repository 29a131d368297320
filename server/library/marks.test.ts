import { beforeEach, describe, expect, it } from 'vitest'
import type { MarkPatch } from '../../contract/marks'
import { fillSource, idsOf } from '../../tests/helpers/filledLibrary'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import type { Database } from '../db/open'
import { applyMarks, forgetMarks, marksOf, nextStep, redoMarks, setMarks, tagsInUse, undoMarks } from './marks'
import { stepMarks } from './stepMarks'

let db: Database
let ids: number[]

const patch = (changes: Partial<MarkPatch>): MarkPatch => ({ ids, addTags: [], removeTags: [], ...changes })

beforeEach(async () => {
  db = await memoryDatabase()
  await fillSource(db, 'Pier', { 'Kick 1.wav': 1, 'Kick 2.wav': 2, 'Hat.wav': 3 })
  ids = await idsOf(db, 1, 2, 3)
})

describe('what a person says of sounds', () => {
  it('is set, counted by what changed, taken back and done again', async () => {
    expect(await setMarks(db, patch({ addTags: ['dry'], favourite: true }), 'dry')).toEqual({ title: 'dry', count: 3 })
    expect(await setMarks(db, patch({ addTags: ['dry'] }), 'again')).toEqual({ title: 'again', count: 0 })
    expect(await marksOf(db, ids)).toEqual(ids.map(id => ({ id, kind: null, tags: ['dry'], favourite: true, note: '', aside: false })))
    expect(await undoMarks(db)).toEqual({ title: 'dry', count: 3 })
    expect((await marksOf(db, ids)).every(mark => mark.tags.length === 0 && !mark.favourite)).toBe(true)
    expect(await redoMarks(db)).toMatchObject({ count: 3 })
    expect((await marksOf(db, ids)).every(mark => mark.tags.includes('dry'))).toBe(true)
  })

  it('is taken back step by step, the last first, and what was taken back is gone once something else is set', async () => {
    await setMarks(db, patch({ note: 'first' }), 'first')
    await setMarks(db, patch({ note: 'second' }), 'second')
    expect(await nextStep(db, false)).toEqual({ title: 'second', count: 3 })
    await undoMarks(db)
    expect((await marksOf(db, ids))[0]!.note).toBe('first')
    await setMarks(db, patch({ note: 'third' }), 'third')
    expect(await nextStep(db, true)).toBeUndefined()
    await expect(redoMarks(db)).rejects.toThrow('There is nothing to do again.')
  })

  it('is one step over all of its parts, and whole up to the part that was broken off', async () => {
    await fillSource(db, 'Deck', Object.fromEntries(Array.from({ length: 700 }, (_, i) => [`${i}.wav`, 100 + i])))
    const many = await idsOf(db, ...Array.from({ length: 700 }, (_, i) => 100 + i))
    const seen: number[] = []
    const broken = setMarks(db, { ids: many, addTags: ['x'], removeTags: [] }, 'x', (done) => {
      seen.push(done)
      if (done > 0) throw new Error('cancelled')
    })
    await expect(broken).rejects.toThrow('cancelled')
    expect(seen).toEqual([0, 500])
    expect((await marksOf(db, many)).filter(mark => mark.tags.length > 0)).toHaveLength(500)
    expect(await undoMarks(db)).toMatchObject({ count: 500 })
    expect((await marksOf(db, many)).filter(mark => mark.tags.length > 0)).toHaveLength(0)
    await setMarks(db, { ids: many, addTags: ['x'], removeTags: [] }, 'all')
    expect(await undoMarks(db)).toMatchObject({ count: 700 })
  })

  it('counts tags by how many sounds that are there bear them, the most used first', async () => {
    await setMarks(db, patch({ addTags: ['dry'] }), 'dry')
    await setMarks(db, patch({ ids: ids.slice(0, 1), addTags: ['aft'] }), 'aft')
    expect(await tagsInUse(db)).toEqual([{ tag: 'dry', count: 3 }, { tag: 'aft', count: 1 }])
  })

  it('is forgotten of sounds without files alone', async () => {
    await setMarks(db, patch({ addTags: ['dry'] }), 'dry')
    await forgetMarks(db, ids)
    expect((await marksOf(db, ids)).every(mark => mark.tags.includes('dry'))).toBe(true)
  })

  it('is written whole by lists', async () => {
    const before = await marksOf(db, ids)
    await applyMarks(db, before, before.map(mark => ({ ...mark, kind: 'snare' })), 'the list')
    expect((await marksOf(db, ids)).map(mark => mark.kind)).toEqual(['snare', 'snare', 'snare'])
    await undoMarks(db)
    expect(await marksOf(db, ids)).toEqual(before)
  })
})

describe('a step by key', () => {
  it('is done at once where it is short, as a job where it is long, and says so where there is none', async () => {
    const sent: unknown[] = []
    const asked: unknown[] = []
    const places = { db, events: { send: (event: unknown) => void sent.push(event) }, jobs: { add: (request: unknown) => {
      asked.push(request)
      return Promise.resolve({ id: 'j', kind: 'unmark' as const, title: '', state: 'waiting' as const, progress: null, result: null, error: null })
    } } }
    expect(await stepMarks(places, false)).toEqual({ nothing: 'There is nothing to undo: nothing has been set by hand yet.' })
    await setMarks(db, patch({ favourite: true }), 'favourite')
    expect(await stepMarks(places, false)).toEqual({ edit: { title: 'favourite', count: 3 } })
    expect(sent).toEqual([{ type: 'library' }])
    await fillSource(db, 'Deck', Object.fromEntries(Array.from({ length: 1501 }, (_, i) => [`${i}.wav`, 100 + i])))
    const many = await idsOf(db, ...Array.from({ length: 1501 }, (_, i) => 100 + i))
    await setMarks(db, { ids: many, addTags: [], removeTags: [], favourite: true }, 'many')
    expect(await stepMarks(places, false)).toHaveProperty('job')
    expect(asked).toEqual([{ kind: 'unmark', redo: false, title: 'Take back for 1,501 sounds: many' }])
  })
})
