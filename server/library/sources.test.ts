import { existsSync, mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { beforeEach, describe, expect, it } from 'vitest'
import { fillSource, hashOf, idsOf, madeFacts } from '../../tests/helpers/filledLibrary'
import { freshFolder, put } from '../../tests/helpers/folder'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import { readConfig, type StudioConfig } from '../base/config'
import { schema, type Database } from '../db/open'
import { changedSounds } from './finder/rows'
import { listAsCsv, readList } from './list'
import { marksOf, setMarks } from './marks'
import { listFolders, listRules, removeRule, setRule } from './rules'
import { addFolder, listSources, outdatedSources, redrawSource, removeSource, updateSource } from './sources'
import { soundTimes } from './times'

let db: Database
let config: StudioConfig
let folder: string

beforeEach(async () => {
  db = await memoryDatabase()
  folder = freshFolder()
  config = readConfig({ EMPORION_ROOT: folder, EMPORION_DATA: join(folder, 'data'), EMPORION_ROOTS: folder })
  mkdirSync(config.vaultDir, { recursive: true })
})

describe('sources', () => {
  it('are folders below the roots: no file, not the vault; each once', async () => {
    mkdirSync(join(folder, 'Pier'))
    const first = await addFolder(db, config, join(folder, 'Pier'))
    expect((await addFolder(db, config, ` ${join(folder, 'Pier')} `)).id).toBe(first.id)
    await expect(addFolder(db, config, put(folder, 'a.wav', 'x'))).rejects.toThrow('is a file, not a folder')
    await expect(addFolder(db, config, config.vaultDir)).rejects.toThrow('the vault cannot be a source of itself')
    mkdirSync(join(config.vaultDir, 'Quay'))
    await expect(addFolder(db, config, join(config.vaultDir, 'Quay'))).rejects.toThrow('the vault cannot be a source of itself')
    await expect(addFolder(db, config, folder)).rejects.toThrow('the vault cannot be a source of itself')
    await expect(addFolder(db, config, '/')).rejects.toThrow()
  })

  it('are listed with what lies in them, by name as people count, and with those that overlap', async () => {
    const pier = await fillSource(db, 'Pier 10', { 'a.wav': 1, 'b.wav': 2 })
    await fillSource(db, 'Pier 2', { 'a.wav': 1 })
    await db.update(schema.sources).set({ path: '/ferry/Pier 10/inner' }).where(eq(schema.sources.name, 'Pier 2'))
    await db.update(schema.files).set({ missing: true }).where(eq(schema.files.path, 'b.wav'))
    const listed = await listSources(db)
    expect(listed.map(source => source.name)).toEqual(['Pier 2', 'Pier 10'])
    expect(listed[1]).toMatchObject({ id: pier, files: 1, missing: 1, bytes: 100, overlaps: ['Pier 2'] })
  })

  it('may not lie where another lies; a new name is trimmed', async () => {
    const pier = await fillSource(db, 'Pier', { 'a.wav': 1 })
    mkdirSync(join(folder, 'Deck'))
    await addFolder(db, config, join(folder, 'Deck'))
    await expect(updateSource(db, config, pier, { path: join(folder, 'Deck') })).rejects.toThrow('is the source "Deck" already')
    expect((await updateSource(db, config, pier, { name: ' Quay ' })).name).toBe('Quay')
    await expect(updateSource(db, config, 999, { name: 'x' })).rejects.toThrow('was removed already')
  })

  it('go without their files; marks stay for when a sound comes back, unless they are to be forgotten', async () => {
    const id = await fillSource(db, 'Pier', { 'a.wav': 1 })
    const [sound] = await idsOf(db, 1)
    await setMarks(db, { ids: [sound!], addTags: ['dry'], removeTags: [] }, 'dry')
    await removeSource(db, config, id)
    expect(await db.select({ count: schema.sounds.fileCount, tags: schema.sounds.handTags }).from(schema.sounds)).toEqual([{ count: 0, tags: ['dry'] }])
    await removeSource(db, config, await fillSource(db, 'Pier', { 'a.wav': 1 }), true)
    expect((await marksOf(db, [sound!]))[0]!.tags).toEqual([])
    await expect(removeSource(db, config, id)).rejects.toThrow('was removed already')
  })

  it('only files of the data folder go with a source', async () => {
    const uploaded = join(config.uploadsDir, 'drop-1')
    put(uploaded, 'a.wav', 'x')
    const kept = put(folder, 'Own/a.wav', 'x')
    const [one] = await db.insert(schema.sources).values({ name: 'drop', path: uploaded, uploaded: true }).returning()
    const [other] = await db.insert(schema.sources).values({ name: 'own', path: join(folder, 'Own'), uploaded: false }).returning()
    await removeSource(db, config, one!.id)
    await removeSource(db, config, other!.id)
    expect([existsSync(uploaded), existsSync(kept)]).toEqual([false, true])
  })

  it('are outdated where older methods measured, unless they are paused', async () => {
    const id = await fillSource(db, 'Pier', { 'a.wav': 1 })
    expect(await outdatedSources(db)).toEqual([])
    await db.update(schema.sounds).set({ figuresVersion: 1 })
    expect(await outdatedSources(db)).toEqual([{ id, name: 'Pier' }])
    await db.update(schema.sources).set({ paused: true })
    expect(await outdatedSources(db)).toEqual([])
  })
})

describe('rules of folders', () => {
  it('give kind and tags to what lies in a folder, when it is drawn together anew, and go again', async () => {
    const id = await fillSource(db, 'Pier', { 'Low/01.wav': 1, 'Lower/02.wav': 2, '03.wav': 3 })
    await setRule(db, id, { folder: 'Low', kind: 'tom.low', tags: ['deep'] })
    await setRule(db, id, { folder: 'Low', kind: 'tom.mid', tags: ['deep'] })
    expect(await listRules(db, id)).toMatchObject([{ folder: 'Low', kind: 'tom.mid', files: 1 }])
    expect(await redrawSource(db, id, 'Low', () => undefined)).toBe(1)
    const kinds = async () => (await db.select({ hash: schema.sounds.hash, kind: schema.sounds.kind, tags: schema.sounds.tags }).from(schema.sounds).orderBy(schema.sounds.hash)).map(row => [row.kind, row.tags])
    expect((await kinds())[0]).toEqual(['tom.mid', ['deep']])
    expect((await kinds())[1]).toEqual([null, []])
    const [rule] = await listRules(db, id)
    await expect(removeRule(db, id + 1, rule!.id)).rejects.toThrow('taken away already')
    expect(await removeRule(db, id, rule!.id)).toBe('Low')
    await redrawSource(db, id, '', () => undefined)
    expect((await kinds())[0]![1]).toEqual([])
    expect((await listFolders(db, id)).sort((a, b) => a.folder < b.folder ? -1 : 1)).toEqual([{ folder: '', files: 1 }, { folder: 'Low', files: 1 }, { folder: 'Lower', files: 1 }])
  })
})

describe('what scans write', () => {
  it('one sound of several files is one row, with words and folders of all of them', async () => {
    const id = await fillSource(db, 'Pier', { 'Kicks/Kick.wav': 1, 'Old/Boom.wav': 1 })
    expect(await db.select({ count: schema.sounds.fileCount, folders: schema.sounds.folders, kind: schema.sounds.kind }).from(schema.sounds))
      .toEqual([{ count: 2, folders: [`${id}/Kicks`, `${id}/Old`], kind: 'kick' }])
  })

  it('what a better method measured takes the place of what an older one did; a hand stays', async () => {
    await fillSource(db, 'Pier', { 'a.wav': 1 })
    const [sound] = await idsOf(db, 1)
    await setMarks(db, { ids: [sound!], addTags: ['dry'], removeTags: [], kind: 'snare' }, 'snare')
    const facts = madeFacts(1)
    await fillSource(db, 'Deck', { 'a.wav': { ...facts, figures: { ...facts.figures, brightness: 99 } } })
    const bright = async () => (await db.select({ bright: schema.sounds.brightness, kind: schema.sounds.kind }).from(schema.sounds))[0]
    expect((await bright())!.bright).toBe(facts.figures.brightness)
    await fillSource(db, 'Bow', { 'a.wav': { ...facts, figures: { ...facts.figures, version: facts.figures.version + 1, brightness: 99 } } })
    expect(await bright()).toEqual({ bright: 99, kind: 'snare' })
  })

  it('goes to the catalogue as it was written, what has changed since alone', async () => {
    const id = await fillSource(db, 'Pier', { 'Kicks/Kick.wav': 1, 'b.wav': madeFacts(2, { warnings: ['cut short'], channels: 2 }) })
    const read = async (since: number) => {
      const parts = []
      for await (const part of changedSounds(db, since)) parts.push(part)
      return { rows: parts.flatMap(part => part.rows), revision: parts.at(-1)?.revision ?? since }
    }
    const { rows, revision } = await read(0)
    const { figures } = madeFacts(1)
    expect(rows[0]).toMatchObject({
      isListed: true, folders: [`${id}/Kicks`], kind: 'kick', tags: [], flags: [], favourite: false, aside: false, isDamaged: false, isMeasured: true, fileCount: 1,
      lengthSeconds: 0.2, brightness: figures.brightness, tempo: null, sampleRate: 44_100, bitDepth: 16, channels: 1,
    })
    expect(rows[0]!.hitLufs).toBeCloseTo(figures.level!.hitLufs, 4)
    expect(rows[0]!.addedSeconds).toBeCloseTo(Date.now() / 1000, -2)
    expect(rows[1]).toMatchObject({ isDamaged: true, channels: 2, kind: null })
    await setMarks(db, { ids: [rows[1]!.id], addTags: ['dry', 'aft'], removeTags: [], favourite: true, aside: true }, 'x')
    expect((await read(revision)).rows).toMatchObject([{ id: rows[1]!.id, tags: ['dry', 'aft'], favourite: true, aside: true }])
  })

  it('times of sounds are given by either of their names', async () => {
    const { figures } = madeFacts(1)
    await fillSource(db, 'Pier', { 'a.wav': madeFacts(1, { formerHash: hashOf(77), figures: { ...figures, timing: { ...figures.timing!, leadSeconds: 0.25, effectiveSeconds: 0.5 } } }) })
    const times = await soundTimes(db, [hashOf(77), hashOf(5)])
    expect(Object.keys(times)).toEqual([hashOf(77)])
    expect(times[hashOf(77)]!.endSeconds).toBe(0.75)
    expect(await soundTimes(db, [])).toEqual({})
  })
})

describe('the list as CSV', () => {
  const written = async (id: number) => {
    let text = ''
    for await (const piece of listAsCsv(db, id)) text += piece
    return text
  }

  it('sets what is written into it, adds tags, and leaves a kind that was found as found', async () => {
    const id = await fillSource(db, 'Pier', { 'Kick.wav': 1, 'b.wav': 2 })
    const list = await written(id)
    expect(list.split('\r\n')).toHaveLength(4)
    expect(await readList(db, id, list)).toMatchObject({ rows: 2, changed: 0 })
    expect(await readList(db, id, 'path,kind,tags,favourite,note\nKick.wav,kick,"dry; aft",yes,by hand\nb.wav,Snare,,,\ngone.wav,xyz,,,\n'))
      .toEqual({ rows: 3, changed: 2, unknownPaths: 1, firstUnknown: ['gone.wav'], unknownKinds: ['xyz'] })
    expect(await marksOf(db, await idsOf(db, 1, 2))).toEqual([
      { id: expect.any(Number), kind: null, tags: ['dry', 'aft'], favourite: true, note: 'by hand', aside: false },
      { id: expect.any(Number), kind: 'snare', tags: [], favourite: false, note: '', aside: false },
    ])
    await expect(readList(db, id, 'a,b\n')).rejects.toThrow('names no column "path"')
    await expect(readList(db, id + 1, list)).rejects.toThrow('was removed')
  })
})
