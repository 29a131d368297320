import { libraryRoutes } from '~~/contract/library'
import { useDebounceFn } from '@vueuse/core'
import { computed, markRaw, shallowReactive, shallowRef } from 'vue'
import { MOST_LAYERS, MOST_PADS, playingSoundsOf, soundsOf, valuesBeside, type Kit } from '~~/core/kit/document'
import { soundsOn } from '~~/core/kit/voices'
import { KitPlayer, type EnginePlace, type LoadedSound } from '../sound'
import { api } from '../parts/useApi'
import { newest } from '../parts/newest'

/** While a kit loads, what has come is shown so often: with each sound alone the sheet would be made anew hundreds of times. */
const SHOWN_EVERY_MS = 50
/** What changes in the library during a scan is looked at no more often. */
const LOOK_REST_MS = 300
const LOOK_AGAIN_MS = 2000
const MOST_ASKED = MOST_PADS * MOST_LAYERS
const ONLY_HELD = 'Its file is gone. It is heard from what this page still holds of it.'

/** Makes of the kit what is heard in its place. */
type Hearing = (kit: Kit) => Kit

type PlayedListener = (padIndex: number, note: number, velocity: number, at: number) => void

/** What may be heard in place of the kit, in the order in which each builds on the one before. */
const HEARINGS = ['company', 'try-out'] as const

/** The sound of the current kit: what of it has been loaded, what is heard in its place, and its playing by hand. */
export function useKitSound(kit: () => Kit) {
  const sounds = shallowReactive(new Map<string, LoadedSound>())
  const lit = shallowReactive(new Set<number>())
  /** Where the engine is in the pattern that runs. */
  const enginePlace = shallowRef<EnginePlace>()
  const player = markRaw(new KitPlayer(soundIs, now => enginePlace.value = now))
  /** Sounds whose state has yet to be shown. */
  const arrived = new Map<string, LoadedSound>()
  const playedListeners = new Set<PlayedListener>()
  const hearings = new Map<typeof HEARINGS[number], Hearing>()
  /** Values that a pattern asks of pads with alternates. */
  let asked: ReadonlyMap<number, ReadonlySet<number>> | undefined
  let beside: number | undefined

  /** The containers of the sounds' files, as far as was asked. Presets hold WAVE. */
  let containers: Readonly<Record<string, string>> = {}
  const containerOf = (id: string): string => containers[id] ?? 'WAVE'
  /** Sounds of which neither the library nor the vault has a file, as far as was asked. */
  const gone = shallowRef<ReadonlySet<string>>(new Set())

  const missingSounds = computed(() => soundsOf(kit()).filter(sound => whyMissing(sound.id) !== undefined))
  /** True while a sound that can be heard is still on its way. */
  const isLoading = computed(() => playingSoundsOf(kit()).some(sound => (sounds.get(sound.id)?.state ?? 'loading') === 'loading'))

  function soundIs(sound: string, state: LoadedSound): void {
    if (arrived.size === 0) setTimeout(showArrived, SHOWN_EVERY_MS)
    arrived.set(sound, state)
  }

  function showArrived(): void {
    for (const [sound, state] of arrived) sounds.set(sound, state)
    arrived.clear()
  }

  /** Why a sound can't be had; undefined where it can. What was loaded before its file was lost is missing as well: it can't be stored. */
  function whyMissing(id: string): string | undefined {
    const state = sounds.get(id)?.state
    return typeof state === 'object' ? state.missing : gone.value.has(id) ? ONLY_HELD : undefined
  }

  const look = newest(
    (ids: readonly string[]) => api(libraryRoutes.missing, { body: { sounds: ids } }),
    ({ missing, containers: found }) => {
      gone.value = new Set(missing)
      containers = found
    },
  )
  /** Asks soon which sounds have a file. */
  const lookForFiles = useDebounceFn(() => {
    // With what was gone before: an undo may bring it back into the kit.
    const ids = new Set([...soundsOf(kit()).map(sound => sound.id), ...gone.value])
    // What can't be asked now is asked at the next change.
    return look([...ids].slice(0, MOST_ASKED)).catch(() => undefined)
  }, LOOK_REST_MS, { maxWait: LOOK_AGAIN_MS })

  /** Lets something be heard in place of the kit, or no more. */
  function hear(as: typeof HEARINGS[number], hearing: Hearing | undefined): void {
    if (hearing) hearings.set(as, hearing)
    else hearings.delete(as)
    sendHeard()
  }

  /** The kit as it is heard. */
  function heard(): Kit {
    return HEARINGS.reduce((now, as) => hearings.get(as)?.(now) ?? now, kit())
  }

  /** Tells which alternates a pattern asks for beside those that are chosen. */
  function askAlternates(values: ReadonlyMap<number, ReadonlySet<number>>): void {
    if (values.size === 0 && !asked) return
    asked = values
    sendHeard()
  }

  /** Has the alternates beside the chosen one of a pad loaded as well, since they may be chosen next; of none without a pad. */
  function loadBeside(padIndex: number | undefined): void {
    beside = padIndex
    sendHeard()
  }

  function alternatesToLoad(now: Kit): ReadonlyMap<number, ReadonlySet<number>> | undefined {
    const pad = beside === undefined ? undefined : now.pads[beside]
    if (!pad || pad.alternate === null) return asked
    return new Map([...asked ?? [], [beside!, new Set([...asked?.get(beside!) ?? [], ...valuesBeside(pad)])]])
  }

  /** Hands the engine what is to be heard now. */
  function sendHeard(): void {
    const now = heard()
    player.setKit(now, alternatesToLoad(now))
  }

  /** Plays a pad; velocity 0 lets it go. `at` is the time stamp of the key or click. */
  function playPad(index: number, velocity: number, at = performance.now()): void {
    const target = kit().pads[index]
    if (target) playNote(target.note, velocity, at)
  }

  function playNote(note: number, velocity: number, at = performance.now()): void {
    void player.note(note, velocity)
    kit().pads.forEach((candidate, index) => {
      if (!soundsOn(candidate, note)) return
      if (velocity > 0) lit.add(index)
      else lit.delete(index)
      for (const listener of playedListeners) listener(index, note, velocity, at)
    })
  }

  /** Calls back with every pad that is played or released by hand, on which note, and when. */
  function onPlayed(listener: PlayedListener): void {
    playedListeners.add(listener)
  }

  return { sounds, lit, enginePlace, player, missingSounds, whyMissing, containerOf, lookForFiles, isLoading, hear, heard, askAlternates, loadBeside, sendHeard, playPad, playNote, onPlayed, stopAll: () => player.stop() }
}
