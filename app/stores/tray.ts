import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { topKind } from '~~/core/search/kinds'
import type { Copied } from '~~/server/library/copies'
import type { JobView } from '~~/server/jobs/types'
import type { SoundRow } from '~~/server/library/search'
import type { TrayItem, TrayView } from '~~/server/library/trays'
import { api } from '../composables/useApi'
import { sayError } from '../composables/useSay'
import { onReconnected, onServerEvent, tabId } from '../composables/useServerEvents'
import { useJobs } from './jobs'
import { useSettings } from './settings'

/** Most sounds that are put on the tray at a time. */
export const MOST_ON_TRAY = 10_000

/** The shortlist in hand, one of several; the server keeps them. */
export const useTray = defineStore('tray', () => {
  const settings = useSettings()
  const jobs = useJobs()
  const trays = shallowRef<readonly TrayView[]>([])
  const items = shallowRef<readonly TrayItem[]>([])
  const cursor = ref(0)
  const chosen = shallowRef<ReadonlySet<string>>(new Set())

  const tray = computed(() => trays.value.find(candidate => candidate.id === settings.trayId) ?? trays.value[0])
  const sounds = computed(() => items.value.map(item => item.row))
  const atCursor = computed(() => items.value[cursor.value]?.row)
  const chosenRows = computed(() => chosen.value.size > 0
    ? sounds.value.filter(row => chosen.value.has(row.hash))
    : sounds.value.slice(cursor.value, cursor.value + 1))
  /** How many sounds of each uppermost kind lie on it, the most first. */
  const kinds = computed(() => {
    const counts = new Map<string, number>()
    for (const { kind } of sounds.value) {
      const top = kind ? topKind(kind) : 'none'
      counts.set(top, (counts.get(top) ?? 0) + 1)
    }
    return [...counts].sort((a, b) => b[1] - a[1])
  })

  onServerEvent((event) => {
    if (event.type === 'trays') void load()
    if (event.type === 'tray' && event.from !== tabId && event.trayId === tray.value?.id) void load()
  })
  onReconnected(() => void load())

  async function load(): Promise<void> {
    trays.value = await api<TrayView[]>('/api/trays')
    if (tray.value) items.value = await api<TrayItem[]>(`/api/trays/${tray.value.id}`)
    moveTo(cursor.value)
  }

  /** Takes another tray to hand. */
  async function open(id: number): Promise<void> {
    settings.trayId = id
    cursor.value = 0
    await load()
  }

  async function create(name: string): Promise<void> {
    const made = await api<TrayView>('/api/trays', { method: 'POST', body: { name } })
    await open(made.id)
  }

  async function rename(name: string): Promise<void> {
    if (tray.value) await api(`/api/trays/${tray.value.id}`, { method: 'PATCH', body: { name } })
    await load()
  }

  /** Takes the tray in hand away; its sounds stay in the library. */
  async function removeTray(): Promise<void> {
    if (tray.value) await api(`/api/trays/${tray.value.id}`, { method: 'DELETE' })
    settings.trayId = 0
    await load()
  }

  /** Adds sounds at the end; gives how many were new. */
  async function add(rows: readonly SoundRow[]): Promise<number> {
    const known = new Set(sounds.value.map(row => row.hash))
    const fresh = [...new Map(rows.filter(row => !known.has(row.hash)).map(row => [row.hash, row])).values()]
    if (fresh.length === 0) return 0
    items.value = [...items.value, ...fresh.map(row => ({ row, note: '' }))]
    await save(id => api(`/api/trays/${id}/sounds`, { method: 'POST', body: { hashes: fresh.map(row => row.hash), from: tabId } }))
    return fresh.length
  }

  function remove(hashes: ReadonlySet<string>): Promise<void> {
    chosen.value = new Set()
    return set(items.value.filter(({ row }) => !hashes.has(row.hash)))
  }

  /** Moves the sound at the cursor up or down. */
  function move(step: 1 | -1): Promise<void> {
    const from = cursor.value
    const to = from + step
    const moved = items.value[from]
    const other = items.value[to]
    if (!moved || !other) return Promise.resolve()
    cursor.value = to
    return set(items.value.with(from, other).with(to, moved))
  }

  /** Notes something of a sound on this tray. */
  function note(hash: string, text: string): Promise<void> {
    return set(items.value.map(item => item.row.hash === hash ? { ...item, note: text } : item))
  }

  function moveTo(index: number): void {
    cursor.value = Math.max(0, Math.min(items.value.length - 1, index))
    chosen.value = new Set()
  }

  function toggle(hash: string): void {
    const next = new Set(chosen.value)
    if (!next.delete(hash)) next.add(hash)
    chosen.value = next
  }

  /** Copies the tray's sounds into a folder. */
  async function copyInto(path: string): Promise<Copied> {
    return jobs.finished<Copied>(await api<JobView>(`/api/trays/${tray.value?.id}/copies`, { method: 'POST', body: { path } }))
  }

  async function set(wanted: readonly TrayItem[]): Promise<void> {
    items.value = wanted
    cursor.value = Math.min(cursor.value, Math.max(0, wanted.length - 1))
    await save(id => api(`/api/trays/${id}/sounds`, { method: 'PUT', body: { items: wanted.map(({ row, note: text }) => ({ hash: row.hash, note: text })), from: tabId } }))
  }

  async function save(work: (trayId: number) => Promise<unknown>): Promise<void> {
    try {
      if (!tray.value) await load()
      if (tray.value) await work(tray.value.id)
      const { id } = tray.value ?? {}
      trays.value = trays.value.map(candidate => candidate.id === id ? { ...candidate, count: items.value.length } : candidate)
    }
    catch (thrown) {
      sayError(thrown)
      await load().catch(() => undefined)
    }
  }

  return { trays, tray, items, sounds, kinds, cursor, chosen, chosenRows, atCursor, load, open, create, rename, removeTray, add, remove, move, note, moveTo, toggle, copyInto }
})
