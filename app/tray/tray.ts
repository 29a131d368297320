import { trayRoutes, type Copied, type TrayChange, type TrayItem, type TrayView } from '~~/contract/tray'
import { useEventListener } from '@vueuse/core'
import PQueue from 'p-queue'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { topKind } from '~~/core/search/kinds'
import type { SoundRow } from '~~/contract/library'
import { api } from '../parts/useApi'
import { sayError } from '../parts/useSay'
import { onReconnected, onServerEvent, tabId } from '../parts/useServerEvents'
import { useFirstSteps } from '../library'
import { useJobs } from '../parts/jobs'
import { useSettings } from '../parts/settings'
import { counted } from '../parts/useFormat'

/** Most sounds that are put on the tray at a time. */
export const MOST_ON_TRAY = 10_000

/** The shortlist in hand, one of several; the server keeps them. */
/** What adding came to: those that were there already are not counted. */
export function addedWords(added: number): string {
  return added > 0 ? `${counted(added, 'sound')} added to the tray.` : 'Already on the tray.'
}

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

  /** All requests about trays, one after the other: each answer is as of the change before it. */
  const queue = new PQueue({ concurrency: 1 })
  /** Changes that the server has not been told of yet: what it answers until then is older. */
  let unsent = 0

  // Whoever leaves in that moment is asked first.
  useEventListener(window, 'beforeunload', (event) => {
    if (unsent > 0) event.preventDefault()
  })

  function load(): Promise<void> {
    return queue.add(loadNow)
  }

  async function loadNow(): Promise<void> {
    trays.value = await api(trayRoutes.list)
    const id = tray.value?.id
    const found = id === undefined ? [] : await api(trayRoutes.read, { params: { id } })
    if (unsent > 0) return void load()
    if (tray.value?.id !== id) return
    const here = new Set(found.map(item => item.row.hash))
    items.value = found
    cursor.value = withinTray(cursor.value)
    chosen.value = new Set([...chosen.value].filter(hash => here.has(hash)))
  }

  /** Takes another tray to hand. */
  async function open(id: number): Promise<void> {
    settings.trayId = id
    items.value = []
    moveTo(0)
    await load()
  }

  async function create(name: string): Promise<void> {
    const made = await api(trayRoutes.add, { body: { name } })
    trays.value = [...trays.value.filter(candidate => candidate.id !== made.id), made]
    await open(made.id)
  }

  async function rename(name: string): Promise<void> {
    if (tray.value) await api(trayRoutes.rename, { params: { id: tray.value.id }, body: { name } })
    await load()
  }

  /** Takes the tray in hand away; its sounds stay in the library. */
  async function removeTray(): Promise<void> {
    const gone = tray.value?.id
    if (gone !== undefined) await api(trayRoutes.remove, { params: { id: gone } })
    trays.value = trays.value.filter(candidate => candidate.id !== gone)
    await open(0)
  }

  /** Adds sounds at the end; gives how many were new. */
  async function add(rows: readonly SoundRow[]): Promise<number> {
    const known = new Set(sounds.value.map(row => row.hash))
    const fresh = [...new Map(rows.filter(row => !known.has(row.hash)).map(row => [row.hash, row])).values()]
    if (fresh.length === 0) return 0
    await change([...items.value, ...fresh.map(row => ({ row, note: '' }))], id => api(trayRoutes.addSounds, { params: { id }, body: { hashes: fresh.map(row => row.hash), from: tabId } }))
    useFirstSteps().did('tray')
    return fresh.length
  }

  function remove(hashes: ReadonlySet<string>): Promise<void> {
    chosen.value = new Set()
    return change(items.value.filter(({ row }) => !hashes.has(row.hash)), alter({ type: 'remove', hashes: [...hashes] }))
  }

  /** Moves the sound at the cursor up or down. */
  function move(step: 1 | -1): Promise<void> {
    const from = cursor.value
    const to = from + step
    const moved = items.value[from]
    const other = items.value[to]
    if (!moved || !other) return Promise.resolve()
    cursor.value = to
    const next = step > 0 ? items.value[to + 1] : other
    return change(items.value.with(from, other).with(to, moved), alter({ type: 'move', hash: moved.row.hash, before: next?.row.hash ?? null }))
  }

  /** Notes something of a sound on this tray. */
  function note(hash: string, text: string): Promise<void> {
    return change(items.value.map(item => item.row.hash === hash ? { ...item, note: text } : item), alter({ type: 'note', hash, note: text }))
  }

  function moveTo(index: number): void {
    cursor.value = withinTray(index)
    chosen.value = new Set()
  }

  function withinTray(index: number): number {
    return Math.max(0, Math.min(items.value.length - 1, index))
  }

  function toggle(hash: string): void {
    const next = new Set(chosen.value)
    if (!next.delete(hash)) next.add(hash)
    chosen.value = next
  }

  /** Copies the tray's sounds into a folder. */
  async function copyInto(path: string): Promise<Copied> {
    if (!tray.value) await load()
    return jobs.finished(await api(trayRoutes.copy, { params: { id: tray.value!.id }, body: { path } }))
  }

  const alter = (what: TrayChange) => (id: number) => api(trayRoutes.change, { params: { id }, body: { change: what, from: tabId } })

  /** Shows what a change makes of the tray in hand, and tells the server of that change alone. */
  async function change(wanted: readonly TrayItem[], send: (trayId: number) => Promise<unknown>): Promise<void> {
    const at = tray.value?.id
    unsent++
    items.value = wanted
    cursor.value = withinTray(cursor.value)
    trays.value = trays.value.map(candidate => candidate.id === at ? { ...candidate, count: wanted.length } : candidate)
    try {
      await queue.add(async () => {
        if (at === undefined) trays.value = await api(trayRoutes.list)
        await send(at ?? tray.value!.id)
      }).finally(() => unsent--)
    }
    catch (thrown) {
      sayError(thrown)
      await load().catch(() => undefined)
    }
  }

  return { trays, tray, items, sounds, kinds, cursor, chosen, chosenRows, atCursor, load, open, create, rename, removeTray, add, remove, move, note, moveTo, toggle, copyInto }
})
