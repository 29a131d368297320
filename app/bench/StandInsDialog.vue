<script setup lang="ts">
import type { SoundRow } from '~~/contract/library'
import { counted, kilohertz, lufs, seconds } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { pictureOf } from '../parts/useWaveformPainter'
import { useKit } from './kit'
import { usePlayer } from '../sound'
import { useStandIns, type MissingSample, type Offer } from './standIns'
import type { LedgerColumn } from '../parts/LedgerTable.vue'

/** Samples of the kit that are missing, one after the other, with other sounds that may take their places. */
const standIns = useStandIns()
const kit = useKit()
const player = usePlayer()
const list = useTemplateRef<{ focus: () => void }>('list')
const cursor = ref(0)
const NONE = 0
const COLUMNS: readonly LedgerColumn[] = [
  { key: 'name', title: 'Missing', width: 150, grows: true },
  { key: 'pads', title: 'Pads', width: 70 },
  { key: 'standIn', title: 'Replacement', width: 150, grows: true },
]

const atCursor = computed(() => standIns.missing[Math.min(cursor.value, standIns.missing.length - 1)])
const known = computed(() => atCursor.value && standIns.found.get(atCursor.value.sound.id))
const offers = computed(() => atCursor.value ? standIns.offersFor(atCursor.value.sound.id) : [])
const chosenId = computed(() => atCursor.value ? standIns.chosen.get(atCursor.value.sound.id)?.id ?? NONE : NONE)
const rowAt = (index: number): MissingSample | undefined => standIns.missing[index]

watch(() => standIns.isOpen, () => cursor.value = 0)
watch(known, () => void (atCursor.value && saying(() => standIns.findAlike(atCursor.value!.sound.id))))

function choose(value: unknown): void {
  const row = offers.value.find(offer => offer.row.id === value)?.row
  if (atCursor.value) standIns.choose(atCursor.value.sound.id, row)
}

/** Each press is heard, by mouse, arrow key or space, also of what is chosen already. A label hands its own click on to its input. */
function hear(row: SoundRow, event: Event): void {
  if (event.target instanceof HTMLInputElement) void player.playRow(row, event.timeStamp)
}

function keydown(event: KeyboardEvent): void {
  const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key]
  if (step === undefined) return
  event.preventDefault()
  cursor.value = Math.max(0, Math.min(standIns.missing.length - 1, cursor.value + step))
}

function why({ reason, nearness }: Offer): string {
  switch (reason) {
    case 'file':
      return 'Now in its file'
    case 'recording':
      return 'The same recording'
    case 'name':
      return 'The same name'
    default:
      return nearness === null ? 'Sounds alike' : `${Math.round(nearness * 100)} % alike`
  }
}
</script>

<template>
  <el-dialog v-model="standIns.isOpen" :title="`Missing samples of ${kit.kit.name}`" width="920" top="6vh" append-to-body @opened="list?.focus()" @closed="player.stop()">
    <p class="quiet">
      Where a folder or a drive is only away, bring it back: its samples are found again by themselves.
    </p>
    <div class="both">
      <LedgerTable ref="list" label="Missing samples" class="list" :columns="COLUMNS" :total="standIns.missing.length" :row-at="rowAt" :cursor="cursor" @press="cursor = $event" @keydown="keydown">
        <template #cell="{ column, row }">
          <span v-if="column === 'name'" class="cut" :title="row.sound.name">{{ row.sound.name }}</span>
          <span v-else-if="column === 'pads'" class="figure cut" :title="row.pads.join(', ')">{{ row.pads.join(', ') }}</span>
          <span v-else class="cut" :class="{ quiet: !standIns.chosen.has(row.sound.id) }">{{ standIns.chosen.get(row.sound.id)?.name ?? 'nothing yet' }}</span>
        </template>
      </LedgerTable>
      <section v-if="atCursor" class="offers" :aria-label="`Replacement for ${atCursor.sound.name}`" :aria-busy="standIns.isAsking">
        <p class="where">
          <strong class="cut">{{ atCursor.sound.name }}</strong> <span class="figure quiet">{{ seconds(atCursor.sound.frames / atCursor.sound.sampleRate) }} · {{ kilohertz(atCursor.sound.sampleRate) }}</span>
          <span v-if="known?.folder" class="quiet">last seen in {{ known.folder }}</span>
        </p>
        <el-radio-group :model-value="chosenId" :aria-label="`Replacement for ${atCursor.sound.name}`" @update:model-value="choose">
          <el-radio :value="NONE">
            No replacement
          </el-radio>
          <el-radio v-for="offer in offers" :key="offer.row.id" :value="offer.row.id" @click.capture="hear(offer.row, $event)" @keydown.space.prevent.stop="hear(offer.row, $event)">
            <WaveThumb class="wave" :picture="pictureOf(offer.row)" :label="`Waveform of ${offer.row.name}`" />
            <span class="what" :title="`${offer.row.folder}/${offer.row.name}`"><span class="cut">{{ offer.row.name }}</span><span class="cut quiet">{{ offer.row.folder }}</span></span>
            <span class="what right"><span>{{ why(offer) }}</span><span class="figure quiet">{{ seconds(offer.row.lengthSeconds) }} · {{ lufs(offer.row.hitLufs) }}</span></span>
          </el-radio>
        </el-radio-group>
        <p v-if="!standIns.isAsking && offers.length === 0" class="quiet">
          The library holds nothing of its name, and does not know how it sounds. Put another sound on the pad from the Library.
        </p>
      </section>
      <p v-else class="quiet">
        No samples are missing.
      </p>
    </div>
    <template #footer>
      <el-button @click="standIns.isOpen = false">
        Cancel
      </el-button>
      <el-button type="primary" :loading="standIns.isAsking" :disabled="standIns.chosenCount === 0" @click="standIns.carryOut()">
        Replace {{ counted(standIns.chosenCount, 'sound') }}
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.both { display: grid; grid-template-columns: 380px minmax(0, 1fr); gap: 14px; height: 52vh; margin-top: 8px; }
.list { border-right: 1px solid var(--rule); }
.offers { overflow-y: auto; }
.where { display: flex; flex-wrap: wrap; gap: 8px; margin: 0 0 6px; }
.el-radio-group { display: grid; }
.el-radio { height: auto; min-height: 34px; margin: 0; border-bottom: 1px solid var(--rule); white-space: normal; }
.el-radio :deep(.el-radio__label) { display: grid; flex: 1; grid-template-columns: 70px minmax(0, 1fr) auto; align-items: center; gap: 8px; min-width: 0; color: var(--ink); }
.el-radio:first-child :deep(.el-radio__label) { display: block; }
.wave { height: 26px; }
.what { display: grid; min-width: 0; padding: 3px 0; }
.what .quiet { font-size: 12px; }
.right { text-align: right; }
</style>
