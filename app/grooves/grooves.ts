import { patternRoutes, type PatternView } from '~~/contract/patterns'
import { kitRoutes } from '~~/contract/kits'
import { useLocalStorage, useTimeoutFn } from '@vueuse/core'
import { defineStore, storeToRefs } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { assignParts, kindOfPad, unheard as unheardOf, type ByHand } from '~~/core/groove/assign'
import { barTicks, emptyPattern, lengthTicks, type Hit, type Part, type Pattern } from '~~/core/groove/document'
import { addPart, setPattern, stillChosen, type CopiedHits, type Edited } from '~~/core/groove/edits'
import { alternatesAsked, noteOfPart, playedOn, type BarRange } from '~~/core/groove/played'
import { gridTicks } from '~~/core/groove/quantize'
import { shippedId, SHIPPED_PATTERNS } from '~~/core/groove/shipped'
import { heardSeconds } from '../sound'
import { api } from '../parts/useApi'
import { sayError } from '../parts/useSay'
import { useCompany } from './company'
import { PATTERN_HISTORIES } from '../parts/documents/histories'
import { useKit } from '../bench'
import { usePatterns } from './patterns'
import { useDocument, type StoredDocument } from '../parts/documents/useDocument'
import { useSettings } from '../parts/settings'

/** What is open until a pattern was chosen. */
const FIRST_PATTERN = shippedId(SHIPPED_PATTERNS[0]!)

/** The current pattern: its document with undo, its saving, what is chosen in it, and its playing on the current kit. */
export const useGrooves = defineStore('grooves', () => {
  const kit = useKit()
  const patterns = usePatterns()
  const company = useCompany()
  const { joined } = storeToRefs(company)
  const settings = useSettings()
  const isShipped = ref(false)
  const chosen = shallowRef<ReadonlySet<Hit>>(new Set())
  /** Where the next step is drawn: the current pad is its row. */
  const cursorTick = ref(0)
  /** Bars that are played in a loop; null for all. */
  const region = shallowRef<BarRange | null>(null)
  const clip = shallowRef<CopiedHits>()
  /** Pads that were chosen for parts, by pattern and kit. */
  const chosenPads = useLocalStorage<Record<string, ByHand>>('emporion-assigned', {})
  const isRunning = ref(false)
  /** The tempo that goes on while other patterns are stepped to; null: each plays at its own. */
  const heldBpm = ref<number | null>(null)
  /** Hits that were just recorded: they were heard when they were played, and are not played again before the playing has passed them. */
  const fresh = shallowRef<ReadonlySet<Hit>>(new Set())

  /** Set while a kit is opened that is to keep the current pattern. */
  const keepsPattern = ref(false)

  const { id, history, present: pattern, ...document } = useDocument<Pattern>({
    empty: emptyPattern('New pattern'),
    shelf: PATTERN_HISTORIES,
    send: (patternId, edit) => api(patternRoutes.save, { params: { id: patternId }, body: edit }),
    fetch: async patternId => storedOf(await patterns.fetchOne(patternId)),
    changeIn: event => event.type === 'pattern' ? { ...event, id: event.patternId } : undefined,
    onConflict: async (state, elsewhere) => {
      await take(await patterns.create(elsewhere === 'changed' ? { ...state, name: `${state.name} (other tab)`.slice(0, 120) } : state))
      sayError(new Error(elsewhere === 'changed'
        ? `"${state.name}" was changed in another tab at the same time. Your version is kept here under another name.`
        : `"${state.name}" was deleted in another tab. As you went on with it here, your version is kept as a new pattern.`))
    },
    onEdited: (state) => {
      chosen.value = stillChosen(state, chosen.value)
      if (isShipped.value) void leaveShipped()
      return !isShipped.value
    },
  })
  const { settled } = document
  /** What is played at. */
  const bpm = computed(() => heldBpm.value ?? pattern.value.tempoBpm)
  const byHand = computed<ByHand>(() => chosenPads.value[`${id.value}:${kit.id}`] ?? {})
  const assignment = computed(() => assignParts(pattern.value, joined.value, settings.groove.assigning, byHand.value))
  const bars = computed<BarRange>(() => region.value && region.value.from < pattern.value.bars ? { from: region.value.from, to: Math.min(region.value.to, pattern.value.bars) } : { from: 0, to: pattern.value.bars })
  const played = computed(() => playedOn(pattern.value, joined.value, assignment.value, { bars: bars.value, without: fresh.value }))
  const unheard = computed(() => unheardOf(pattern.value, assignment.value))
  /** Parts by the index of the pad that sounds them. */
  const partsByPad = computed(() => {
    const byPad = new Map<number, Part[]>()
    for (const part of pattern.value.parts) {
      const index = assignment.value.get(part.id) ?? null
      if (index !== null) byPad.set(index, [...byPad.get(index) ?? [], part])
    }
    return byPad
  })
  // What is played follows what is shown, as it is edited: in a task of its own, as thousands of hits take their time.
  const tell = useTimeoutFn(tellPlayed, 0, { immediate: false })
  watch([pattern, joined, assignment, bars, fresh], () => tell.isPending.value || tell.start())
  watch(() => settings.groove.isLooped, isLooped => kit.player.setOnce(!isLooped))
  // The engine begins without it: only to switch it on the audio need be opened with the page.
  watch(() => settings.groove.metronome, isOn => kit.player.setMetronome(isOn), { immediate: settings.groove.metronome })
  watch(() => kit.enginePlace, (place) => {
    if (place?.tick === null) isRunning.value = false
    if (place) letSound(place.tick)
  })
  // A kit brings the pattern that it was played with, unless the current pattern is held.
  watch(() => kit.id, () => void opened())
  let isSwitching = false

  function tellPlayed(): void {
    kit.askAlternates(alternatesAsked(pattern.value, assignment.value))
    if (isRunning.value && !isSwitching) kit.player.change(played.value, bpm.value)
  }

  async function opened(): Promise<void> {
    const keeps = settings.groove.holdsPattern || keepsPattern.value
    keepsPattern.value = false
    if (kit.patternId && kit.patternId !== id.value && !keeps) await open(kit.patternId).catch(() => undefined)
    else if (id.value) remember()
  }

  /** Takes up the pattern that the kit was played with, or any there is. */
  async function openFirst(): Promise<void> {
    void company.meet()
    if (!patterns.isLoaded) await patterns.load()
    const wanted = [kit.patternId, FIRST_PATTERN, ...patterns.rows.map(row => row.id)].find(candidate => patterns.rows.some(row => row.id === candidate))
    if (wanted && !id.value && !isChanging.value) await open(wanted)
  }

  /** Takes a pattern to hand. One that runs is followed by it with the next bar. */
  function open(patternId: string): Promise<void> {
    return change(() => patterns.fetchOne(patternId))
  }

  /** Edits that were made while another pattern was on its way: they are meant for that one. */
  let waiting: (() => void)[] = []
  let changing: Promise<void> = Promise.resolve()
  const isChanging = ref(false)

  /** Puts another pattern in place of the current one, when that is stored. One change at a time. */
  function change(fetch: () => Promise<PatternView>): Promise<void> {
    isChanging.value = true
    const changed = changing.then(async () => {
      const [view] = await Promise.all([fetch(), leaving])
      await settled()
      await take(view)
    }).finally(() => {
      if (changing !== last) return
      isChanging.value = false
      const edits = waiting
      waiting = []
      for (const redo of edits) redo()
    })
    const last = changed.catch(() => undefined)
    changing = last
    return changed
  }

  async function take(view: PatternView): Promise<void> {
    const stored = storedOf(view)
    const recalled = await document.recall(stored)
    const tempo = bpm.value
    isSwitching = true
    heldBpm.value = settings.groove.keepsTempo && isRunning.value ? tempo : null
    document.take(stored, recalled)
    isShipped.value = view.isShipped
    chosen.value = new Set()
    fresh.value = new Set()
    region.value = null
    cursorTick.value = 0
    if (isRunning.value) kit.player.changeAtBar(played.value, bpm.value)
    // Watchers run before the next tick: they leave the change to the next bar.
    await Promise.resolve().then(() => new Promise(resolve => setTimeout(resolve)))
    isSwitching = false
    remember()
  }

  /** The kit is opened with this pattern next time. */
  function remember(): void {
    if (kit.id && id.value) void api(kitRoutes.setPattern, { params: { id: kit.id }, body: { patternId: id.value } }).catch(() => undefined)
  }

  function create(from?: Pattern): Promise<void> {
    return change(() => patterns.create(from))
  }

  function copyToWorkOn(): Promise<void> {
    return create({ ...pattern.value, name: `${pattern.value.name} copy`.slice(0, 120) })
  }

  /**
   * Makes an edit; hits that come out of it are chosen. Edits that share a gesture are undone as one. A pattern that came with
   * the application is not changed: the edit goes into a copy, which is current from then on.
   */
  function edit(label: string, change: (pattern: Pattern, chosen: ReadonlySet<Hit>) => Edited | Pattern, gesture?: string): void {
    if (isChanging.value) {
      waiting.push(() => edit(label, change, gesture))
      return
    }
    const made = change(pattern.value, chosen.value)
    const edited = 'pattern' in made ? made : { pattern: made, chosen: stillChosen(made, chosen.value) }
    chosen.value = edited.chosen
    if (edited.pattern === pattern.value) return
    document.edit(edited.pattern, label, gesture)
  }

  let leaving: Promise<void> | undefined
  /** The current pattern becomes one's own; what is edited meanwhile is saved to it. */
  function leaveShipped(): Promise<void> {
    leaving ??= (async () => {
      const first = history.value.past[0]?.state ?? pattern.value
      const made = await patterns.create(first)
      isShipped.value = false
      const moved = document.moveTo({ ...storedOf(made), state: first })
      remember()
      await moved
    })().catch(sayError).finally(() => {
      leaving = undefined
    })
    return leaving
  }

  function setTempo(wanted: number, gesture?: string): void {
    heldBpm.value = null
    edit('Tempo', now => setPattern(now, { tempoBpm: wanted }), gesture)
  }

  /**
   * The part that a pad is drawn into: the one that sounds it, or a new one. Gives the pattern with it.
   *
   * @param note the note that is played; on a pad with a range each note has a part of its own
   */
  function withPart(now: Pattern, padIndex: number, note?: number): { readonly pattern: Pattern, readonly partId: string | undefined } {
    const pad = joined.value.pads[padIndex]
    if (!pad) return { pattern: now, partId: undefined }
    const isPlayed = (part: Part) => pad.range === null || note === undefined || noteOfPart(pad, part) === note
    const known = partsByPad.value.get(padIndex)?.find(part => isPlayed(part) && now.parts.some(other => other.id === part.id))
    if (known) return { pattern: now, partId: known.id }
    const own = pad.range === null ? pad.note : note ?? pad.note
    const grown = addPart(now, { name: pad.name || `Note ${own % 128}`, role: kindOfPad(pad), note: own % 128 })
    const made = grown === now ? undefined : grown.parts.at(-1)!.id
    // Another pad may be nearer to its kind: the one that was drawn on is meant.
    if (made && assignParts(grown, joined.value, settings.groove.assigning, byHand.value).get(made) !== padIndex) assign(made, pad.note)
    return { pattern: grown, partId: made }
  }

  /** Chooses the pad of a part: by its note; null for none, undefined for the one that is found. */
  function assign(partId: string, note: number | null | undefined): void {
    const { [partId]: _before, ...others } = byHand.value
    chosenPads.value = { ...chosenPads.value, [`${id.value}:${kit.id}`]: note === undefined ? others : { ...others, [partId]: note } }
  }

  /** Begins to play, at the region's beginning. */
  async function play({ counts = 0 } = {}): Promise<void> {
    isRunning.value = true
    await kit.player.start(played.value, { bpm: bpm.value, countInBars: counts, isOnce: !settings.groove.isLooped })
  }

  function stop(): void {
    isRunning.value = false
    kit.player.end()
    fresh.value = new Set()
  }

  /** Where in the pattern what is heard at a moment lies, in ticks with a fraction; null while nothing runs or another pattern still plays. */
  function tickAt(performanceMs: number): number | null {
    const { enginePlace: place } = kit
    if (!isRunning.value || !place || place.tick === null || place.isChanging) return null
    const tick = place.tick + (heardSeconds(performanceMs) - place.contextSeconds) * place.ticksPerSecond
    const length = (bars.value.to - bars.value.from) * barTicks(pattern.value.metre)
    const start = bars.value.from * barTicks(pattern.value.metre)
    // While it is counted in there is nothing before the beginning.
    if (place.pass === 0 && tick < 0) return start + tick
    return start + ((tick % length) + length) % length
  }

  /** Lets recorded hits be played once what is played has passed them. */
  function letSound(tick: number | null): void {
    if (fresh.value.size === 0) return
    const at = tick === null ? null : tick + bars.value.from * barTicks(pattern.value.metre)
    const left = [...fresh.value].filter((hit) => {
      if (at === null) return false
      const ahead = hit.tick - at
      return ahead > -60 && ahead < lengthTicks(pattern.value) / 2
    })
    if (left.length < fresh.value.size) fresh.value = new Set(left)
  }

  const stepTicks = computed(() => gridTicks(settings.groove.grid))

  const { undo, redo, stepTo, takeBack, steps, canUndo, canRedo, saveState, savedAt } = document

  return {
    id, pattern, bpm, isShipped, chosen, cursorTick, region, clip, byHand, joined, assignment, bars, played, unheard, partsByPad, isRunning, fresh, keepsPattern, steps, stepTicks, canUndo, canRedo, saveState, savedAt,
    openFirst, open, create, copyToWorkOn, edit, undo, redo, stepTo, takeBack, setTempo, withPart, assign, play, stop, tickAt, settled,
  }
})

/** A pattern as a document. */
function storedOf({ id, pattern, revision }: PatternView): StoredDocument<Pattern> {
  return { id, state: pattern, revision, savedAt: new Date().toISOString() }
}
