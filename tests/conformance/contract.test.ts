import { readdirSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { describe, expect, it } from 'vitest'
import { AREAS, ENDPOINTS } from '../../contract'
import { addressOf, filledPath, type Endpoint } from '../../contract/endpoint'
import { apiPage } from '../../contract/page'
import { soundRoutes } from '../../contract/library'
import { vaultRoutes } from '../../contract/vault'

const sources = () => readdirSync('contract').filter(name => !name.endsWith('.test.ts')).sort().map(name => readFileSync(`contract/${name}`, 'utf8')).join('\n')

/** What the file of a route answers to, by where it lies: that is how Nitro finds it. */
function placeOf(file: string): string {
  const [, stem, method = 'get'] = /^(.+?)(?:\.(get|post|put|patch|delete))?\.ts$/.exec(file)!
  return `${method.toUpperCase()} /api/${stem}`.replace(/\/index$/, '')
}

describe('the contract', () => {
  it('names each endpoint once, and each has the one file that answers to it', async () => {
    const files = readdirSync('server/api', { recursive: true, encoding: 'utf8' }).filter(name => name.endsWith('.ts') && !name.startsWith('[...]'))
    const answering = await Promise.all(files.map(async (file) => {
      const { default: route } = await import(resolve('server/api', file)) as { readonly default: { readonly endpoint: Endpoint } }
      expect(`${route.endpoint.method} ${route.endpoint.path}`).toBe(placeOf(file))
      return route.endpoint
    }))
    expect(new Set(answering)).toEqual(new Set(ENDPOINTS))
    expect(files).toHaveLength(ENDPOINTS.length)
    expect(new Set(ENDPOINTS.map(({ method, path }) => `${method} ${path}`)).size).toBe(ENDPOINTS.length)
  })

  it('has all areas: whatever a file declares is listed', async () => {
    const declared = (await Promise.all(readdirSync('contract').filter(name => name !== 'index.ts').map(name => import(resolve('contract', name)) as Promise<object>))).flatMap(module => Object.entries(module)).filter(([name]) => name.endsWith('Routes')).map(([, group]) => group as unknown)
    expect(new Set(Object.values(AREAS))).toEqual(new Set(declared))
  })

  it('says of each endpoint in one sentence what it does, and no two say the same', () => {
    for (const { does } of ENDPOINTS) expect(does).toMatch(/^[A-Z].*\.$/)
    expect(new Set(ENDPOINTS.map(({ does }) => does)).size).toBe(ENDPOINTS.length)
  })

  it('gives addresses in which nothing of a name is taken for a part of the path', () => {
    expect(addressOf(vaultRoutes.preview, { params: { id: 'Quay / "deck"?' }, query: { revision: 3 } })).toBe('/api/vault/Quay%20%2F%20%22deck%22%3F/preview?revision=3')
    expect(addressOf(vaultRoutes.preview, { params: { id: 'a' }, query: { revision: undefined } })).toBe('/api/vault/a/preview')
    expect(addressOf(soundRoutes.audio, { params: { hash: 'f'.repeat(64) }, query: { as: 'file' } })).toBe(`/api/audio/${'f'.repeat(64)}?as=file`)
    expect(() => filledPath('/api/vault/[id]', {})).toThrow(RangeError)
  })

  it('is printed in the docs as it is (else: node scripts/pages.mjs)', () => {
    const page = apiPage(sources())
    expect(readFileSync('docs/api.md', 'utf8')).toBe(page)
    expect(page.split('\n').filter(line => /^\| `(GET|POST|PUT|PATCH|DELETE) /.test(line))).toHaveLength(ENDPOINTS.length)
    expect(page).toContain('| `GET /api/kits/[id]` | A kit at work, whole. | - | `KitView` |')
  })
})
