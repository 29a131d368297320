import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { EmporionError } from '../core/errors'
import { command, dataDirOf } from './command'

const USAGE = 'usage: ./emporion ring BELL'
let said: string[]
let failed: string[]
const argv = process.argv

beforeEach(() => {
  [said, failed] = [[], []]
  vi.spyOn(console, 'log').mockImplementation((text: string) => void said.push(text))
  vi.spyOn(console, 'error').mockImplementation((text: string) => void failed.push(text))
})

afterEach(() => {
  process.argv = argv
  process.exitCode = undefined
  vi.restoreAllMocks()
  vi.unstubAllEnvs()
})

async function ring(args: readonly string[], run: () => Promise<number> = () => Promise.resolve(0)): Promise<number | string | undefined | null> {
  process.argv = ['node', 'ring', ...args]
  await command(USAGE, { json: { type: 'boolean' }, times: { type: 'string' } }, ({ positionals }) => positionals.length === 1 ? undefined : 'ring needs one bell.', run)
  return process.exitCode
}

it('ends with what the command gives', async () => {
  expect(await ring(['fog'], () => Promise.resolve(3))).toBe(3)
  expect(await ring(['fog'])).toBe(0)
})

it('says how it is used where that is asked, and runs nothing', async () => {
  const run = vi.fn(() => Promise.resolve(0))
  expect(await ring(['--help'], run)).toBeUndefined()
  expect([said, run.mock.calls]).toEqual([[USAGE], []])
})

it('ends with 2 and one sentence where it does not understand', async () => {
  for (const [args, sentence] of [
    [[], 'ring needs one bell.'], [['a', 'b'], 'ring needs one bell.'], [['a', '--loud'], 'There is no option --loud.'],
    [['a', '--times'], '--times needs a value.'], [['a', '--json=yes'], '--json takes no value.'],
  ] as const) {
    failed = []
    expect(await ring(args)).toBe(2)
    expect(failed).toEqual([`${sentence}\n\n${USAGE}`])
  }
})

it('ends with the state that belongs to what went wrong, and says it as JSON where that is asked', async () => {
  const fail = (code: ConstructorParameters<typeof EmporionError>[0]) => () => Promise.reject(new EmporionError(code, 'It is gone.'))
  expect(await ring(['fog'], fail('not-found'))).toBe(3)
  expect(await ring(['fog'], fail('unreadable'))).toBe(4)
  expect(await ring(['fog'], fail('limit'))).toBe(5)
  expect(await ring(['fog'], fail('disk-full'))).toBe(6)
  expect(await ring(['fog'], fail('conflict'))).toBe(1)
  expect(said).toEqual([])
  expect(await ring(['fog', '--json'], fail('not-found'))).toBe(3)
  expect(JSON.parse(said[0]!)).toEqual({ error: 'not-found', message: 'It is gone.' })
  expect(await ring(['fog'], () => Promise.reject(new Error('It broke.')))).toBe(1)
  expect(failed.at(-1)).toBe('It broke.')
})

it('looks into the folder that is named, or that of the application', () => {
  vi.stubEnv('EMPORION_OWN_DATA', '/ferry/own')
  expect([dataDirOf('/deck'), dataDirOf(undefined)]).toEqual(['/deck', '/ferry/own'])
})
