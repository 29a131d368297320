import { vaultRoutes } from '~~/contract/vault'
import { fitRoutes, type KitMeasures, type KitToFit } from '~~/contract/fit'
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { arrange, usualArranging, type Arranging } from '~~/core/fit/arrange'
import { IMPORTANCES, type FitPlan, type Importance, type Wishes } from '~~/core/fit/plan'
import { isLossless, type Target } from '~~/core/fit/target'
import type { Hold } from '~~/core/fit/variants'
import type { Kit } from '~~/core/kit/document'
import { planOf } from '../sound'
import { api, toEmporionError } from '../parts/useApi'
import { useJobs } from '../parts/jobs'
import { useKit } from '../bench'
import { useSettings } from '../parts/settings'
import { useTargets } from './targets'
import { useVault } from '../vault'

/** The kit on the bench, among those that can be fitted. */
export const ON_BENCH = 'bench'
const NO_WISHES: Wishes = { holds: {}, importance: {} }
const MOST_REMEMBERED = 40

/** Kits and targets that are to be brought together, and the plan for the current pair. */
export const useFit = defineStore('fit', () => {
  const bench = useKit()
  const jobs = useJobs()
  const settings = useSettings()
  const targets = useTargets()
  const vault = useVault()

  const kitId = ref(settings.fit.kits[0] ?? ON_BENCH)
  const targetId = ref(settings.fit.targets[0] ?? 'lembos')
  const preset = shallowRef<Kit>()
  const plan = shallowRef<FitPlan>()
  const planned = shallowRef<{ readonly kit: Kit, readonly target: Target }>()
  /** It begins with measuring: whether there is anything to measure is seen then. */
  const state = ref<'idle' | 'measuring' | 'planning'>('measuring')
  const error = ref('')
  const cursor = ref(0)
  /** What was said of pads, by kit; of many kits those of the last ones are kept. */
  const wishesByKits = useLocalStorage<Record<string, Wishes>>('emporion-fit-wishes', {})
  const measured = shallowRef<{ readonly kit: Kit, readonly target: Target, readonly measures: KitMeasures }>()

  const target = computed(() => targets.byId(targetId.value) ?? targets.all[0]!)
  const kit = computed(() => kitId.value === ON_BENCH ? bench.kit : preset.value)
  const kitName = computed(() => kitId.value === ON_BENCH ? bench.kit.name : vault.vault?.presets.find(one => one.id === kitId.value)?.name ?? preset.value?.name ?? '')
  const wishKey = computed(() => kitId.value === ON_BENCH ? `bench ${bench.id}` : kitId.value)
  // Plain, since it goes to a worker.
  const wishes = computed((): Wishes => wishesByKits.value[wishKey.value] ? JSON.parse(JSON.stringify(wishesByKits.value[wishKey.value])) as Wishes : NO_WISHES)
  const way = computed<Arranging>(() => settings.fit.way === '' ? usualArranging(target.value) : settings.fit.way)
  const row = computed(() => plan.value?.rows[cursor.value])
  const arranged = computed(() => {
    const { value: now } = planned
    if (!plan.value || !now || isLossless(now.target)) return []
    return arrange(now.kit, [...new Set(plan.value.rows.filter(one => one.state === 'kept').map(one => one.padIndex))], now.target, way.value)
  })

  let request = 0

  /** The kit as the server is asked for it. */
  function asked(id: string): KitToFit {
    return id === ON_BENCH ? { kit: bench.kit } : { presetId: id }
  }

  async function loadPreset(id: string): Promise<Kit> {
    const { revision } = await api(vaultRoutes.read, { params: { id } })
    if (!revision.file) throw toEmporionError(new Error(`The preset cannot be read: ${revision.problem}`))
    return revision.file.kit
  }

  /** Which kit and target a plan is for. */
  const pairKey = computed(() => `${wishKey.value} ${target.value.id}`)
  let plannedKey = ''

  /** Measures the current pair and plans it. What is under way for another pair is forgotten, and so is what is shown of one. */
  async function refresh(): Promise<void> {
    const own = ++request
    error.value = ''
    if (plannedKey !== pairKey.value) {
      plan.value = undefined
      state.value = 'measuring'
    }
    try {
      if (kitId.value !== ON_BENCH) {
        const loaded = await loadPreset(kitId.value)
        if (own !== request) return
        preset.value = loaded
      }
      const [now, wanted] = [kit.value, target.value]
      if (!now || now.pads.every(pad => pad.layers.length === 0)) {
        plan.value = undefined
        state.value = 'idle'
        return
      }
      state.value = 'measuring'
      const { id } = await jobs.finished(await api(fitRoutes.measure, { body: { kit: asked(kitId.value), target: wanted } }))
      const measures = await api(fitRoutes.measures, { params: { id } })
      if (own !== request) return
      measured.value = { kit: now, target: wanted, measures }
      await replan(own)
    }
    catch (thrown) {
      if (own !== request) return
      failed(thrown)
    }
  }

  /** Plans anew from what was measured. */
  async function replan(own = ++request): Promise<void> {
    const now = measured.value
    if (!now) return
    state.value = 'planning'
    const made = await planOf(now.kit, now.target, now.measures, wishes.value, way.value)
    if (own !== request) return
    plan.value = made
    planned.value = { kit: now.kit, target: now.target }
    plannedKey = pairKey.value
    cursor.value = Math.min(cursor.value, Math.max(0, made.rows.length - 1))
    state.value = 'idle'
  }

  function wish(change: (before: Wishes) => Wishes): void {
    const { [wishKey.value]: _old, ...others } = wishesByKits.value
    const kept = Object.entries(others).slice(-MOST_REMEMBERED)
    wishesByKits.value = { ...Object.fromEntries(kept), [wishKey.value]: change(wishes.value) }
    planAgain()
  }

  /** While it is measured anew, the plan that follows takes in what has changed. */
  function planAgain(): void {
    if (state.value !== 'measuring') void replan().catch(failed)
  }

  function failed(thrown: unknown): void {
    plan.value = undefined
    state.value = 'idle'
    error.value = toEmporionError(thrown).message
  }

  /** Fixes something of a pad, or lets it go. */
  function toggleHold(padIndex: number, what: keyof Hold): void {
    wish(({ holds, importance }) => ({ holds: { ...holds, [padIndex]: { ...holds[padIndex], [what]: holds[padIndex]?.[what] !== true } }, importance }))
  }

  function setImportance(padIndex: number, to: Importance): void {
    wish(({ holds, importance }) => ({ holds, importance: { ...importance, [padIndex]: to } }))
  }

  function nextImportance(padIndex: number): void {
    const now = IMPORTANCES.indexOf(wishes.value.importance[padIndex] ?? 'normal')
    setImportance(padIndex, IMPORTANCES[(now + 1) % IMPORTANCES.length]!)
  }

  function letGo(): void {
    wish(() => NO_WISHES)
  }

  function holdOf(padIndex: number): Hold {
    return wishes.value.holds[padIndex] ?? {}
  }

  function choose(change: { kits?: readonly string[], targets?: readonly string[], way?: Arranging | '' }): void {
    settings.fit = { ...settings.fit, ...change, ...change.kits ? { readBeside: '' } : {} }
    if (!settings.fit.kits.includes(kitId.value)) kitId.value = settings.fit.kits[0] ?? ON_BENCH
    if (!settings.fit.targets.includes(targetId.value)) targetId.value = settings.fit.targets[0] ?? 'lembos'
  }

  /** Fits a kit that was just read in, until another is opened on the bench. */
  function fitRead(presetId: string): void {
    choose({ kits: [presetId] })
    settings.fit = { ...settings.fit, readBeside: bench.id ?? '' }
    kitId.value = presetId
  }

  function followBench(): void {
    choose({ kits: [ON_BENCH] })
    kitId.value = ON_BENCH
  }

  const followsBench = computed(() => settings.fit.kits.length === 1 && settings.fit.kits[0] === ON_BENCH)

  watch(() => bench.id, (now) => {
    if (settings.fit.readBeside !== '' && settings.fit.readBeside !== now) followBench()
  }, { immediate: true })

  /** A kit that is made for a target is fitted to that, where one target alone is chosen. */
  const ownTarget = computed(() => kit.value?.target ?? null)
  watch(() => `${wishKey.value} ${ownTarget.value ?? ''} ${targets.all.length}`, () => {
    const own = ownTarget.value
    if (own === null || targets.byId(own) === undefined) return
    if (settings.fit.targets.length === 1) choose({ targets: [own] })
    if (settings.fit.targets.includes(own)) targetId.value = own
  }, { immediate: true })

  function moveCursor(by: number): void {
    const count = plan.value?.rows.length ?? 0
    cursor.value = Math.max(0, Math.min(count - 1, cursor.value + by))
  }

  // The list of targets comes anew with every load: only another target, or one that was changed, is measured for.
  watch(() => `${kitId.value} ${JSON.stringify(target.value)}`, () => void refresh())
  // The size of names and lists depends on it.
  watch(way, planAgain)

  return { kitId, targetId, kit, kitName, target, plan, planned, arranged, wishes, way, row, cursor, state, error, asked, refresh, toggleHold, setImportance, nextImportance, letGo, holdOf, choose, fitRead, followBench, followsBench, moveCursor }
})

