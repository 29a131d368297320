import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterEach, expect, it, vi } from 'vitest'
import { freshFolder } from '../../tests/helpers/folder'
import { log, LOG_NAME, logFolder, logInto } from './log'

afterEach(() => void vi.restoreAllMocks())

it('prints errors with what went wrong, and keeps all in the data folder', async () => {
  const printed: string[] = []
  vi.spyOn(process.stderr, 'write').mockImplementation((text) => {
    printed.push(String(text))
    return true
  })
  const data = freshFolder()
  const close = logInto(data)
  log.info({ kind: 'scan' }, 'A job ended')
  log.error({ err: Object.assign(new Error('no space'), { code: 'ENOSPC' }) }, 'A job could not be started')
  log.error('The database is open again.')
  await close()
  log.info('Said after it was closed')
  expect(printed).toEqual(['A job could not be started: no space\n', 'The database is open again.\n'])
  const lines = readFileSync(join(logFolder(data), LOG_NAME), 'utf8').trim().split('\n').map(line => JSON.parse(line) as Record<string, unknown>)
  expect(lines.map(line => line.msg)).toEqual(['A job ended', 'A job could not be started', 'The database is open again.'])
  expect(lines[0]).toEqual({ level: 30, time: expect.stringMatching(/^\d{4}-\d\d-\d\dT/), kind: 'scan', msg: 'A job ended' })
  expect(lines[1]!.err).toMatchObject({ type: 'Error', message: 'no space', code: 'ENOSPC', stack: expect.stringContaining('log.test.ts') })
})

it('begins a new file when one is full, and keeps four older ones', async () => {
  const data = freshFolder()
  for (let run = 0; run < 7; run++) {
    const close = logInto(data)
    log.info({ filling: 'x'.repeat(1_100_000) }, 'Much')
    log.info('More')
    await close()
  }
  const files = readdirSync(logFolder(data)).filter(name => name.endsWith('.log') && !name.startsWith('.'))
  expect(files).toContain(LOG_NAME)
  expect(files.length).toBeLessThanOrEqual(5)
  expect(files.length).toBeGreaterThan(1)
})
