<script setup lang="ts">
import { counted, whole } from '../../parts/useFormat'
import { useLibrary } from '../library'

/** Says where is looked, and what was found by what; what is hidden is counted. */
const library = useLibrary()

const sourceName = computed(() => library.sources.find(source => source.id === library.search.source)?.name ?? 'a source that was removed')
const folders = computed(() => (library.search.folder ?? '').split('/').filter(Boolean))

function folderTo(depth: number): void {
  library.lookIn({ source: library.search.source, folder: folders.value.slice(0, depth + 1).join('/') })
}

function showAside(): void {
  library.search.q = `${library.search.q} is=aside`.trim()
}

const asksForAside = computed(() => library.read.parts.some(part => part.query.type === 'state' && part.query.state === 'aside'))
/** The condition without which there would be the most. */
const worst = computed(() => {
  const place = library.hidden.byPart.reduce((best, more, i) => more > (library.hidden.byPart[best] ?? 0) ? i : best, 0)
  const part = library.read.parts[place]
  const more = library.hidden.byPart[place] ?? 0
  return part && more > 0 ? { text: library.search.q.slice(part.from, part.to), more, part } : undefined
})

function withoutWorst(): void {
  if (worst.value) library.search.q = `${library.search.q.slice(0, worst.value.part.from)} ${library.search.q.slice(worst.value.part.to)}`.replace(/\s+/g, ' ').trim()
}
</script>

<template>
  <div class="scope" role="status" :aria-busy="library.isBusy" aria-label="Search in, and number found">
    <span class="quiet">In</span>
    <button type="button" class="step" :class="{ here: library.search.source === undefined }" @click="library.lookIn({})">
      everything
    </button>
    <template v-if="library.search.source !== undefined">
      <span class="quiet">›</span>
      <button type="button" class="step cut" :class="{ here: folders.length === 0 }" @click="library.lookIn({ source: library.search.source })">
        {{ sourceName }}
      </button>
    </template>
    <template v-for="(folder, depth) in folders" :key="depth">
      <span class="quiet">›</span>
      <button type="button" class="step cut" :class="{ here: depth === folders.length - 1 }" @click="folderTo(depth)">
        {{ folder }}
      </button>
    </template>
    <span class="quiet">:</span>
    <span class="count"><span class="figure">{{ whole(library.total) }}</span> {{ library.total === 1 ? 'sound' : 'sounds' }}{{ library.isFiltered ? ' found' : '' }}</span>
    <span v-if="library.counts.kind > 0 && library.isFiltered" class="quiet cut"><span class="figure">{{ whole(library.counts.kind) }}</span> by kind, not by name</span>
    <span v-if="library.counts.near > 0" class="quiet cut"><span class="figure">{{ whole(library.counts.near) }}</span> spelled nearly so</span>
    <span v-if="library.chosen.size > 1"><span class="figure">{{ whole(library.chosen.size) }}</span> chosen</span>
    <button v-if="library.hidden.elsewhere > 0" type="button" class="more cut" @click="library.lookIn({})">
      {{ whole(library.hidden.elsewhere) }} more elsewhere
    </button>
    <button v-if="library.hidden.aside > 0" type="button" class="more" :title="`${counted(library.hidden.aside, 'sound')} that fit are set aside`" @click="showAside">
      {{ whole(library.hidden.aside) }} set aside
    </button>
    <button v-if="worst && !asksForAside" type="button" class="more cut" :title="`${whole(worst.more)} more without ${worst.text}`" @click="withoutWorst">
      {{ whole(worst.more) }} more without {{ worst.text }}
    </button>
  </div>
</template>

<style scoped>
.scope { display: flex; align-items: center; gap: 6px; min-width: 0; flex: 1; overflow: hidden; white-space: nowrap; }
.step, .more { min-height: 24px; padding: 2px 3px; border: 0; background: none; color: var(--accent); font: inherit; cursor: pointer; min-width: 0; }
.step.here { color: var(--ink); font-weight: 600; }
.more { text-decoration: underline; font-size: 12px; flex: 0 1 auto; }
.count { flex: none; }
.step { flex: 0 1 auto; min-width: 24px; max-width: 160px; overflow: hidden; text-overflow: ellipsis; }
.step:not(.here):hover { text-decoration: underline; }
</style>
