import { existsSync, mkdtempSync, realpathSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, describe, expect, it } from 'vitest'
import { serveArguments } from './arguments.mjs'
import { Problem } from './problem.mjs'

const folder = realpathSync(mkdtempSync(join(tmpdir(), 'emp-arguments-')))
afterAll(() => rmSync(folder, { recursive: true }))

describe('what demo and start are asked for', () => {
  it('is the usual place and port where nothing is named', () => {
    expect(serveArguments([], '/usual')).toEqual({ port: 4310, data: '/usual', roots: [], reset: false, open: false })
  })

  it('takes every option, several roots, and makes the data folder', () => {
    const data = join(folder, 'new', 'data')
    expect(serveArguments(['--port', '5000', '--data', data, '--root', folder, '--root', tmpdir(), '--reset', '--open'], '/usual'))
      .toEqual({ port: 5000, data, roots: [folder, realpathSync(tmpdir())], reset: true, open: true })
    expect(existsSync(data)).toBe(true)
  })

  it.each([
    [['--port', 'http'], /--port takes a number from 1 to 65535, not "http"/],
    [['--port', '70000'], /--port takes a number/],
    [['--port', '0'], /--port takes a number/],
    [['--root', join(folder, 'away')], /away can't be read \(ENOENT\)/],
    [['--lamp'], /Not understood: --lamp\. See emporion help/],
    [['sounds'], /Not understood: sounds/],
    [['--data', join(fileURLToPath(import.meta.url), 'below')], /The data folder .*arguments\.test\.ts\/below can't be made \(ENOTDIR\)/],
  ])('%j is refused in a sentence', (args, sentence) => {
    expect(() => serveArguments(args, '/usual')).toThrow(Problem)
    expect(() => serveArguments(args, '/usual')).toThrow(sentence)
  })
})
