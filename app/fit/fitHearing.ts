import { addressOf } from '~~/contract/endpoint'
import { fitRoutes } from '~~/contract/fit'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { PlanRow } from '~~/core/fit/plan'
import { decodeUrl, fittedSound, hearSide, playSides, sidesPosition, stopAudition, stopSides, useOutput, type FittedSound, type HearSide, type Sides } from '../sound'
import { api, toEmporionError } from '../parts/useApi'
import type { WaveformPicture } from '../parts/useWaveformPainter'
import { useFit } from './fit'
import { useGrooves } from '../grooves'
import { useJobs } from '../parts/jobs'

interface HeardKit {
  readonly plan: object
  readonly sides: Sides
  readonly rate: number
  readonly seconds: number
  readonly matchedDb: number
  readonly differenceDb: number
  readonly outlines: Readonly<Record<HearSide, WaveformPicture>>
}

/** Before, after and the difference of the current sample or of the whole kit, one of them heard at a time. */
export const useFitHearing = defineStore('fitHearing', () => {
  const fit = useFit()
  const grooves = useGrooves()
  const jobs = useJobs()

  const side = ref<HearSide>('before')
  const what = ref<'sound' | 'kit'>('sound')
  const isPlaying = ref(false)
  const isLooped = ref(false)
  const isRendering = ref(false)
  const error = ref('')
  const sound = shallowRef<FittedSound>()
  const kit = shallowRef<HeardKit>()
  let loading: { readonly row: PlanRow, readonly made: Promise<FittedSound> } | undefined

  const hasAfter = computed(() => what.value === 'kit' || sound.value === undefined || sound.value.after !== null)
  const seconds = computed(() => what.value === 'kit' ? kit.value?.seconds ?? 0 : sound.value?.seconds ?? 0)
  const matchedDb = computed(() => what.value === 'kit' ? kit.value?.matchedDb ?? null : sound.value?.matchedDb ?? null)
  const differenceDb = computed(() => what.value === 'kit' ? kit.value?.differenceDb ?? null : sound.value?.differenceDb ?? null)
  const pictures = computed((): Readonly<Record<HearSide, WaveformPicture | null>> => {
    if (what.value === 'kit') return kit.value?.outlines ?? { before: null, after: null, difference: null }
    const of = (one: { readonly outline: Int8Array } | null | undefined) => one ? { outline: one.outline } : null
    return { before: of(sound.value?.before), after: of(sound.value?.after), difference: of(sound.value?.difference) }
  })
  const spectra = computed(() => ({ before: sound.value?.before.spectrum, after: sound.value?.after?.spectrum }))

  // What is drawn follows the current row; it is made when the hand rests.
  let resting: ReturnType<typeof setTimeout> | undefined
  watch(() => fit.row, () => {
    stop()
    what.value = 'sound'
    sound.value = undefined
    loading = undefined
    clearTimeout(resting)
    if (fit.row) resting = setTimeout(() => void loadSound().catch(warnings), 120)
  })
  watch(() => fit.plan, () => {
    kit.value = undefined
  })
  watch(isLooped, () => {
    if (isPlaying.value) void start()
  })

  function warnings(thrown: unknown): void {
    error.value = toEmporionError(thrown).message
  }

  /** The current sample, made once however many wait for it; undefined when another one became current meanwhile. */
  async function loadSound(): Promise<FittedSound | undefined> {
    const { row, planned } = fit
    if (!row || !planned) return undefined
    if (sound.value) return sound.value
    if (loading?.row !== row) loading = { row, made: fittedSound(planned.kit, planned.target, row, useOutput().context.sampleRate) }
    error.value = ''
    const made = await loading.made
    if (fit.row !== row) return undefined
    sound.value = made
    if (!made.after) side.value = 'before'
    return made
  }

  async function loadKit(): Promise<HeardKit | undefined> {
    const { plan, planned } = fit
    if (!plan || !planned) return undefined
    if (kit.value?.plan === plan) return kit.value
    isRendering.value = true
    error.value = ''
    try {
      const spec = { kit: fit.asked(fit.kitId), target: planned.target, wishes: fit.wishes, way: fit.way, pattern: grooves.pattern.parts.length > 0 ? grooves.pattern : null }
      const heard = await jobs.finished(await api(fitRoutes.hear, { body: spec }))
      const decoded = await Promise.all((['before', 'after', 'difference'] as const).map(name => decodeUrl(addressOf(fitRoutes.heard, { params: { id: heard.id, which: name } }), null)))
      if (fit.plan !== plan) return undefined
      const [before, after, difference] = decoded as [typeof decoded[0], typeof decoded[0], typeof decoded[0]]
      kit.value = {
        plan, rate: before.sampleRate, seconds: heard.seconds, matchedDb: heard.matchedDb, differenceDb: heard.differenceDb,
        sides: { before: before.channels, after: after.channels, difference: difference.channels },
        outlines: { before: { outline: before.outline }, after: { outline: after.outline }, difference: { outline: difference.outline } },
      }
      return kit.value
    }
    finally {
      isRendering.value = false
    }
  }

  async function start(): Promise<void> {
    stopAudition()
    const ended = () => {
      isPlaying.value = false
    }
    if (what.value === 'kit') {
      const made = await loadKit()
      if (made) await playSides(made.sides, made.rate, side.value, isLooped.value, ended)
      isPlaying.value = made !== undefined
      return
    }
    const made = await loadSound()
    if (!made) return
    await playSides({ before: made.before.channels, ...made.after && made.difference ? { after: made.after.channels, difference: made.difference.channels } : {} }, useOutput().context.sampleRate, side.value, isLooped.value, ended)
    isPlaying.value = true
  }

  function stop(): void {
    stopSides()
    isPlaying.value = false
  }

  /** Plays the current sample or the whole kit, or stops it. */
  async function toggle(wanted: 'sound' | 'kit'): Promise<void> {
    const stops = isPlaying.value && what.value === wanted
    stop()
    if (stops) return
    what.value = wanted
    await start()
  }

  /** Lets one way be heard: from the same place on where something plays, else from the beginning. */
  async function hear(wanted: HearSide): Promise<void> {
    side.value = wanted
    if (isPlaying.value) hearSide(wanted)
    else await start()
  }

  return { side, what, isPlaying, isLooped, isRendering, error, hasAfter, seconds, matchedDb, differenceDb, pictures, spectra, toggle, hear, stop, position: sidesPosition }
})
