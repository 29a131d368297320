<script setup lang="ts">
import { soundRoutes } from '~~/contract/library'
import { kindLabel } from '~~/core/search/kinds'
import { padLabel } from '~~/core/kit/padLabel'
import type { LedgerColumn } from '../parts/LedgerTable.vue'
import { counted, lufs, seconds, signedDb } from '../parts/useFormat'
import { useFocusAfter } from '../parts/useFocusAfter'
import { say, saying } from '../parts/useSay'
import { alternateCandidates, listedCandidates, searchCandidates, useLibrary, type Candidate, type CandidateList } from '../library'
import { useKit } from '../bench'
import { useSettings } from '../parts/settings'
import { useTray } from '../tray'
import { useTryOut } from './tryOut'
import { api } from '../parts/useApi'

/** Candidates for the chosen pads, gone through with the arrow keys while the pattern goes on. */
const kit = useKit()
const library = useLibrary()
const tray = useTray()
const tryOut = useTryOut()
const settings = useSettings()

const WAYS = ['kind', 'search', 'like', 'folder', 'tray', 'alternates'] as const
type Way = typeof WAYS[number]
const way = ref<Way>('kind')
const COLUMNS: readonly LedgerColumn[] = [
  { key: 'name', title: 'Candidate', width: 120, grows: true },
  { key: 'length', title: 'Length', width: 58, align: 'right' },
  { key: 'loudness', title: 'Loud', width: 78, align: 'right' },
]

const pads = computed(() => tryOut.isOn ? tryOut.pads : kit.editedPads)
const padsText = computed(() => pads.value.length === 1 ? `${padLabel(pads.value[0]!)} ${kit.kit.pads[pads.value[0]!]?.name ?? ''}`.trim() : counted(pads.value.length, 'pad'))
const lead = computed(() => kit.kit.pads[pads.value[0]!])
const kind = computed(() => lead.value?.role ?? null)
const titles = computed<Readonly<Record<Way, string>>>(() => ({
  kind: kind.value ? `All of kind ${kindLabel(kind.value).toLowerCase()}` : 'All sounds',
  search: `What the search finds${library.search.q ? `: ${library.search.q}` : ''}`,
  like: 'Like the pad\'s sound',
  folder: 'The folder of the pad\'s sound',
  tray: `The tray, ${counted(tray.sounds.length, 'sound')}`,
  alternates: `Its alternates, ${lead.value?.alternate === null || !lead.value ? 0 : lead.value.layers.length}`,
}))

async function candidates(): Promise<CandidateList> {
  const title = titles.value[way.value]
  const middleC = settings.middleC
  const sound = lead.value?.layers[0]?.sound
  switch (way.value) {
    case 'kind':
      return searchCandidates(title, { q: kind.value ? `kind=${kind.value}` : '', middleC })
    case 'search':
      return searchCandidates(title, { ...library.search, middleC })
    case 'tray':
      return listedCandidates(title, tray.sounds)
    case 'alternates':
      return alternateCandidates(lead.value!)
    case 'like': {
      const detail = sound && await api(soundRoutes.read, { params: { hash: sound.id } })
      return searchCandidates(title, { q: detail ? `like=${detail.id}` : '', middleC })
    }
    case 'folder': {
      const detail = sound && await api(soundRoutes.read, { params: { hash: sound.id } })
      const place = detail?.places.shown[0]
      return searchCandidates(title, place ? { q: '', source: place.sourceId, folder: place.path.split('/').slice(0, -1).join('/') || undefined, middleC } : { q: '', middleC })
    }
  }
}

async function begin(): Promise<void> {
  const on = tryOut.isOn ? tryOut.pads : kit.editedPads
  await saying(async () => {
    const list = await candidates()
    if (list.total.value === 0) return say('No candidates found.')
    await tryOut.beginList(on, list)
    await nextTick()
    ledger.value?.focus()
  })
}
const ledger = useTemplateRef<{ focus: () => void }>('ledger')

onUnmounted(() => {
  if (tryOut.isOn && tryOut.list) tryOut.end()
})

function keep(): void {
  const name = tryOut.candidate?.sound.name
  const where = padsText.value
  if (tryOut.keep()) say(`"${name}" is kept on ${where}.`)
}

// What had the keys is gone with the list.
const beginButton = useTemplateRef<{ $el: HTMLElement }>('beginButton')
useFocusAfter(() => tryOut.isOn, () => beginButton.value?.$el.focus())

function keydown(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 12, PageUp: -12, Home: -1e9, End: 1e9 }[event.key]
  const act = step !== undefined
    ? () => void tryOut.goTo(tryOut.index + step, event.timeStamp)
    : { Enter: keep, Escape: () => tryOut.end(), u: () => tryOut.random(event.timeStamp), i: () => tryOut.mark(), o: () => tryOut.compareMarked(), w: () => tryOut.solo(), q: () => tryOut.mute() }[event.key]
  if (!act) return
  event.preventDefault()
  event.stopPropagation()
  act()
}

const rowAt = (index: number): Candidate | undefined => tryOut.candidateAt(index)
const need = (from: number, to: number) => void tryOut.list?.need(from, to)
/** The rows come anew when what is gone through changes. */
const version = computed(() => (tryOut.onlyMarked ? 1 : 0) + tryOut.marked.length * 2 + (tryOut.list?.title.length ?? 0) * 1000)
</script>

<template>
  <div class="set">
    <p><strong>On {{ padsText }}</strong></p>
    <div class="row">
      <el-select v-model="way" size="small" aria-label="Candidates">
        <el-option v-for="one in WAYS" :key="one" :value="one" :label="titles[one]" :disabled="(one === 'tray' && tray.sounds.length === 0) || (one === 'alternates' && (lead?.alternate ?? null) === null) || (['like', 'folder'].includes(one) && !lead?.layers.length)" />
      </el-select>
      <el-button ref="beginButton" size="small" type="primary" class="first-focus" @click="begin">
        {{ tryOut.isOn ? 'Try these' : 'Try them' }}
      </el-button>
    </div>
    <el-radio-group v-model="tryOut.padSettings" size="small" aria-label="Settings of the pad">
      <el-radio value="kept">the pad's settings kept</el-radio>
      <el-radio value="reset">plain</el-radio>
    </el-radio-group>
  </div>
  <template v-if="tryOut.isOn && tryOut.list">
    <LedgerTable ref="ledger" label="Candidates" :columns="COLUMNS" :total="tryOut.total" :row-at="rowAt" :cursor="tryOut.index" :version="version" class="list" @need="need" @press="(index, event) => tryOut.goTo(index, event.timeStamp)" @open="keep" @keydown="keydown">
      <template #cell="{ column, row }">
        <template v-if="column === 'name'">
          <KindStamp :kind="row.kind" /><span class="cut name" :title="row.sound.name"><span v-if="tryOut.isMarked(row)" class="mark" title="Marked">≍</span>{{ row.sound.name }}</span>
        </template>
        <span v-else-if="column === 'length'" class="figure">{{ seconds(row.lengthSeconds) }}</span>
        <span v-else class="figure">{{ lufs(row.hitLufs) }}</span>
      </template>
    </LedgerTable>
    <p class="about" role="status">
      {{ tryOut.index + 1 }} of {{ tryOut.total }}{{ tryOut.onlyMarked ? ' marked' : '' }} · {{ signedDb(tryOut.gainDb) }} · {{ counted(tryOut.marked.length, 'mark') }}
    </p>
    <p class="acts">
      <el-button size="small" type="primary" :disabled="!tryOut.candidate" @click="keep">
        Keep it
      </el-button>
      <el-button size="small" @click="tryOut.end()">
        Go back
      </el-button>
      <el-button size="small" @click="tryOut.mark()">
        Mark
      </el-button>
      <el-button size="small" :disabled="tryOut.marked.length === 0" @click="tryOut.compareMarked()">
        {{ tryOut.onlyMarked ? 'All' : 'Marked' }}
      </el-button>
      <el-button size="small" @click="tryOut.random($event.timeStamp)">
        Any
      </el-button>
    </p>
    <p class="quiet hints">
      <kbd>↑</kbd> <kbd>↓</kbd> step · <kbd>Enter</kbd> keep · <kbd>Esc</kbd> go back · <kbd>I</kbd> mark · <kbd>O</kbd> marked only · <kbd>U</kbd> any · <kbd>W</kbd> solo · <kbd>Q</kbd> mute
    </p>
  </template>
  <p v-else class="quiet about">
    The pattern loops, and candidates take the place of the pad's sound one after the other, at its loudness. Choose several pads to try on all of them.
  </p>
</template>

<style scoped>
.set { padding: 6px 8px; border-bottom: 1px solid var(--rule); }
.set p { margin: 0 0 4px; }
.row { display: flex; gap: 4px; }
.list { flex: 1; }
.name { margin-left: 5px; }
.mark { color: var(--accent); margin-right: 3px; }
.about { margin: 0; padding: 4px 8px; font-size: 12px; }
.acts { display: flex; flex-wrap: wrap; gap: 4px; margin: 0; padding: 0 8px 4px; }
.acts .el-button { margin: 0; }
.hints { margin: 0; padding: 0 8px 6px; font-size: 12px; }
</style>
