import { emptyKit, wholeLayer, type Kit } from '../../core/kit/document'
import type { SoundRow } from '../../contract/library'

/** Asks a running server. */
type Api = <T>(path: string, options?: { method?: string, body?: unknown }) => Promise<T>

/** A kit with a sound of the library on each pad, by kind, made by the server. */
export async function drumKit(api: Api, name: string, kinds: readonly string[], take = 0): Promise<{ readonly id: string, readonly kit: Kit }> {
  const rows = await Promise.all(kinds.map(kind => api<{ rows: SoundRow[] }>(`/api/sounds?limit=5&q=${encodeURIComponent(`kind=${kind} sounds<2`)}`)))
  const empty = emptyKit(name)
  const pads = empty.pads.map((pad, i) => {
    const found = rows[i]?.rows
    const row = found?.[Math.min(take, found.length - 1)]
    if (!row) return pad
    const { hash: id, frames, sampleRate, channels } = row
    return { ...pad, name: row.name, role: kinds[i]!, layers: [wholeLayer({ id, name: row.name, frames, sampleRate, channels })] }
  })
  return api('/api/kits', { method: 'POST', body: { kit: { ...empty, pads } } })
}
