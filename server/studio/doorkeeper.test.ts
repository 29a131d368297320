import { describe, expect, it } from 'vitest'
import { refusalFor, type Asked } from './doorkeeper'

const own: Asked = { method: 'GET', host: '127.0.0.1:4310', hosts: 1, origin: undefined, site: undefined, mode: undefined, path: '/' }
const asked = (part: Partial<Asked>) => refusalFor({ ...own, ...part }, 4310)

describe('who is answered', () => {
  it('is whoever names this server and comes from its own pages', () => {
    expect(asked({})).toBeUndefined()
    expect(asked({ host: 'localhost:4310', origin: 'http://localhost:4310', method: 'POST' })).toBeUndefined()
  })

  it('is nobody with a foreign host, port or origin', () => {
    expect(asked({ host: 'emporion.example:4310' })).toBeDefined()
    expect(asked({ host: '127.0.0.1:4311' })).toBeDefined()
    expect(asked({ host: undefined })).toBeDefined()
    expect(asked({ origin: 'http://elsewhere.example' })).toBeDefined()
    expect(asked({ origin: 'null' })).toBeDefined()
    expect(asked({ hosts: 2 })).toBeDefined()
  })

  it('is no other site and no other server of this machine, whether it writes or reads; a link may lead here', () => {
    for (const site of ['cross-site', 'same-site']) {
      expect(asked({ method: 'POST', site })).toBeDefined()
      expect(asked({ site, mode: 'no-cors', path: '/api/audio/x' })).toBeDefined()
      expect(asked({ site, mode: 'navigate', path: '/api/vault' })).toBeDefined()
      expect(asked({ site, mode: 'navigate', path: '/bench' })).toBeUndefined()
    }
    expect(asked({ method: 'POST', site: 'same-origin' })).toBeUndefined()
    expect(asked({ site: 'none', mode: 'navigate' })).toBeUndefined()
  })
})
