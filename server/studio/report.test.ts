import fc from 'fast-check'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { fillSource } from '../../tests/helpers/filledLibrary'
import { freshFolder, put } from '../../tests/helpers/folder'
import { memoryDatabase } from '../../tests/helpers/memoryDatabase'
import { readConfig } from '../base/config'
import { log, logInto } from '../base/log'
import { reportOf, withoutNames } from './report'

it('holds versions, counts and the log, and no name of anything', async () => {
  const db = await memoryDatabase()
  await fillSource(db, 'Secret pier', { 'Secret kick.wav': 1, 'Secret hat.wav': 2 })
  const root = freshFolder()
  put(root, 'package.json', '{"version":"1.2.3"}')
  const config = readConfig({ EMPORION_ROOT: root, EMPORION_DATA: join(root, 'data') })
  const close = logInto(config.dataDir)
  log.info({ job: 'j', kind: 'scan', err: 'Secret kick.wav is not there.' }, 'A job failed')
  log.info({ err: Object.assign(new Error('ENOENT: /home/secret/Secret kick.wav'), { code: 'ENOENT' }) }, 'A request failed')
  await close()
  const report = await reportOf(db, config, new Date('2026-12-02T10:00:00Z'))
  expect(report).toMatchObject({
    made: '2026-12-02T10:00:00.000Z', versions: { emporion: '1.2.3', node: process.versions.node }, database: 'own',
    counts: { sources: 1, files: 2, sounds: 2, kits: 0, presets: 0 }, jobs: [],
  })
  expect(report.log.map(line => line.msg)).toEqual(['A job failed', 'A request failed'])
  expect(report.log[1]!.err).toMatchObject({ type: 'Error', code: 'ENOENT', frames: expect.arrayContaining([expect.stringMatching(/report\.test\.ts:\d+:\d+$/)]) })
  expect(JSON.stringify(report)).not.toMatch(/secret|kick|pier/i)
})

it('says nothing of what went wrong but its kind and where in the code, whatever it was', () => {
  const name = fc.string({ minLength: 12, maxLength: 30, unit: 'grapheme-ascii' }).filter(text => /[a-z ]{6}/.test(text))
  fc.assert(fc.property(name, name, (folder, file) => {
    const stack = `Error: ${folder}/${file}\n    at read (/home/${folder}/server/library/scan.ts:10:5)\n    at ${file}`
    const said = withoutNames(JSON.stringify({ msg: 'A job failed', err: { type: 'Error', message: `${folder}/${file}`, stack } }))!
    expect(said).toMatchObject({ msg: 'A job failed', err: { type: 'Error' } })
    expect((said.err as { frames: string[] }).frames.filter(frame => !/^(read )?scan\.ts:10:5$/.test(frame))).toEqual([])
  }))
  expect(withoutNames('half a li')).toBeUndefined()
})
