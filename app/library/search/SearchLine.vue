<script setup lang="ts">
import { soundRoutes } from '~~/contract/library'
import { useDebounceFn } from '@vueuse/core'
import { completions, pieceAt, type Completion } from '~~/core/search/query/complete'
import { parseQuery } from '~~/core/search/query/parse'
import { api } from '../../parts/useApi'
import { carriesFiles } from '../../parts/useDroppedFiles'
import { whole } from '../../parts/useFormat'
import { saying } from '../../parts/useSay'
import { useLibrary } from '../library'
import { useSaved } from '../saved'
import { useSettings } from '../../parts/settings'

/** The one line that is searched by: plain words, and conditions as tokens that can be taken away. */
const emit = defineEmits<{ leave: [pressedAt: number], help: [] }>()

/** How long somebody may go on typing before what can't be understood is reported. */
const PATIENCE_MS = 700
const MOST_OFFERED = 8

interface Offer {
  readonly text: string
  readonly does: string
  readonly take: () => void
  /** It stands in place of the whole line. */
  readonly isWholeLine?: boolean
  /** A kept search can be forgotten from here. */
  readonly forget?: () => unknown
}

const library = useLibrary()
const settings = useSettings()
const saved = useSaved()
const input = useTemplateRef<HTMLInputElement>('input')
const tokens = ref<string[]>([])
const typed = ref('')
const caret = ref(0)
const hasFocus = ref(false)
const isOffering = ref(true)
const offerAt = ref(-1)
const problem = shallowRef<{ message: string, before: string, at: string, after: string }>()

/** When the key was pressed that changes the text next. What is typed is known to watchers before any listener for `input` hears of it. */
let typedAt: number | undefined
const text = computed(() => [...tokens.value, typed.value.trim()].filter(Boolean).join(' '))

watch(() => library.search.q, (q) => {
  if (q !== text.value) split(q)
}, { immediate: true })

watch(text, (q) => {
  // A space alone asks for nothing else.
  if (typedAt !== undefined) library.typedAt(typedAt)
  typedAt = undefined
  library.search.q = q
  problem.value = undefined
  void tellProblem()
})

const tellProblem = useDebounceFn(() => {
  const [first] = library.read.problems
  const q = library.search.q
  problem.value = first && { message: first.message, before: q.slice(0, first.from), at: q.slice(first.from, Math.max(first.to, first.from + 1)) || ' ', after: q.slice(Math.max(first.to, first.from + 1)) }
}, PATIENCE_MS)

/** Cuts a text into tokens and what stays to be typed at: plain words. */
function split(q: string): void {
  const { parts } = parseQuery(q, settings.middleC)
  const isPlain = (piece: string) => /^[^"()<>=]*$/.test(piece) && !piece.startsWith('-')
  const pieces = parts.map(part => q.slice(part.from, part.to))
  tokens.value = pieces.filter(piece => !isPlain(piece))
  typed.value = pieces.filter(isPlain).join(' ')
}

/** Makes tokens of the whole conditions that were typed. */
function absorb(): void {
  const { parts, problems } = parseQuery(typed.value, settings.middleC)
  if (problems.length > 0) return
  const conditions = parts.filter(part => part.field !== undefined || part.isExcluded || /["(]/.test(typed.value.slice(part.from, part.to)))
  if (conditions.length === 0) return
  tokens.value = [...tokens.value, ...conditions.map(part => typed.value.slice(part.from, part.to))]
  typed.value = parts.filter(part => !conditions.includes(part)).map(part => typed.value.slice(part.from, part.to)).join(' ')
  if (typed.value) typed.value += ' '
}

function onInput(): void {
  caret.value = input.value?.selectionStart ?? typed.value.length
  isOffering.value = true
  offerAt.value = -1
  // A space ends a condition, but not one within quotation marks or brackets.
  const open = (typed.value.match(/"/g)?.length ?? 0) % 2 === 1 || (typed.value.match(/\(/g)?.length ?? 0) > (typed.value.match(/\)/g)?.length ?? 0)
  if (typed.value.endsWith(' ') && !open) absorb()
}

const vocabulary = computed(() => ({
  tags: library.facets?.tags.map(tag => tag.name) ?? [],
  sources: library.sources.map(source => source.name),
  packs: library.facets?.packs.map(pack => pack.name) ?? [],
}))

const offers = computed<Offer[]>(() => {
  if (!hasFocus.value || !isOffering.value) return []
  if (typed.value.trim() === '' && tokens.value.length === 0) {
    const kept = saved.searches.map(({ id, name, search, count }) => ({ text: name, does: `kept search, ${count === null ? 'can no longer be carried out' : whole(count)}`, take: () => saved.open(search), isWholeLine: true, forget: () => saying(() => saved.remove(id)) }))
    const recent = settings.recent.map(before => ({ text: before, does: 'searched before', take: () => split(before), isWholeLine: true }))
    return [...kept, ...recent].slice(0, MOST_OFFERED)
  }
  const piece = pieceAt(typed.value, caret.value)
  return completions(piece.text, vocabulary.value).slice(0, MOST_OFFERED).map(offer => ({ ...offer, take: () => take(offer, piece) }))
})

function take(offer: Completion, piece: { from: number, to: number }): void {
  typed.value = `${typed.value.slice(0, piece.from)}${offer.text}${offer.isWhole ? ' ' : ''}${typed.value.slice(piece.to)}`
  if (offer.isWhole) absorb()
  offerAt.value = -1
  void nextTick(() => {
    input.value?.focus()
    caret.value = input.value?.selectionStart ?? 0
  })
}

/** Takes an offer. One that fills the whole line leaves nothing to be offered until more is typed: the next Enter is for the list. */
function accept(offer: Offer): void {
  offer.take()
  offerAt.value = -1
  if (offer.isWholeLine) isOffering.value = false
}

function beginOffering(): void {
  hasFocus.value = true
  isOffering.value = true
  offerAt.value = -1
}

/** All of the line, conditions too: what is typed next stands in place of it. */
function selectAll(): void {
  typed.value = text.value
  tokens.value = []
  isOffering.value = false
  void nextTick(() => input.value?.select())
}

function keydown(event: KeyboardEvent): void {
  const offered = offers.value[offerAt.value]
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'a' && tokens.value.length > 0) selectAll()
  // Hidden offers come back: they are all that there is to go to in an empty line.
  else if (event.key === 'ArrowDown' && !isOffering.value && text.value === '') isOffering.value = true
  else if (event.key === 'ArrowDown' && offers.value.length > 0) offerAt.value = (offerAt.value + 1) % offers.value.length
  else if (event.key === 'ArrowUp' && offers.value.length > 0) offerAt.value = offerAt.value <= 0 ? -1 : offerAt.value - 1
  else if (event.key === 'Tab' && !event.shiftKey && offers.value.length > 0 && typed.value.trim() !== '') accept(offered ?? offers.value[0]!)
  else if (event.key === 'Delete' && offered?.forget) {
    offered.forget()
    offerAt.value = -1
  }
  else if (event.key === 'Enter' && offered) accept(offered)
  else if (event.key === 'Enter' || event.key === 'ArrowDown') leave(event.timeStamp)
  else if (event.key === 'Escape') {
    if (offers.value.length > 0) isOffering.value = false
    else {
      library.search.q = ''
      emit('leave', event.timeStamp)
    }
  }
  else if (event.key === 'Backspace' && input.value?.selectionStart === 0 && input.value.selectionEnd === 0 && tokens.value.length > 0) {
    const last = tokens.value.at(-1)!
    tokens.value = tokens.value.slice(0, -1)
    typed.value = `${last}${typed.value ? ` ${typed.value}` : ''}`
    void nextTick(() => input.value?.setSelectionRange(last.length, last.length))
  }
  else return
  event.preventDefault()
}

function leave(pressedAt: number): void {
  absorb()
  const q = text.value
  if (q && library.read.problems.length === 0) settings.recent = [q, ...settings.recent.filter(other => other !== q)].slice(0, 12)
  emit('leave', pressedAt)
}

function removeToken(index: number): void {
  tokens.value = tokens.value.toSpliced(index, 1)
  input.value?.focus()
}

/** How many more there were without a token. */
function hiddenBy(token: string): string {
  const place = library.read.parts.findIndex(part => library.search.q.slice(part.from, part.to) === token)
  const more = library.hidden.byPart[place] ?? 0
  return more > 0 ? `Without it ${whole(more)} more. Click to change it.` : 'Click to change it.'
}

function change(index: number): void {
  const token = tokens.value[index]!
  tokens.value = tokens.value.toSpliced(index, 1)
  typed.value = [typed.value.trim(), token].filter(Boolean).join(' ')
  void nextTick(() => input.value?.focus())
}

/** A file that is dropped here is not brought in: sounds are found that are like it. */
async function dropFile(event: DragEvent): Promise<void> {
  const file = event.dataTransfer?.files[0]
  if (!file || !carriesFiles(event)) return
  await saying(async () => {
    const { like } = await api(soundRoutes.drop, { body: file })
    library.setCondition('like', `like=${like}`)
  })
}

defineExpose({ focus: () => input.value?.focus() })
</script>

<template>
  <div class="line" :class="{ 'has-problem': problem, 'has-focus': hasFocus }" @click="input?.focus()" @drop.prevent.stop="dropFile" @dragover.prevent>
    <el-tag v-for="(token, i) in tokens" :key="`${i} ${token}`" class="token" closable size="small" disable-transitions :title="hiddenBy(token)" @close="removeToken(i)" @click.stop="change(i)">
      {{ token }}
    </el-tag>
    <input
      ref="input"
      v-model="typed"
      type="text"
      role="combobox"
      autocomplete="off"
      spellcheck="false"
      aria-label="Search"
      aria-autocomplete="list"
      aria-controls="search-offers"
      :aria-expanded="offers.length > 0"
      :aria-activedescendant="offerAt >= 0 ? `search-offer-${offerAt}` : undefined"
      :aria-invalid="problem !== undefined"
      :placeholder="tokens.length === 0 ? 'Words, or conditions such as kind=kick length<0.5' : ''"
      @beforeinput="typedAt = $event.timeStamp"
      @input="onInput"
      @keydown="keydown"
      @focus="beginOffering"
      @blur="hasFocus = false"
      @keyup="caret = input?.selectionStart ?? 0"
    >
    <button v-if="tokens.length > 0 || typed" type="button" class="plain" aria-label="Clear the search" @click.stop="library.search.q = ''">
      ×
    </button>
    <button type="button" class="plain" aria-label="How to search" @click.stop="emit('help')">
      ?
    </button>
    <ul v-if="offers.length > 0" id="search-offers" class="offers" role="listbox" aria-label="Suggestions">
      <li v-for="(offer, i) in offers" :id="`search-offer-${i}`" :key="offer.text" role="option" :aria-selected="i === offerAt" :class="{ 'at-hand': i === offerAt }" @mousedown.prevent="accept(offer)">
        <span class="figure cut">{{ offer.text }}</span><span class="quiet cut">{{ offer.does }}</span><span v-if="offer.forget" class="forget" aria-hidden="true" :title="`Forget the search ${offer.text}`" @mousedown.prevent.stop="offer.forget()">×</span>
      </li>
      <li class="quiet how" role="presentation">
        <kbd>Tab</kbd> takes the first · <kbd>↓</kbd> chooses · <kbd>Enter</kbd> plays what was found<template v-if="offers[offerAt]?.forget"> · <kbd>Del</kbd> forgets it</template>
      </li>
    </ul>
    <p v-else-if="problem" class="problem" role="alert">
      <span class="figure">{{ problem.before }}<mark>{{ problem.at }}</mark>{{ problem.after }}</span> {{ problem.message }} The list was not changed.
    </p>
  </div>
</template>

<style scoped>
.line { position: relative; display: flex; flex: 1; flex-wrap: wrap; align-items: center; gap: 4px; min-width: 0; min-height: 28px; padding: 2px 6px; border: 1px solid var(--rule); border-radius: 2px; background: var(--sheet); cursor: text; }
.has-focus { border-color: var(--accent); }
.has-problem { border-color: var(--lost); }
.token { font-family: var(--figures); cursor: pointer; max-width: 260px; overflow: hidden; text-overflow: ellipsis; }
input { flex: 1; min-width: 120px; height: 22px; padding: 0 2px; border: 0; outline: none; background: none; color: var(--ink); font-size: 13px; }
input::placeholder { color: var(--quiet); }
.plain { width: 24px; height: 24px; padding: 0; border: 0; background: none; color: var(--quiet); cursor: pointer; font-size: 14px; }
.offers, .problem { position: absolute; top: calc(100% + 2px); left: 0; z-index: 20; min-width: 360px; max-width: 100%; margin: 0; padding: 4px 0; border: 1px solid var(--rule); border-radius: 2px; background: var(--sheet); box-shadow: var(--shadow); list-style: none; cursor: default; }
.offers li { display: flex; gap: 14px; justify-content: space-between; height: 26px; align-items: center; padding: 0 10px; }
.offers li:not(.how):hover { background: var(--chosen); }
.forget { padding: 0 4px; cursor: pointer; }
.how { justify-content: flex-start !important; gap: 4px !important; border-top: 1px solid var(--rule); font-size: 11px; }
.problem { padding: 6px 10px; color: var(--lost); }
.problem mark { background: none; color: inherit; text-decoration: underline wavy; }
</style>
