import { EmporionError } from '../../core/errors'
import { applyDifference, type Difference } from '../../core/document/difference'
import { emptyKit, kitSchema, type Kit } from '../../core/kit/document'
import type { KitView } from '../../contract/kits'
import type { Ask } from './stores'

/** Kits at work as the server keeps them, without the server: edits build on a revision, and are checked. */
export function kitServer() {
  const kits = new Map<string, KitView>()
  let made = 0
  const view = (kit: Kit, more: Partial<KitView> = {}): KitView => ({ id: `kit-${++made}`, kit: kitSchema.parse(kit), revision: 1, presetId: null, presetRevision: null, patternId: null, updatedAt: '2026-01-01T00:00:00Z', writtenBy: null, ...more })
  const add = (kit: Kit, more?: Partial<KitView>) => {
    const added = view(kit, more)
    kits.set(added.id, added)
    return added
  }
  const ask: Ask = async (path, { method = 'GET', body } = {}) => {
    const id = path.split('/')[3]!
    if (path === '/api/kits/set') return (body as { kits: Kit[] }).kits.map(kit => add(kit))
    if (path === '/api/kits') return method === 'POST' ? add((body as { kit?: Kit }).kit ?? emptyKit('New kit')) : [...kits.values()].map(one => ({ id: one.id, name: one.kit.name, pads: 0, updatedAt: one.updatedAt }))
    const known = kits.get(id)
    if (!known) throw new EmporionError('not-found', 'It is no longer there.')
    if (method === 'PUT') {
      const { difference, baseRevision } = body as { difference: Difference, baseRevision: number }
      if (baseRevision !== known.revision) throw new EmporionError('conflict', 'Changed elsewhere.')
      kits.set(id, { ...known, kit: kitSchema.parse(applyDifference(known.kit, structuredClone(difference))), revision: baseRevision + 1 })
      return { revision: baseRevision + 1 }
    }
    return structuredClone(known)
  }
  return { kits, add, ask }
}
