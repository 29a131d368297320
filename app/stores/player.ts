import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { SoundRow } from '~~/server/library/search'
import { startAudition, stopAudition } from '../audio/audition'
import { loadSound, readySound, type HeardSound } from '../audio/bufferCache'
import { dropAheadBut, soundUrl } from '../audio/decoder'
import { useOutput, wake } from '../audio/output'
import { useSettings } from './settings'

/** What the player strip shows: a sound of the library, or a preset's preview. */
export interface AtHand {
  readonly url: string
  readonly title: string
  readonly row: SoundRow | null
}

/** The sound at hand and its playing. */
export const usePlayer = defineStore('player', () => {
  const settings = useSettings()
  const atHand = shallowRef<AtHand>()
  const outline = shallowRef<Int8Array>()
  const isPlaying = ref(false)
  const problem = ref<string>()
  const needsGesture = ref(false)
  /** What the sound at hand is played at: 0 where levels are not matched, or its loudness is not known. */
  const gainDb = computed(() => settings.matchLevels ? atHand.value?.row?.matchingGainDb ?? 0 : 0)
  let turn = 0

  watch(() => settings.volume, (volume) => {
    useOutput().input.gain.value = volume ** 2
  }, { immediate: true })

  /** Takes a sound to hand and plays it at once. `pressedAt` is the time stamp of the key or click. */
  async function play(sound: AtHand, pressedAt?: number): Promise<void> {
    const own = ++turn
    atHand.value = sound
    problem.value = undefined
    const ready = readySound(sound.url)
    if (ready) return sounded(ready, own, pressedAt)
    outline.value = undefined
    try {
      const loaded = await loadSound(sound.url)
      if (own === turn) await sounded(loaded, own, pressedAt)
    }
    catch (thrown) {
      if (own !== turn) return
      stop()
      problem.value = thrown instanceof Error ? thrown.message : String(thrown)
    }
  }

  async function sounded(sound: HeardSound, own: number, pressedAt?: number): Promise<void> {
    outline.value = sound.outline
    if (useOutput().context.state !== 'running') {
      needsGesture.value = !(await wake())
      if (own !== turn || needsGesture.value) return
    }
    startAudition(sound, gainDb.value, () => {
      isPlaying.value = false
    })
    isPlaying.value = true
    if (pressedAt !== undefined) performance.measure('emporion:key-to-sound', { start: pressedAt, end: performance.now() })
  }

  function playRow(row: SoundRow, pressedAt?: number): Promise<void> {
    return play({ url: soundUrl(row.hash), title: row.name, row }, pressedAt)
  }

  function stop(): void {
    stopAudition()
    isPlaying.value = false
  }

  /** Plays the sound at hand again from its start. */
  function again(pressedAt?: number): void {
    if (atHand.value) void play(atHand.value, pressedAt)
  }

  /** Decodes sounds that are likely to be wanted next. */
  function prepare(rows: readonly SoundRow[]): void {
    const urls = rows.map(row => soundUrl(row.hash))
    dropAheadBut(new Set(urls))
    for (const url of urls) loadSound(url, 'ahead').catch(() => undefined)
  }

  return { gainDb, atHand, outline, isPlaying, problem, needsGesture, play, playRow, stop, again, prepare }
})
