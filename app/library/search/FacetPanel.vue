<script setup lang="ts">
import { byFacet } from '~~/core/figures/register'
import { conditionText, partsOf, rangeText } from '~~/core/search/query/edit'
import { KINDS, kindLabel, topKind } from '~~/core/search/kinds'
import type { Query } from '~~/core/search/query/tree'
import { whole } from '../../parts/useFormat'
import { useLibrary } from '../library'
import { useSettings } from '../../parts/settings'

/** What the result could be narrowed to, each with the number of sounds that it would leave. */
const library = useLibrary()
const settings = useSettings()
const SHOWN = 8
const LISTED = ['tag', 'is', 'pack'] as const
const opened = reactive(new Set<string>())
const allOf = reactive(new Set<string>())

const kindCounts = computed(() => new Map(library.facets?.kinds.map(({ name, count }) => [name, count])))
const withSubkinds = (path: string) => [...kindCounts.value].reduce((sum, [kind, count]) => kind === path || kind.startsWith(`${path}.`) ? sum + count : sum, 0)

function valuesOf(query: Query): string[] {
  if (query.type === 'any') return query.of.flatMap(valuesOf)
  if (query.type === 'kind') return [query.path === 'none' ? 'unknown' : query.path]
  if (query.type === 'tag') return [query.tag]
  if (query.type === 'pack') return [query.name]
  if (query.type === 'state') return [query.state]
  return query.type === 'flag' ? [query.flag] : []
}

/** The conditions as text: while only words are typed, nothing here need be drawn anew. */
const conditions = computed(() => library.read.parts.filter(part => part.field !== undefined).map(part => library.search.q.slice(part.from, part.to)).join('\n'))
const read = shallowRef(library.read)
watch(conditions, () => {
  read.value = library.read
})

const chosenOf = (field: string) => partsOf(read.value, field).flatMap(part => valuesOf(part.query))
const chosenByField = computed(() => new Map(['kind', ...LISTED].map(field => [field, new Set(chosenOf(field))])))
const isChosen = (field: string, value: string) => chosenByField.value.get(field)?.has(value) || chosenByField.value.get(field)?.has(value.toLowerCase()) || false

/** Adds a value to the condition of its name, or takes it away. */
function toggle(field: string, value: string): void {
  const now = chosenOf(field)
  const next = isChosen(field, value) ? now.filter(other => other !== value && other !== value.toLowerCase()) : [...now, value]
  library.setCondition(field, conditionText(field, next))
}

const kinds = computed(() => KINDS.filter(kind => topKind(kind.path) === kind.path).flatMap((top) => {
  const count = withSubkinds(top.path)
  const children = KINDS.filter(kind => kind.path.startsWith(`${top.path}.`)).map(kind => ({ ...kind, depth: 1, count: withSubkinds(kind.path), hasMore: false })).filter(kind => kind.count > 0 || isChosen('kind', kind.path))
  if (count === 0 && !isChosen('kind', top.path)) return []
  const isOpen = opened.has(top.path) || children.some(child => isChosen('kind', child.path))
  return [{ ...top, depth: 0, count, hasMore: children.length > 0 }, ...isOpen ? children : []]
}))
const unknown = computed(() => kindCounts.value.get('none') ?? 0)

const lists = computed(() => [
  { field: 'tag', title: 'Tags', entries: library.facets?.tags ?? [] },
  { field: 'is', title: 'State and flags', entries: library.facets?.states.filter(state => state.name !== 'measured') ?? [] },
  { field: 'pack', title: 'Packs', entries: library.facets?.packs ?? [] },
])

const sliders = computed(() => {
  const bars = library.facets?.bars
  return bars ? Object.values(byFacet((field, { title, label }) => ({ field, title, bars: bars[field], label: (value: number) => label(value, settings.middleC) }))) : []
})

function rangeOf(field: string): { low?: number, high?: number } {
  const [part] = partsOf(read.value, field)
  return part?.query.type === 'number' ? part.query.range : {}
}

function setRange(field: string, low: number | undefined, high: number | undefined): void {
  library.setCondition(field, rangeText(field, low, high))
}
</script>

<template>
  <aside class="facets" aria-label="Filters">
    <Deferred>
      <FolderTree />
    </Deferred>
    <section>
      <h2>Kind</h2>
      <ul>
        <li v-for="kind in kinds" :key="kind.path" :class="{ on: isChosen('kind', kind.path) }" :style="{ paddingLeft: `${kind.depth * 16}px` }">
          <button type="button" class="entry" :aria-pressed="isChosen('kind', kind.path)" @click="toggle('kind', kind.path)">
            <KindStamp :kind="kind.path" /><span class="cut">{{ kindLabel(kind.path) }}</span><span class="figure quiet">{{ whole(kind.count) }}</span>
          </button>
          <button v-if="kind.hasMore" type="button" class="open" :aria-expanded="opened.has(kind.path)" :aria-label="`Kinds of ${kind.label}`" @click="opened.has(kind.path) ? opened.delete(kind.path) : opened.add(kind.path)">
            {{ opened.has(kind.path) ? '−' : '+' }}
          </button>
          <span v-else class="open" />
        </li>
        <li v-if="unknown > 0 || isChosen('kind', 'unknown')" :class="{ on: isChosen('kind', 'unknown') }">
          <button type="button" class="entry" :aria-pressed="isChosen('kind', 'unknown')" @click="toggle('kind', 'unknown')">
            <KindStamp :kind="null" /><span class="cut">Not known</span><span class="figure quiet">{{ whole(unknown) }}</span>
          </button><span class="open" />
        </li>
      </ul>
    </section>
    <section v-if="library.facets">
      <h2>Character</h2>
      <Deferred>
        <CharacterGrid :grid="library.facets.grid" />
      </Deferred>
    </section>
    <Deferred>
      <section v-for="slider in sliders" :key="slider.field">
        <h2>{{ slider.title }}</h2>
        <RangeSlider :title="slider.title" :bars="slider.bars" :range="rangeOf(slider.field)" :label="slider.label" @change="(low, high) => setRange(slider.field, low, high)" />
      </section>
    </Deferred>
    <Deferred>
      <section v-for="list in lists.filter(candidate => candidate.entries.length > 0)" :key="list.field">
        <h2>{{ list.title }}</h2>
        <ul>
          <li v-for="entry in allOf.has(list.field) ? list.entries : list.entries.slice(0, SHOWN)" :key="entry.name" :class="{ on: isChosen(list.field, entry.name) }">
            <button type="button" class="entry" :aria-pressed="isChosen(list.field, entry.name)" @click="toggle(list.field, entry.name)">
              <span class="cut" :title="entry.name">{{ entry.name }}</span><span class="figure quiet">{{ whole(entry.count) }}</span>
            </button>
          </li>
        </ul>
        <button v-if="list.entries.length > SHOWN" type="button" class="all" @click="allOf.has(list.field) ? allOf.delete(list.field) : allOf.add(list.field)">
          {{ allOf.has(list.field) ? 'Fewer' : `All ${list.entries.length}` }}
        </button>
      </section>
    </Deferred>
  </aside>
</template>

<style scoped>
.facets { width: 212px; flex: none; padding: 4px 0 12px; border-right: 1px solid var(--rule); overflow-y: auto; overflow-x: hidden; }
section { padding: 4px 10px 2px 12px; }
h2 { margin: 0 0 2px; padding-bottom: 1px; border-bottom: 1px solid var(--rule); font-size: 12px; color: var(--quiet); }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; align-items: center; }
.entry { display: flex; flex: 1; align-items: center; gap: 6px; min-width: 0; height: 24px; padding: 0 2px; border: 0; background: none; color: inherit; font: inherit; text-align: left; cursor: pointer; }
.entry .figure { margin-left: auto; font-size: 11px; }
.entry:hover, .open:not(span):hover { background: var(--chosen); }
.on { background: var(--at-hand); box-shadow: inset 2px 0 0 var(--accent); --quiet: var(--ink); }
.open { width: 24px; height: 24px; padding: 0; border: 0; background: none; color: var(--quiet); font: 600 12px var(--figures); cursor: pointer; flex: none; }
.all { min-height: 24px; padding: 2px; border: 0; background: none; color: var(--accent); font: inherit; font-size: 12px; cursor: pointer; }
</style>
