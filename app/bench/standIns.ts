import { libraryRoutes, soundRoutes, type SoundRow, type StandInReason, type StandIns } from '~~/contract/library'
import { knownSound } from '~~/core/kit/parts'
import { defineStore } from 'pinia'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import type { SoundRef } from '~~/core/kit/document'
import { padLabel } from '~~/core/kit/padLabel'
import { replaceSounds } from '~~/core/kit/replaceSounds'
import { api } from '../parts/useApi'
import { counted } from '../parts/useFormat'
import { useKit } from './kit'

/** Sounds that are asked for at a time. */
const ASKED_AT_ONCE = 500
const MOST_ALIKE = 6
/** Sounds that are looked at for that: some may be away. */
const MOST_COMPARED = 40

/** A sound that may take the place of one that is missing. */
export interface Offer {
  readonly row: SoundRow
  readonly reason: StandInReason | 'alike'
  /** How near it is to the missing one, 0 to 1, where it is offered for that. */
  readonly nearness: number | null
}

/** A sample of the current kit of which no file can be found. */
export interface MissingSample {
  readonly sound: SoundRef
  /** The pads that play it. */
  readonly pads: readonly string[]
}

/** Other sounds for samples of the current kit that are missing: what there is for each, and what was chosen. */
export const useStandIns = defineStore('standIns', () => {
  const kit = useKit()
  const isOpen = ref(false)
  const isAsking = ref(false)
  const found = shallowRef<ReadonlyMap<string, StandIns>>(new Map())
  const alike = shallowReactive(new Map<string, readonly Offer[]>())
  const chosen = shallowReactive(new Map<string, SoundRow>())

  const missing = computed<MissingSample[]>(() => kit.missingSounds.map(sound => ({
    sound,
    pads: kit.kit.pads.flatMap((pad, index) => pad.layers.some(layer => layer.sound.id === sound.id) ? [padLabel(index)] : []),
  })))
  /** How many of them get another sound. */
  const chosenCount = computed(() => missing.value.filter(({ sound }) => chosen.has(sound.id)).length)

  /** Opens the choice. What hardly is another sound is chosen already. */
  async function open(): Promise<void> {
    isOpen.value = true
    isAsking.value = true
    found.value = new Map()
    alike.clear()
    chosen.clear()
    try {
      const wanted = kit.missingSounds.map(({ id, name, frames, sampleRate }) => ({ id, name, frames, sampleRate }))
      for (let i = 0; i < wanted.length; i += ASKED_AT_ONCE) {
        const part = await api(libraryRoutes.standIns, { body: { sounds: wanted.slice(i, i + ASKED_AT_ONCE) } })
        found.value = new Map([...found.value, ...Object.entries(part)])
        for (const [id, { standIns }] of Object.entries(part)) {
          const sure = standIns.find(standIn => standIn.isSure)
          if (sure) chosen.set(id, sure.row)
        }
      }
    }
    finally {
      isAsking.value = false
    }
  }

  /** Looks for what sounds like a missing sample, once. */
  async function findAlike(id: string): Promise<void> {
    const comparable = found.value.get(id)?.comparableId ?? null
    if (comparable === null || alike.has(id)) return
    alike.set(id, [])
    try {
      const page = await api(soundRoutes.list, { query: { q: `like=${comparable}`, limit: MOST_COMPARED } })
      // Where a whole source is away, the library has its sounds still, that one among them.
      const { missing: away } = await api(libraryRoutes.missing, { body: { sounds: page.rows.map(row => row.hash), onDisk: true } })
      const others = page.rows.filter(row => row.hash !== id && !away.includes(row.hash)).slice(0, MOST_ALIKE)
      alike.set(id, others.map(row => ({ row, reason: 'alike', nearness: row.nearness?.whole ?? null })))
    }
    catch (thrown) {
      alike.delete(id)
      throw thrown
    }
  }

  /** What there is for a missing sample, the surest first. */
  function offersFor(id: string): Offer[] {
    const known = (found.value.get(id)?.standIns ?? []).map(({ row, reason }): Offer => ({ row, reason, nearness: null }))
    const hashes = new Set(known.map(({ row }) => row.hash))
    return [...known, ...(alike.get(id) ?? []).filter(({ row }) => !hashes.has(row.hash))]
  }

  /** Chooses what takes the place of a missing sample; undefined: nothing does. */
  function choose(id: string, row: SoundRow | undefined): void {
    if (row) chosen.set(id, row)
    else chosen.delete(id)
  }

  /** Puts all that was chosen in its place, as one edit. */
  function carryOut(): void {
    // One that was found again meanwhile keeps its place.
    const standIns = new Map(missing.value.flatMap(({ sound: { id } }) => {
      const row = chosen.get(id)
      return row ? [[id, knownSound(row).sound] as const] : []
    }))
    if (!kit.edit(`Put ${counted(standIns.size, 'sound')} in place of missing ones`, state => replaceSounds(state, standIns))) return
    isOpen.value = false
  }

  return { isOpen, isAsking, found, missing, chosen, chosenCount, open, findAlike, offersFor, choose, carryOut }
})
