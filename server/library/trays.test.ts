import { beforeEach, expect, it } from 'vitest'
import { fillSource, hashOf } from '../../tests/helpers/filledLibrary'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import type { Database } from '../db/open'
import { addToTray, addTray, changeTray, listTrays, readTray, removeTray, renameTray, trayAsText } from './trays'

let db: Database
let id: number
const onTray = async () => (await readTray(db, id)).map(({ row }) => Number.parseInt(row.hash, 16))

beforeEach(async () => {
  db = await memoryDatabase()
  await fillSource(db, 'Pier', { 'Kick 1.wav': 1, 'Kick 2.wav': 2, 'Snare.wav': 3, 'zzz.wav': 4 })
  id = (await listTrays(db))[0]!.id
  await addToTray(db, id, [1, 2, 3, 4].map(hashOf))
})

it('there is always a tray, and what is added twice stays where it was', async () => {
  await addToTray(db, id, [hashOf(2), hashOf(1)])
  expect(await onTray()).toEqual([1, 2, 3, 4])
  expect(await listTrays(db)).toEqual([{ id, name: 'Tray', count: 4 }])
  await removeTray(db, id)
  expect(await listTrays(db)).toMatchObject([{ name: 'Tray', count: 0 }])
})

it('sounds are moved forward, back and to the end, and taken off', async () => {
  await changeTray(db, id, { type: 'move', hash: hashOf(4), before: hashOf(2) })
  expect(await onTray()).toEqual([1, 4, 2, 3])
  await changeTray(db, id, { type: 'move', hash: hashOf(1), before: hashOf(3) })
  expect(await onTray()).toEqual([4, 2, 1, 3])
  await changeTray(db, id, { type: 'move', hash: hashOf(4), before: null })
  expect(await onTray()).toEqual([2, 1, 3, 4])
  await changeTray(db, id, { type: 'move', hash: hashOf(9), before: null })
  await changeTray(db, id, { type: 'remove', hashes: [hashOf(1), hashOf(3)] })
  expect(await onTray()).toEqual([2, 4])
  await addToTray(db, id, [hashOf(3)])
  expect(await onTray()).toEqual([2, 4, 3])
})

it('a note stays with its sound, on its own tray alone', async () => {
  const other = (await addTray(db, 'Night')).id
  await addToTray(db, other, [hashOf(1)])
  await changeTray(db, id, { type: 'note', hash: hashOf(1), note: 'for the bridge' })
  expect((await readTray(db, id))[0]!.note).toBe('for the bridge')
  expect((await readTray(db, other))[0]!.note).toBe('')
  await renameTray(db, other, 'Late night')
  expect((await listTrays(db)).map(tray => tray.name)).toEqual(['Tray', 'Late night'])
})

it('is read as text: how many of each kind, and a line a sound', async () => {
  await changeTray(db, id, { type: 'note', hash: hashOf(3), note: 'dry' })
  const text = await trayAsText(db, id)
  expect(text).toContain('Tray: 4 sounds (2 kick, 1 snare, 1 unknown)')
  expect(text.split('\n')[4]).toBe('  3\tSnare\tSnare\t0.20 s\tPier\tdry')
})

it('a tray that was taken away is reported', async () => {
  await removeTray(db, id)
  await expect(addToTray(db, id, [hashOf(1)])).rejects.toThrow('This tray was taken away.')
  await expect(renameTray(db, id, 'x')).rejects.toThrow('This tray was taken away.')
  await expect(trayAsText(db, id)).rejects.toThrow('This tray was taken away.')
})
