import { existsSync, mkdirSync, readFileSync, utimesSync } from 'node:fs'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { expect, it } from 'vitest'
import { freshFolder, put } from '../../tests/helpers/folder'
import { unzipInto } from '../library/unzip'
import { clearExports, exportsDir, openExport } from './exports'

it('what was made a day ago, or was not finished, goes; the rest waits on', async () => {
  const cache = freshFolder()
  const folder = exportsDir(cache)
  put(folder, 'new/a.wav', 'x')
  put(folder, 'old/a.wav', 'x')
  put(folder, '.making/a.wav', 'x')
  const yesterday = Date.now() / 1000 - 25 * 3600
  utimesSync(join(folder, 'old'), yesterday, yesterday)
  expect(await clearExports(cache)).toBe(2)
  expect(['new', 'old', '.making'].map(name => existsSync(join(folder, name)))).toEqual([true, false, false])
  expect(await clearExports(freshFolder())).toBe(0)
})

it('one file is sent as it is, several as an archive with their folders, one of several by its name', async () => {
  const cache = freshFolder()
  put(exportsDir(cache), 'one/mix.wav', 'mix')
  put(exportsDir(cache), 'two/mix.wav', 'mix')
  put(exportsDir(cache), 'two/stems/kick.wav', 'kick')
  const one = await openExport(cache, 'one')
  expect([one.fileName, one.type, (await buffer(one.stream)).toString()]).toEqual(['mix.wav', 'audio/wav', 'mix'])
  const two = await openExport(cache, 'two', 'Quay stems')
  expect([two.fileName, two.type]).toEqual(['Quay stems.zip', 'application/zip'])
  const unpacked = freshFolder()
  await unzipInto(put(cache, 'two.zip', await buffer(two.stream)), unpacked, { signal: new AbortController().signal, onEntry: () => undefined })
  expect(['mix.wav', 'stems/kick.wav'].map(name => readFileSync(join(unpacked, name), 'utf8'))).toEqual(['mix', 'kick'])
  const single = await openExport(cache, 'two', 'x', 'stems/kick.wav')
  expect((await buffer(single.stream)).toString()).toBe('kick')
})

it('what is gone is reported', async () => {
  const cache = freshFolder()
  mkdirSync(exportsDir(cache), { recursive: true })
  await expect(openExport(cache, 'none')).rejects.toThrow('no longer there to be downloaded')
  put(exportsDir(cache), 'one/mix.wav', 'mix')
  await expect(openExport(cache, 'one', 'x', '../../etc/passwd')).rejects.toThrow('no longer there to be downloaded')
})
