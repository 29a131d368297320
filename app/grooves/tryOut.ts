import { soundRoutes, type SoundRow } from '~~/contract/library'
import { knownSound } from '~~/core/kit/parts'
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { matchingGainDb, MATCHING_CEILING_DB } from '~~/core/audio/analysis/loudness'
import { basicPattern } from '~~/core/groove/basicPattern'
import { loopTempo } from '~~/core/groove/loopTempo'
import { putCandidate, type TriedSettings } from '~~/core/kit/candidate'
import { clampGain } from '~~/core/kit/levels'
import { emptyPad, wholeLayer, type Kit, type Pad } from '~~/core/kit/document'
import { setPads } from '~~/core/kit/edits'
import { padLabel } from '~~/core/kit/padLabel'
import { api } from '../parts/useApi'
import { counted } from '../parts/useFormat'
import { toCandidate, type Candidate, type CandidateList } from '../library'
import { useGrooves } from './grooves'
import { useKit } from '../bench'
import { usePlayer } from '../sound'
import { useSettings } from '../parts/settings'

const FIRST_BPM = 104
/** The note that a backing loop is played by: the highest, where no pad is put. */
const BACKING_NOTE = 127
const BACKING_GROUP = 32
/** Candidates on either side that are decoded ahead. */
const AHEAD = 3

/**
 * A try-out: a pattern goes on while candidates take the place of some parts of it. It is the current pattern where that runs,
 * else a simple one. What the kit holds is changed only when a candidate is kept.
 */
export const useTryOut = defineStore('tryOut', () => {
  const kit = useKit()
  const grooves = useGrooves()
  const player = usePlayer()
  const settings = useSettings()
  const isOn = ref(false)
  const isRunning = ref(false)
  /** The pads that candidates are tried on. */
  const pads = shallowRef<readonly number[]>([0])
  const padIndex = computed(() => pads.value[0]!)
  const candidate = shallowRef<Candidate>()
  /** What is gone through, and where in it; undefined where candidates come one by one. */
  const list = shallowRef<CandidateList>()
  const index = ref(0)
  /** Candidates that were marked to be compared. */
  const marked = shallowRef<readonly Candidate[]>([])
  const onlyMarked = ref(false)
  const padSettings = useLocalStorage<TriedSettings>('emporion-tried-settings', 'kept')
  /** A loop of the library that goes along in place of the kit's other parts. */
  const backing = shallowRef<SoundRow>()
  const bpm = ref(FIRST_BPM)
  /** The current pattern goes on, in place of a simple one. */
  const ridesGroove = ref(false)
  /** Loudness of what the pads play without a candidate. */
  const replacedLufs = shallowRef<ReadonlyMap<number, number>>(new Map())
  /** The candidate that is heard already: one that is chosen is heard when it is loaded. */
  const sounding = shallowRef<Candidate>()
  let request = 0

  const tempo = computed(() => backing.value ? loopTempo(backing.value.lengthSeconds, backing.value.tempo ?? undefined) : { beats: 4, bpm: bpm.value })
  const pad = computed(() => kit.kit.pads[padIndex.value])
  const kind = computed(() => candidate.value?.kind ?? pad.value?.role ?? null)
  /** What brings the candidate to the loudness of what it replaces, or of all that is auditioned. */
  const gainDb = computed(() => candidate.value ? gainFor(candidate.value, padIndex.value) : 0)
  const total = computed(() => onlyMarked.value ? marked.value.length : list.value?.total.value ?? 0)

  /** Begins with the current pad, and with a sound to try. */
  function begin(row: SoundRow | undefined): void {
    open([kit.padIndex])
    ridesGroove.value = grooves.isRunning
    player.takenBy = take
    if (row) void choose(toCandidate(row))
    else play()
  }

  /** Begins to go through a list on some pads, while the current pattern goes on. */
  async function beginList(padIndexes: readonly number[], candidates: CandidateList): Promise<void> {
    if (!isOn.value) open(padIndexes)
    else pads.value = padIndexes
    ridesGroove.value = true
    list.value = candidates
    index.value = 0
    onlyMarked.value = false
    if (!grooves.isRunning) await grooves.play()
    await goTo(0)
  }

  function open(padIndexes: readonly number[]): void {
    pads.value = padIndexes
    candidate.value = undefined
    sounding.value = undefined
    list.value = undefined
    marked.value = []
    isOn.value = true
    isRunning.value = true
    player.stop()
    replacedLufs.value = new Map()
    void hearReplaced()
  }

  /** Finds out how loud the sounds are that are replaced, so that candidates come as loud. */
  async function hearReplaced(): Promise<void> {
    const asked = pads.value
    const found = new Map<number, number>()
    for (const at of asked) {
      const layer = kit.kit.pads[at]?.layers[0]
      const detail = layer && await api(soundRoutes.read, { params: { hash: layer.sound.id } }).catch(() => undefined)
      const lufs = detail?.figures?.level?.hitLufs
      if (layer && lufs !== undefined) found.set(at, lufs + layer.gainDb)
    }
    if (isOn.value && pads.value === asked) replacedLufs.value = found
  }

  /** Takes a sound as the candidate in place of playing it. */
  function take(row: SoundRow): boolean {
    if (!isRunning.value) return false
    void choose(toCandidate(row))
    return true
  }

  /** Goes to a candidate of the list; what lies beside it is decoded ahead. */
  async function goTo(to: number, pressedAt?: number): Promise<void> {
    const own = ++request
    const target = Math.max(0, Math.min(total.value - 1, to))
    index.value = target
    const chosen = candidateAt(target) ?? await fetchCandidate(target)
    if (own !== request || !chosen || !isOn.value) return
    await choose(chosen, pressedAt)
    for (let i = 1; i <= AHEAD; i++) for (const near of [target + i, target - i]) prepare(candidateAt(near))
  }

  function candidateAt(at: number): Candidate | undefined {
    return onlyMarked.value ? marked.value[at] : list.value?.at(at)
  }

  async function fetchCandidate(at: number): Promise<Candidate | undefined> {
    await list.value?.need(at - AHEAD, at + AHEAD)
    return candidateAt(at)
  }

  function prepare(near: Candidate | undefined): void {
    if (near) void kit.player.ensure(near.sound.id, 'ahead')
  }

  /** Any of them, not the current one. */
  function random(pressedAt?: number): void {
    if (total.value < 2) return
    const step = 1 + Math.floor(Math.random() * (total.value - 1))
    void goTo((index.value + step) % total.value, pressedAt)
  }

  /** The candidate is heard from its next hit on, once it is loaded: until then the one before goes on. */
  async function choose(next: Candidate, pressedAt?: number): Promise<void> {
    candidate.value = next
    const isReady = await kit.player.ensure(next.sound.id)
    if (candidate.value !== next || !isOn.value || !isReady) return
    sounding.value = next
    play()
    if (pressedAt !== undefined) performance.measure('emporion:candidate-ready', { start: pressedAt, end: performance.now() })
  }

  /** Marks the candidate to be compared, or takes that back. */
  function mark(): void {
    const now = candidate.value
    if (!now) return
    marked.value = marked.value.some(other => isSame(other, now)) ? marked.value.filter(other => !isSame(other, now)) : [...marked.value, now]
  }

  function isMarked(one: Candidate): boolean {
    return marked.value.some(other => isSame(other, one))
  }

  /** Goes through those that were marked alone, or through all again. */
  function compareMarked(): void {
    if (!onlyMarked.value && marked.value.length === 0) return
    onlyMarked.value = !onlyMarked.value
    void goTo(0)
  }

  /** Keeps the candidate on its pads, at the level that it was heard at. Gives false where there is none. */
  function keep(): boolean {
    const kept = candidate.value
    if (!kept) return false
    const on = pads.value
    const change = withCandidate(kept)
    end()
    kit.edit(`Put "${kept.sound.name}" on ${on.length === 1 ? padLabel(on[0]!) : counted(on.length, 'pad')}`, change)
    return true
  }

  /** Ends it; the kit sounds as it did before. */
  function end(): void {
    const wasAlone = !ridesGroove.value
    isOn.value = false
    isRunning.value = false
    player.takenBy = undefined
    candidate.value = undefined
    sounding.value = undefined
    list.value = undefined
    kit.hear('try-out', undefined)
    if (wasAlone) kit.player.end()
  }

  function pause(): void {
    isRunning.value = !isRunning.value
    if (ridesGroove.value) return void (isRunning.value ? grooves.play() : grooves.stop())
    if (isRunning.value) play()
    else {
      kit.hear('try-out', undefined)
      kit.player.end()
    }
  }

  function setBacking(row: SoundRow | undefined): void {
    backing.value = row
  }

  watch([backing, bpm, replacedLufs, padSettings, () => kit.kit, () => settings.matchLevels, () => settings.referenceLufs], () => isOn.value && isRunning.value && play())
  watch(() => grooves.isRunning, (now) => {
    if (isOn.value && ridesGroove.value) isRunning.value = now
  })

  function play(): void {
    const { beats, bpm: speed } = tempo.value
    const change = sounding.value ? withCandidate(sounding.value) : (now: Kit) => now
    if (ridesGroove.value) return kit.hear('try-out', change)
    const tried = change(kit.kit)
    const withLoop = backing.value ? withBacking(onlyCandidate(tried), backing.value) : tried
    kit.hear('try-out', () => withLoop)
    const more = backing.value ? [{ beat: 0, note: BACKING_NOTE, velocity: 127 }] : []
    const pattern = basicPattern(backing.value ? onlyCandidate(tried) : tried, { padIndex: padIndex.value, kind: kind.value }, beats, more)
    if (!hasBegun) void kit.player.start(pattern, { bpm: speed })
    else kit.player.change(pattern, speed)
    hasBegun = true
  }
  /** The simple pattern runs. */
  let hasBegun = false
  watch([isOn, isRunning, ridesGroove], () => {
    if (!isOn.value || !isRunning.value || ridesGroove.value) hasBegun = false
  }, { flush: 'sync' })

  /** What makes of a kit the kit with a candidate. */
  function withCandidate(tried: Candidate): (now: Kit) => Kit {
    const { alternate } = tried
    const on = pads.value
    if (alternate !== undefined) return now => ({ ...now, pads: now.pads.map((one, at) => on.includes(at) && one.alternate !== null ? { ...one, alternate } : one) })
    return now => putCandidate(now, on.filter(at => at < now.pads.length), tried, at => gainFor(tried, at), padSettings.value)
  }

  function onlyCandidate(tried: Kit): Kit {
    return { ...tried, pads: tried.pads.map((other, at) => pads.value.includes(at) ? other : { ...other, layers: [] }) }
  }

  function withBacking(tried: Kit, row: SoundRow): Kit {
    const loop: Pad = { ...emptyPad(BACKING_NOTE), chokeGroup: BACKING_GROUP, layers: [{ ...wholeLayer(knownSound(row).sound), gainDb: clampGain(player.gainOf(row)) }] }
    return { ...tried, pads: [...tried.pads.filter(other => other.note !== BACKING_NOTE), loop] }
  }

  /** Brings it to the loudness of the pad's own sound, as far as that is known; beside a loop, and on an empty pad, to the common reference. */
  function gainFor({ hitLufs, truePeakDb }: Candidate, at: number): number {
    if (!settings.matchLevels || hitLufs === null) return 0
    return clampGain(matchingGainDb(hitLufs, truePeakDb ?? MATCHING_CEILING_DB, (backing.value ? undefined : replacedLufs.value.get(at)) ?? settings.referenceLufs))
  }

  /** Turns a state of the pads on or off; it is an edit of the kit like any other. */
  function toggle(state: 'muted' | 'soloed', [on, off]: readonly [string, string]): void {
    const isOver = pads.value.every(at => kit.kit.pads[at]?.[state])
    kit.edit(isOver ? off : on, now => setPads(now, pads.value, { [state]: !isOver }))
  }
  const solo = () => toggle('soloed', ['Solo', 'End the solo'])
  const mute = () => toggle('muted', ['Mute', 'Unmute'])

  return {
    isOn, isRunning, pads, padIndex, pad, candidate, list, index, total, marked, onlyMarked, padSettings, backing, bpm, tempo, gainDb, ridesGroove,
    begin, beginList, goTo, candidateAt, random, mark, isMarked, compareMarked, keep, end, pause, setBacking, solo, mute,
  }
})

function isSame(a: Candidate, b: Candidate): boolean {
  return a.sound.id === b.sound.id && a.alternate === b.alternate
}
