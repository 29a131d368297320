import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { matchingGainDb, MATCHING_CEILING_DB } from '~~/core/audio/analysis/loudness'
import { basicPattern } from '~~/core/groove/basicPattern'
import { loopTempo } from '~~/core/groove/loopTempo'
import { emptyPad, wholeLayer, type Kit, type Pad } from '~~/core/kit/document'
import { readName } from '~~/core/search/naming'
import type { SoundDetail } from '~~/server/library/detail'
import type { SoundRow } from '~~/server/library/search'
import { api } from '../composables/useApi'
import { useKit, toPlace } from './kit'
import { usePlayer } from './player'
import { useSettings } from './settings'

const FIRST_BPM = 104
/** The note that a backing loop is played by: the highest, where no pad is put. */
const BACKING_NOTE = 127
const BACKING_GROUP = 32

/**
 * A try-out: a pattern goes on while candidates take the place of one part of it. What the kit holds is changed only when a
 * candidate is kept.
 */
export const useTryOut = defineStore('tryOut', () => {
  const kit = useKit()
  const player = usePlayer()
  const settings = useSettings()
  const isOn = ref(false)
  const padIndex = ref(0)
  const candidate = shallowRef<SoundRow>()
  /** A loop of the library that goes along in place of the kit's other parts. */
  const backing = shallowRef<SoundRow>()
  const bpm = ref(FIRST_BPM)
  const isRunning = ref(false)
  /** Loudness of the pad's own sound as the pad plays it. */
  const replacedLufs = ref<number>()

  const tempo = computed(() => backing.value ? loopTempo(backing.value.lengthSeconds, readName(`${backing.value.name}.wav`).bpm) : { beats: 4, bpm: bpm.value })
  const pad = computed(() => kit.kit.pads[padIndex.value])
  const kind = computed(() => candidate.value?.kind ?? pad.value?.role ?? null)
  /** What brings the candidate to the loudness of what it replaces, or of all that is auditioned. */
  const gainDb = computed(() => candidate.value ? gainFor(candidate.value) : 0)

  /** Begins with the pad at hand, and with a sound to try. */
  function begin(row: SoundRow | undefined): void {
    padIndex.value = kit.padIndex
    candidate.value = row
    isOn.value = true
    isRunning.value = true
    player.stop()
    player.takenBy = take
    replacedLufs.value = undefined
    play()
    void hearReplaced()
  }

  /** Finds out how loud the sound is that is replaced, so that candidates come as loud. */
  async function hearReplaced(): Promise<void> {
    const at = padIndex.value
    const layer = kit.kit.pads[at]?.layers[0]
    const detail = layer && await api<SoundDetail>(`/api/sounds/${layer.sound.id}`).catch(() => undefined)
    const lufs = detail?.figures?.level?.hitLufs
    if (layer && lufs !== undefined && isOn.value && padIndex.value === at) replacedLufs.value = lufs + layer.gainDb
  }

  /** Takes a sound as the candidate in place of playing it. */
  function take(row: SoundRow): boolean {
    if (!isRunning.value) return false
    candidate.value = row
    play()
    return true
  }

  /** Keeps the candidate on its pad, at the level that it was heard at. Gives false where there is none. */
  function keep(): boolean {
    const row = candidate.value
    if (!row) return false
    const at = padIndex.value
    const level = gainDb.value
    end()
    kit.place(at, [row], settings.matchLevels ? level : undefined)
    return true
  }

  /** Ends it; the kit sounds as it did before. */
  function end(): void {
    isOn.value = false
    isRunning.value = false
    player.takenBy = undefined
    candidate.value = undefined
    kit.endTryOut()
  }

  function pause(): void {
    isRunning.value = !isRunning.value
    if (isRunning.value) play()
    else kit.tryOut(undefined, undefined, bpm.value)
  }

  function setBacking(row: SoundRow | undefined): void {
    backing.value = row
  }

  watch([backing, bpm, replacedLufs, () => kit.kit, () => settings.matchLevels, () => settings.referenceLufs], () => isOn.value && isRunning.value && play())

  function play(): void {
    const { beats, bpm: speed } = tempo.value
    const tried = withCandidate()
    const pattern = basicPattern(backing.value ? onlyCandidate(tried) : tried, { padIndex: padIndex.value, kind: kind.value }, beats)
    const notes = backing.value ? [{ beat: 0, note: BACKING_NOTE, velocity: 127 }, ...pattern.notes] : pattern.notes
    kit.tryOut(backing.value ? withBacking(tried, backing.value) : tried, { beats, notes }, speed)
  }

  function withCandidate(): Kit {
    const row = candidate.value
    if (!row) return kit.kit
    const now = kit.kit.pads[padIndex.value]!
    const layer = { ...wholeLayer(toPlace(row).sound), gainDb: clampGain(gainDb.value) }
    const changed: Pad = { ...now, layers: [layer] }
    return { ...kit.kit, pads: kit.kit.pads.with(padIndex.value, changed) }
  }

  function onlyCandidate(tried: Kit): Kit {
    return { ...tried, pads: tried.pads.map((other, index) => index === padIndex.value ? other : { ...other, layers: [] }) }
  }

  function withBacking(tried: Kit, row: SoundRow): Kit {
    const loop: Pad = { ...emptyPad(BACKING_NOTE), chokeGroup: BACKING_GROUP, layers: [{ ...wholeLayer(toPlace(row).sound), gainDb: clampGain(player.gainOf(row)) }] }
    return { ...tried, pads: [...tried.pads.filter(other => other.note !== BACKING_NOTE), loop] }
  }

  /** Brings it to the loudness of the pad's own sound, as far as that is known; beside a loop, and on an empty pad, to the common reference. */
  function gainFor(row: SoundRow): number {
    if (!settings.matchLevels || row.hitLufs === null) return 0
    return clampGain(matchingGainDb(row.hitLufs, row.truePeakDb ?? MATCHING_CEILING_DB, (backing.value ? undefined : replacedLufs.value) ?? settings.referenceLufs))
  }

  return { isOn, isRunning, padIndex, pad, candidate, backing, bpm, tempo, gainDb, begin, keep, end, pause, setBacking }
})

function clampGain(gainDb: number): number {
  return Math.max(-96, Math.min(24, gainDb))
}
