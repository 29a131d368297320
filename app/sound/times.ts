import { soundRoutes } from '~~/contract/library'
import { defineStore } from 'pinia'
import { shallowReactive } from 'vue'
import type { SoundTimes } from '~~/core/kit/trims'
import { api } from '../parts/useApi'

const AT_ONCE = 2048

/** When sounds begin, end and are hit, as the library measured them; asked for when they are needed. */
export const useTimes = defineStore('times', () => {
  const known = shallowReactive(new Map<string, SoundTimes | null>())

  /** Fetches what is not known yet of some sounds. */
  async function load(soundIds: readonly string[]): Promise<void> {
    const wanted = [...new Set(soundIds)].filter(id => !known.has(id)).slice(0, AT_ONCE)
    if (wanted.length === 0) return
    const found = await api(soundRoutes.times, { body: { sounds: wanted } })
    for (const id of wanted) known.set(id, found[id] ?? null)
  }

  function timesOf(soundId: string): SoundTimes | undefined {
    return known.get(soundId) ?? undefined
  }

  return { load, timesOf }
})
