import { soundRoutes, type SoundRow } from '~~/contract/library'
import { computed, shallowReactive, shallowRef, type ShallowRef } from 'vue'
import { equalRanges } from '~~/core/kit/ranges'
import type { Pad } from '~~/core/kit/document'
import { knownSound, type KnownSound } from '~~/core/kit/parts'
import { api } from '../parts/useApi'

const PAGE_ROWS = 100

/** A sound that may be tried: one of the library, or an alternate that the pad has already. */
export interface Candidate extends KnownSound {
  /** The value that chooses it among the pad's alternates. */
  readonly alternate?: number
  readonly lengthSeconds: number
  readonly truePeakDb: number | null
}

/** Candidates in their order. Those of a search come as they are asked for. */
export interface CandidateList {
  readonly title: string
  readonly total: Readonly<ShallowRef<number>>
  readonly at: (index: number) => Candidate | undefined
  /** Makes sure that a stretch is there or on its way. */
  readonly need: (from: number, to: number) => Promise<void>
}

export function toCandidate(row: SoundRow): Candidate {
  return { ...knownSound(row), lengthSeconds: row.lengthSeconds, truePeakDb: row.truePeakDb }
}

/** What lies on the tray, or any list that is here already. */
export function listedCandidates(title: string, rows: readonly SoundRow[]): CandidateList {
  const all = rows.map(toCandidate)
  return { title, total: shallowRef(all.length), at: index => all[index], need: async () => undefined }
}

/** The alternates that a pad has. */
export function alternateCandidates(pad: Pad): CandidateList {
  const ranges = equalRanges(pad.layers.length)
  const all = pad.layers.map(({ sound }, i): Candidate => ({ sound, folder: '', kind: pad.role, hitLufs: null, pitchNote: null, statedNote: null, lengthSeconds: sound.frames / sound.sampleRate, truePeakDb: null, alternate: ranges[i]!.low }))
  return { title: 'Its alternates', total: shallowRef(all.length), at: index => all[index], need: async () => undefined }
}

/** What a search of the library finds, in the order that the search has. */
export async function searchCandidates(title: string, search: Readonly<Record<string, unknown>>): Promise<CandidateList> {
  const pages = shallowReactive(new Map<number, readonly Candidate[]>())
  const asked = new Map<number, Promise<void>>()
  const total = shallowRef(0)
  const fetchPage = async (number: number) => {
    const page = await api(soundRoutes.list, { query: { ...search, offset: number * PAGE_ROWS, limit: PAGE_ROWS } })
    total.value = page.total
    pages.set(number, page.rows.map(toCandidate))
  }
  const need = async (from: number, to: number) => {
    const numbers = Array.from({ length: Math.floor(to / PAGE_ROWS) - Math.floor(from / PAGE_ROWS) + 1 }, (_, i) => Math.floor(from / PAGE_ROWS) + i)
    await Promise.all(numbers.filter(number => number >= 0 && number * PAGE_ROWS <= total.value).map((number) => {
      const known = asked.get(number)
      if (known) return known
      const coming = fetchPage(number).catch(() => {
        asked.delete(number)
      })
      asked.set(number, coming)
      return coming
    }))
  }
  await need(0, PAGE_ROWS - 1)
  return { title, total: computed(() => total.value), at: index => pages.get(Math.floor(index / PAGE_ROWS))?.[index % PAGE_ROWS], need }
}
