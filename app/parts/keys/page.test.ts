import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { COMMANDS } from './commands'
import { keysPage } from './page'

it('the page of keys in the docs is that of the commands (else: node scripts/pages.mjs)', () => {
  expect(readFileSync('docs/keys.md', 'utf8')).toBe(keysPage())
  expect(keysPage().split('\n').filter(line => line.startsWith('| `'))).toHaveLength(COMMANDS.length)
})
