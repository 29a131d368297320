import { defineStore } from 'pinia'
import { computed, ref, shallowReactive, shallowRef, watch } from 'vue'
import { MATCHING_CEILING_DB, matchingGainDb } from '~~/core/audio/analysis/loudness'
import { EmporionError } from '~~/core/errors'
import type { SoundRow } from '~~/contract/library'
import { auditionSeconds, setAuditionGain, startAudition, stopAudition, type HowToPlay } from './audition'
import { loadSound, readySound, type HeardSound } from './bufferCache'
import { cancelAheadBut, soundUrl } from './decoder'
import { setVolume, useOutput, wake } from './output'
import { useSettings } from '../parts/settings'

/** What the player strip shows: a sound of the library, or a preset's preview. */
export interface AtHand {
  readonly url: string
  readonly title: string
  readonly row: SoundRow | null
}

/** Sounds that were heard last are kept under the fingers. */
const MOST_HEARD = 16
const MOST_SEMITONES = 24

/** The current sound and its playing. */
export const usePlayer = defineStore('player', () => {
  const settings = useSettings()
  const atHand = shallowRef<AtHand>()
  const outline = shallowRef<Int8Array>()
  const isPlaying = ref(false)
  const problem = ref<string>()
  const needsGesture = ref(false)
  const firstHitOnly = ref(false)
  const isLooped = ref(false)
  const isReversed = ref(false)
  const semitones = ref(0)
  /** The last sounds that were heard, the latest first. */
  const heard = shallowRef<readonly SoundRow[]>([])
  /** Set while something else plays sounds in this one's place, such as a try-out. */
  const takenBy = shallowRef<(row: SoundRow) => boolean>()
  /** Why sounds can't be played, by their hashes, as far as it was tried. */
  const broken = shallowReactive(new Map<string, string>())
  let request = 0
  let playsFrom = 0
  /** The address of the sound that was started last. */
  let sounding: string | undefined

  const gainDb = computed(() => atHand.value?.row ? gainOf(atHand.value.row) : 0)
  const hits = computed(() => atHand.value?.row?.hits ?? [])

  watch(() => settings.volume, setVolume, { immediate: true })
  // While the current sound is on its way, another may still be heard, which keeps its own level.
  watch([() => settings.matchLevels, () => settings.referenceLufs], () => isPlaying.value && sounding === atHand.value?.url && setAuditionGain(gainDb.value))
  watch([firstHitOnly, isLooped, isReversed, semitones], () => isPlaying.value && again())

  /** What a sound is played at: 0 dB where levels are not matched, or its loudness is not known. */
  function gainOf(row: SoundRow): number {
    if (!settings.matchLevels || row.hitLufs === null) return 0
    return matchingGainDb(row.hitLufs, row.truePeakDb ?? MATCHING_CEILING_DB, settings.referenceLufs)
  }

  /** Takes a sound to hand and plays it at once. `pressedAt` is the time stamp of the key or click. Gives false where it can't be played. */
  async function play(sound: AtHand, pressedAt?: number, fromSeconds = 0): Promise<boolean> {
    const own = ++request
    if (atHand.value?.url !== sound.url) playsFrom = 0
    atHand.value = sound
    problem.value = undefined
    playsFrom = fromSeconds
    if (sound.row) remember(sound.row)
    if (sound.row && takenBy.value?.(sound.row)) {
      stop()
      outline.value = undefined
      // It is heard elsewhere; what it looks like is shown here all the same.
      loadSound(sound.url).then(({ outline: drawn }) => own === request && (outline.value = drawn), () => undefined)
      return true
    }
    const ready = readySound(sound.url)
    if (ready) {
      await sounded(ready, own, pressedAt)
      return true
    }
    outline.value = undefined
    try {
      const loaded = await loadSound(sound.url)
      if (own === request) await sounded(loaded, own, pressedAt)
      return true
    }
    catch (thrown) {
      const message = thrown instanceof Error ? thrown.message : String(thrown)
      if (sound.row && !(thrown instanceof EmporionError && thrown.code === 'cancelled')) broken.set(sound.row.hash, message)
      if (own !== request) return true
      stop()
      problem.value = message
      return false
    }
  }

  async function sounded(sound: HeardSound, own: number, pressedAt?: number): Promise<void> {
    outline.value = sound.outline
    if (atHand.value?.row) broken.delete(atHand.value.row.hash)
    if (useOutput().context.state !== 'running') {
      needsGesture.value = !(await wake())
      if (own !== request || needsGesture.value) return
    }
    startAudition(sound, how(sound), () => {
      isPlaying.value = false
    })
    isPlaying.value = true
    sounding = atHand.value?.url
    if (pressedAt !== undefined) performance.measure('emporion:key-to-sound', { start: pressedAt, end: performance.now() })
  }

  function how(sound: HeardSound): HowToPlay {
    const whole = sound.buffer.duration
    const [first] = hits.value
    const from = firstHitOnly.value && first && playsFrom === 0 ? first.startSeconds : playsFrom
    const hit = hits.value.find(one => from < one.endSeconds - 0.001) ?? first
    return {
      gainDb: gainDb.value,
      fromSeconds: Math.min(from, Math.max(0, whole - 0.01)),
      untilSeconds: firstHitOnly.value && hit ? hit.endSeconds : whole,
      semitones: semitones.value,
      isReversed: isReversed.value,
      isLooped: isLooped.value,
    }
  }

  function playRow(row: SoundRow, pressedAt?: number, fromSeconds = 0): Promise<boolean> {
    return play({ url: soundUrl(row.hash), title: row.name, row }, pressedAt, fromSeconds)
  }

  function stop(): void {
    stopAudition()
    isPlaying.value = false
  }

  /** Plays the current sound again, from where it was begun. */
  function again(pressedAt?: number): void {
    if (atHand.value) void play(atHand.value, pressedAt, playsFrom)
  }

  /** Plays the current sound from its start, or stops it. */
  function toggle(pressedAt?: number): void {
    if (isPlaying.value) stop()
    else if (atHand.value) void play(atHand.value, pressedAt)
  }

  /** Plays the current sound from a place in it. */
  function playFrom(seconds: number, pressedAt?: number): void {
    if (atHand.value) void play(atHand.value, pressedAt, Math.max(0, seconds))
  }

  /** Plays from the next hit after where it was begun or is now; with -1 from the one before. */
  function toHit(step: 1 | -1, pressedAt?: number): void {
    const starts = hits.value.map(hit => hit.startSeconds)
    if (starts.length === 0) return playFrom(0, pressedAt)
    const now = isPlaying.value ? auditionSeconds() ?? playsFrom : playsFrom
    const next = step > 0 ? starts.find(start => start > playsFrom + 0.005) ?? starts[0]! : starts.findLast(start => start < Math.min(now, playsFrom) - 0.005) ?? starts.at(-1)!
    playFrom(next, pressedAt)
  }

  /** Plays by so many semitones higher than it is now; 0 brings it back to its own pitch. */
  function transpose(step: number): void {
    semitones.value = step === 0 ? 0 : Math.max(-MOST_SEMITONES, Math.min(MOST_SEMITONES, semitones.value + step))
    if (!isPlaying.value) again()
  }

  function remember(row: SoundRow): void {
    if (heard.value[0]?.hash !== row.hash) heard.value = [row, ...heard.value.filter(other => other.hash !== row.hash)].slice(0, MOST_HEARD)
  }

  /** Decodes sounds that are likely to be wanted next. */
  function prepare(rows: readonly SoundRow[]): void {
    const urls = rows.map(row => soundUrl(row.hash))
    cancelAheadBut(new Set(urls))
    for (const url of urls) loadSound(url, 'ahead').catch(() => undefined)
  }

  return {
    gainDb, gainOf, hits, atHand, outline, isPlaying, problem, needsGesture, firstHitOnly, isLooped, isReversed, semitones, heard, takenBy, broken,
    play, playRow, stop, again, toggle, playFrom, toHit, transpose, prepare,
  }
})
