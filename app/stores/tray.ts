import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { SoundRow } from '~~/server/library/search'
import { api } from '../composables/useApi'
import { sayError } from '../composables/useSay'
import { onReconnected, onServerEvent, tabId } from '../composables/useServerEvents'

/** Most sounds that are put on the tray at a time. */
export const MOST_ON_TRAY = 10_000

/** The shortlist in hand; the server keeps it. */
export const useTray = defineStore('tray', () => {
  const sounds = shallowRef<readonly SoundRow[]>([])
  const cursor = ref(0)
  const chosen = shallowRef<ReadonlySet<string>>(new Set())
  const atCursor = computed(() => sounds.value[cursor.value])
  const chosenRows = computed(() => chosen.value.size > 0
    ? sounds.value.filter(row => chosen.value.has(row.hash))
    : sounds.value.slice(cursor.value, cursor.value + 1))

  onServerEvent((event) => {
    if (event.type === 'tray' && event.from !== tabId) void load()
  })
  onReconnected(() => void load())

  async function load(): Promise<void> {
    sounds.value = await api<SoundRow[]>('/api/tray')
    cursor.value = Math.min(cursor.value, Math.max(0, sounds.value.length - 1))
  }

  /** Adds sounds at the end; gives how many were new. */
  async function add(rows: readonly SoundRow[]): Promise<number> {
    const known = new Set(sounds.value.map(row => row.hash))
    const fresh = rows.filter(row => !known.has(row.hash))
    if (fresh.length === 0) return 0
    sounds.value = [...sounds.value, ...fresh]
    await save(() => api('/api/tray', { method: 'POST', body: { hashes: fresh.map(row => row.hash), from: tabId } }))
    return fresh.length
  }

  async function remove(hashes: ReadonlySet<string>): Promise<void> {
    sounds.value = sounds.value.filter(row => !hashes.has(row.hash))
    chosen.value = new Set()
    cursor.value = Math.min(cursor.value, Math.max(0, sounds.value.length - 1))
    await save(() => api('/api/tray', { method: 'PUT', body: { hashes: sounds.value.map(row => row.hash), from: tabId } }))
  }

  function moveTo(index: number): void {
    cursor.value = Math.max(0, Math.min(sounds.value.length - 1, index))
    chosen.value = new Set()
  }

  function toggle(hash: string): void {
    const next = new Set(chosen.value)
    if (!next.delete(hash)) next.add(hash)
    chosen.value = next
  }

  async function save(work: () => Promise<unknown>): Promise<void> {
    try {
      await work()
    }
    catch (thrown) {
      sayError(thrown)
      await load().catch(() => undefined)
    }
  }

  return { sounds, cursor, chosen, chosenRows, atCursor, load, add, remove, moveTo, toggle }
})
