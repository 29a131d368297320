import { cpSync, renameSync, rmSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { eq } from 'drizzle-orm'
import { beforeEach, expect, it } from 'vitest'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import { storedBag } from '../../tests/helpers/presets'
import { schema, type Database } from '../db/open'
import { indexFolder, syncVault } from './index'
import { deletePreset, emptyBin, findPreset, listBin, listPresets, presetRevision, renamePreset, restorePreset } from './presets'

let db: Database
let vault: string
let folder: string

beforeEach(async () => {
  db = await memoryDatabase()
  const bag = await storedBag('Night deck')
  folder = basename(dirname(bag))
  vault = dirname(dirname(bag))
})

const names = async () => (await listPresets(db, vault)).presets.map(preset => preset.name)

it('the disk is the truth: what lies there is found once, and what is gone is forgotten', async () => {
  const found = await syncVault(db, vault)
  expect(found).toEqual([{ presetId: expect.any(String), number: 1 }])
  expect(await syncVault(db, vault)).toEqual([])
  expect(await names()).toEqual(['Night deck'])
  expect(await db.select({ path: schema.presetSounds.path, size: schema.presetSounds.size }).from(schema.presetSounds)).toEqual(Array.from({ length: 3 }, () => ({ path: expect.stringContaining(`${folder}/`), size: null })))
  const [revision] = await db.select().from(schema.presetRevisions)
  expect(revision).toMatchObject({ pads: 3, samples: 3, problem: null })
  rmSync(join(vault, folder), { recursive: true })
  await syncVault(db, vault)
  expect(await names()).toEqual([])
  expect(await db.select().from(schema.presetSounds)).toEqual([])
})

it('a folder that was renamed by hand is followed, with its copies of sounds', async () => {
  await syncVault(db, vault)
  const [preset] = await db.select().from(schema.presets)
  const first = (await presetRevision(db, vault, preset!.id)).revision
  expect(first.number).toBe(1)
  renameSync(join(vault, folder), join(vault, 'elsewhere'))
  expect(await syncVault(db, vault)).toEqual([{ presetId: preset!.id, number: 1 }])
  expect((await findPreset(db, preset!.id)).folder).toBe('elsewhere')
  expect((await db.select().from(schema.presetSounds)).every(copy => copy.path.startsWith('elsewhere/'))).toBe(true)
  expect(await db.select().from(schema.presetRevisions)).toHaveLength(1)
})

it('a preset is renamed, deleted into the bin, restored, and gone when the bin is emptied', async () => {
  await syncVault(db, vault)
  const [{ id }] = await db.select({ id: schema.presets.id }).from(schema.presets) as [{ id: string }]
  await expect(renamePreset(db, vault, id, ' ')).rejects.toThrow('A preset needs a name.')
  await renamePreset(db, vault, id, ' Day deck ')
  await syncVault(db, vault)
  expect(await names()).toEqual(['Day deck'])
  await deletePreset(db, vault, id)
  expect(await names()).toEqual([])
  const [entry] = await listBin(vault)
  expect(entry).toMatchObject({ name: 'Day deck' })
  await restorePreset(db, vault, entry!.entry)
  await syncVault(db, vault)
  expect([await names(), await listBin(vault)]).toEqual([['Day deck'], []])
  await deletePreset(db, vault, id)
  expect(await emptyBin(vault)).toBe(1)
  expect(await listBin(vault)).toEqual([])
  await expect(findPreset(db, id)).rejects.toThrow()
})

it('what was just decoded is kept as looked at', async () => {
  const stored = await storedBag('Other')
  cpSync(dirname(stored), join(vault, 'Other'), { recursive: true })
  await indexFolder(db, vault, 'Other', 'checked')
  expect(await names()).toEqual(['Other'])
  await indexFolder(db, vault, 'nowhere', 'checked')
  await db.delete(schema.presets).where(eq(schema.presets.name, 'Other'))
  await indexFolder(db, vault, 'Other', 'found')
  expect(await names()).toEqual(['Other'])
})
