import { beforeEach, describe, expect, it } from 'vitest'
import { differenceOf } from '../../core/document/difference'
import { emptyKit, wholeLayer, type Kit } from '../../core/kit/document'
import { hashOf } from '../../tests/helpers/filledLibrary'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import { schema, type Database } from '../db/open'
import { createKit, createKits, deleteKit, listKits, readKit, saveDifference, saveKit, setKitPattern, takeUpKit } from './drafts'

let db: Database

beforeEach(async () => {
  db = await memoryDatabase()
})

function withSound(kit: Kit, pad: number, n: number): Kit {
  const layer = wholeLayer({ id: hashOf(n), name: `Sound ${n}`, frames: 100, sampleRate: 44_100, channels: 1 })
  return { ...kit, pads: kit.pads.map((other, i) => i === pad ? { ...other, layers: [layer] } : other) }
}

describe('kits at work', () => {
  it('get the next free number when new, and a number in their label when two share a name', async () => {
    expect((await createKit(db)).kit.name).toBe('New kit')
    expect((await createKit(db)).kit.name).toBe('New kit 2')
    for (const name of ['Quay', 'quay']) await createKits(db, [emptyKit(name)])
    expect((await listKits(db)).map(kit => kit.label).sort()).toEqual(['New kit', 'New kit 2', 'Quay', 'quay (2)'].sort())
  })

  it('count the pads that have a sound', async () => {
    await createKit(db, withSound(withSound(emptyKit('Quay'), 0, 1), 5, 2))
    expect((await listKits(db))[0]).toMatchObject({ name: 'Quay', pads: 2 })
  })

  it('an edit builds on the revision that is stored, or nothing is changed', async () => {
    const { id, kit, revision } = await createKit(db, emptyKit('Quay'))
    expect(await saveKit(db, id, { ...kit, name: 'Quay 2' }, revision)).toEqual({ revision: 2, usesOthers: true })
    await expect(saveKit(db, id, { ...kit, name: 'Quay 3' }, revision)).rejects.toThrow('was changed elsewhere in the meantime (revision 2; this edit builds on 1)')
    expect((await readKit(db, id)).kit.name).toBe('Quay 2')
  })

  it('a difference says whether other sounds are used; one that makes no whole kit is refused', async () => {
    const { id, kit, revision } = await createKit(db, withSound(emptyKit('Quay'), 0, 1))
    const renamed = { ...kit, name: 'Pier' }
    expect(await saveDifference(db, id, differenceOf(kit, renamed), revision)).toEqual({ revision: 2, usesOthers: false })
    expect(await saveDifference(db, id, differenceOf(renamed, withSound(renamed, 3, 2)), 2)).toEqual({ revision: 3, usesOthers: true })
    await expect(saveDifference(db, id, differenceOf({ name: 'Pier' }, { name: 5 }), 3)).rejects.toThrow()
    expect(await readKit(db, id)).toMatchObject({ revision: 3, kit: { name: 'Pier' } })
  })

  it('a kit of a newer Emporion is only read', async () => {
    const { id, kit } = await createKit(db, emptyKit('Quay'))
    await db.update(schema.kits).set({ kit: { ...kit, schema: 99 } as unknown as Kit })
    await expect(saveKit(db, id, kit, 1)).rejects.toThrow('was written by a newer Emporion and can only be read here.')
  })

  it('a preset is taken up once as long as its kit is as it was', async () => {
    const from = { presetId: 'quay', presetRevision: 1 }
    const first = await takeUpKit(db, emptyKit('Quay'), from)
    expect((await takeUpKit(db, emptyKit('Quay'), from)).id).toBe(first.id)
    expect((await takeUpKit(db, emptyKit('Quay'), { ...from, presetRevision: 2 })).id).not.toBe(first.id)
    await saveKit(db, first.id, withSound(first.kit, 0, 1), 1)
    expect((await takeUpKit(db, emptyKit('Quay'), from)).id).not.toBe(first.id)
  })

  it('a pattern is noted and no edit; one that was deleted is gone', async () => {
    const { id } = await createKit(db, emptyKit('Quay'))
    const patternId = '11111111-1111-4111-8111-111111111111'
    await setKitPattern(db, id, patternId)
    expect(await readKit(db, id)).toMatchObject({ revision: 1, patternId })
    await deleteKit(db, id)
    await expect(readKit(db, id)).rejects.toThrow('This kit is no longer there.')
  })
})
