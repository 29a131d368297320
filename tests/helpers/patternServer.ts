import { EmporionError } from '../../core/errors'
import { applyDifference, type Difference } from '../../core/document/difference'
import { emptyPattern, parsePattern, type Pattern } from '../../core/groove/document'
import { SHIPPED_PATTERNS, shippedId } from '../../core/groove/shipped'
import { patternFromSteps } from '../../core/groove/steps'
import type { PatternView } from '../../contract/patterns'
import { summaryOf } from '../../server/patterns/summary'
import type { Ask } from './stores'

/** Patterns as the server keeps them, without the server: the first shipped ones, and what is made. */
export function patternServer() {
  const patterns = new Map<string, PatternView>()
  let made = 0
  const add = (pattern: Pattern, id = `mine-${++made}`, isShipped = false) => {
    const view: PatternView = { id, pattern: parsePattern(pattern), revision: 1, isShipped, folder: 'Mine' }
    patterns.set(id, view)
    return view
  }
  for (const written of SHIPPED_PATTERNS.slice(0, 3)) add(patternFromSteps(written), shippedId(written), true)
  const ask: Ask = async (path, { method = 'GET', body } = {}) => {
    const id = path.split('/')[3]
    if (!id) {
      if (method === 'POST') return add((body as { pattern?: Pattern }).pattern ?? emptyPattern('New pattern'))
      return [...patterns.values()].map(({ id: one, pattern, isShipped }) => ({ id: one, ...summaryOf(pattern), folder: '', tags: [], favourite: false, isShipped, updatedAt: '', usedIn: [] }))
    }
    const known = patterns.get(id)
    if (!known) throw new EmporionError('not-found', 'It is no longer there.')
    if (method !== 'PUT') return structuredClone(known)
    const { difference, baseRevision } = body as { difference: Difference, baseRevision: number }
    if (known.isShipped) throw new EmporionError('refused', 'It came with Emporion.')
    if (baseRevision !== known.revision) throw new EmporionError('conflict', 'Changed elsewhere.')
    patterns.set(id, { ...known, pattern: parsePattern(applyDifference(known.pattern, structuredClone(difference))), revision: baseRevision + 1 })
    return { revision: baseRevision + 1 }
  }
  return { patterns, add, ask }
}
