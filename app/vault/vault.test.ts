import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { emptyKit } from '../../core/kit/document'
import { kitServer } from '../../tests/helpers/kitServer'
import { freshStores, asRequest, type Ask } from '../../tests/helpers/stores'
import { useKit } from '../bench/kit'
import { useVault } from './vault'

let server = kitServer()
let presets: string[] = []
const stores: { body: unknown, end: () => void }[] = []

const ask: Ask = async (path, options) => {
  if (path === '/api/vault/store') {
    return new Promise((resolve) => {
      stores.push({ body: options?.body, end: () => resolve({ id: 'job', kind: 'store', title: 'Store', state: 'done', progress: null, result: { presetId: 'night', name: 'Night', revision: 3 }, error: null }) })
    })
  }
  if (path === '/api/vault/bin') return []
  if (path === '/api/vault') return { path: '/vault', presets: presets.map(name => ({ id: name, name })), problems: [] }
  if (path.startsWith('/api/jobs')) throw new Error('It has ended.')
  return server.ask(path, options)
}

vi.mock('../parts/useApi', () => ({ api: (...all: Parameters<typeof asRequest>) => ask(...asRequest(...all)), toEmporionError: (thrown: unknown) => thrown }))
let tell: ((event: { type: string }) => void)[] = []
vi.mock('../parts/useServerEvents', () => ({ onServerEvent: (listener: typeof tell[number]) => tell.push(listener), onReconnected: () => undefined, tabId: 'own' }))
vi.mock('../parts/useSay', () => ({ say: () => undefined, sayError: () => undefined }))
vi.mock('../sound/kitPlayer', () => ({
  KitPlayer: class {
    setKit = () => undefined
    stop = () => undefined
    retryMissing = () => undefined
  },
}))

const soon = () => new Promise(resolve => setTimeout(resolve))

beforeEach(() => {
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined })
  vi.stubGlobal('window', new EventTarget())
  freshStores()
  tell = []
  server = kitServer()
  presets = []
  stores.length = 0
})

afterEach(() => useKit().settled())

describe('storing a kit', () => {
  it('makes the preset the one that the kit comes from', async () => {
    const [kit, vault] = [useKit(), useVault()]
    await kit.openLast()
    const stored = vault.store('Night', null)
    await soon()
    stores[0]!.end()
    await stored
    expect(stores[0]!.body).toMatchObject({ kitId: kit.id, name: 'Night', presetId: null })
    expect([kit.kit.name, kit.presetId, kit.presetRevision]).toEqual(['Night', 'night', 3])
  })

  it('says nothing of a kit that was opened meanwhile: it would be stored over this preset next', async () => {
    const [kit, vault] = [useKit(), useVault()]
    await kit.openLast()
    const other = server.add(emptyKit('Day'))
    const stored = vault.store('Night', null)
    await soon()
    await kit.open(other.id)
    stores[0]!.end()
    await stored
    expect([kit.kit.name, kit.presetId, kit.presetRevision]).toEqual(['Day', null, null])
  })
})

describe('the vault', () => {
  it('is looked at again whenever the server tells of it', async () => {
    const vault = useVault()
    presets = ['Night']
    for (const listener of tell) listener({ type: 'vault' })
    await soon()
    expect(vault.vault?.presets.map(preset => preset.name)).toEqual(['Night'])
  })
})
