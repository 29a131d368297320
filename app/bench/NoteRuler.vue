<script setup lang="ts">
import { noteLabel } from '~~/core/audio/notes'
import { leaveRoom, moveToNote, nextFreeNote, notesOf } from '~~/core/kit/noteEdits'
import { soundsOn } from '~~/core/kit/voices'
import { padLabel } from '~~/core/kit/padLabel'
import { NO_FREE_NOTE } from '~~/core/kit/words'
import { say } from '../parts/useSay'
import { useShownKit } from './useShownKit'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'
import { useTargets } from '../fit'
import { counted } from '../parts/useFormat'

/** All 128 notes: which hold a sound, which are free, where the current pad lies; a press goes there, or gives the pad that note. */
const kit = useKit()
const settings = useSettings()
const targets = useTargets()
const { shown, atHand } = useShownKit()
const room = ref(4)

const limits = computed(() => targets.limitsOf(kit.kit.target))
const notes = computed(() => {
  const holders = new Map<number, number[]>()
  shown.value.pads.forEach((pad, index) => {
    if (pad.layers.length > 0) for (const note of notesOf(pad)) holders.set(note, [...holders.get(note) ?? [], index])
  })
  const here = shown.value.pads[atHand.value]
  return Array.from({ length: 128 }, (_, note) => {
    const pads = holders.get(note) ?? []
    const isOut = limits.value !== undefined && (note < limits.value.lowNote || note > limits.value.highNote)
    return { note, pads, isOut, isHere: here !== undefined && soundsOn(here, note), isRoot: pads.some(index => shown.value.pads[index]!.range?.root === note), says: `${noteLabel(note, settings.middleC)}: ${pads.length === 0 ? 'free' : pads.map(index => `${padLabel(index)} ${shown.value.pads[index]!.name}`).join(', ')}${pads.some(index => shown.value.pads[index]!.range?.root === note) ? ', root note' : ''}${isOut ? ', not played by the target' : ''}` }
  })
})
const taken = computed(() => notes.value.filter(({ pads }) => pads.length > 0).length)

function go(note: number): void {
  const index = kit.kit.pads.findIndex(pad => pad.layers.length > 0 && soundsOn(pad, note))
  if (index >= 0) return kit.select(index)
  const empty = kit.kit.pads.findIndex(pad => pad.note === note)
  if (kit.pad.layers.length === 0 && empty >= 0) return kit.select(empty)
  give(note)
}

function give(note: number): void {
  kit.edit(`Note ${note} for ${padLabel(kit.padIndex)}`, state => moveToNote(state, kit.padIndex, note))
}

function toNextFree(): void {
  const free = nextFreeNote(kit.kit, kit.pad.note)
  if (free === undefined) say(NO_FREE_NOTE)
  else go(free)
}

/** What *leave room* would do, said before. */
const roomSays = computed(() => {
  const from = kit.pad.note
  const moving = kit.kit.pads.filter(pad => pad.layers.length > 0 && pad.note >= from).map(pad => pad.note)
  const label = (note: number) => noteLabel(note, settings.middleC)
  if (moving.length === 0) return `Nothing moves: no pad with a sound has ${label(from)} or a note above it`
  if (leaveRoom(kit.kit, from, room.value) === kit.kit) return 'No room: a pad would go above note 127'
  const [lowest, highest] = [Math.min(...moving), Math.max(...moving)]
  return `${counted(moving.length, 'pad')} on ${lowest === highest ? label(lowest) : `${label(lowest)} to ${label(highest)}`} ${moving.length === 1 ? 'moves' : 'move'} up to ${label(lowest + room.value)}${lowest === highest ? '' : ` to ${label(highest + room.value)}`}`
})

function makeRoom(): void {
  const { note } = kit.pad
  const next = leaveRoom(kit.kit, note, room.value)
  if (next === kit.kit) return say('There is no room: a pad would have to go above note 127.')
  kit.edit(`Leave ${counted(room.value, 'note')} free from ${noteLabel(note, settings.middleC)}`, () => next)
}
</script>

<template>
  <div class="ruler" role="group" aria-label="Notes of the kit">
    <span class="figure quiet count" :title="`${taken} of 128 notes used`">{{ taken }}/128</span>
    <div class="notes">
      <Deferred>
        <button
          v-for="{ note, pads, isOut, isHere, isRoot, says } in notes"
          :key="note"
          v-memo="[says, isHere]"
          type="button"
          tabindex="-1"
          class="note"
          :class="{ taken: pads.length > 0, twice: pads.length > 1, out: isOut, here: isHere, root: isRoot, octave: note % 12 === 0 }"
          :title="says"
          :aria-label="says"
          @click="go(note)"
        />
      </Deferred>
    </div>
    <el-button size="small" @click="toNextFree">
      Next free note
    </el-button>
    <el-tooltip :content="roomSays" :trigger="['hover', 'focus']" placement="bottom">
      <el-button size="small" @click="makeRoom">
        Insert free notes
      </el-button>
    </el-tooltip>
    <el-input-number v-model="room" :min="1" :max="64" size="small" :controls="false" aria-label="Notes to insert" />
  </div>
</template>

<style scoped>
.ruler { display: flex; align-items: center; gap: 6px; padding: 3px 12px; border-bottom: 1px solid var(--rule); font-size: 12px; }
.notes { display: flex; flex: 1; min-width: 0; height: 20px; border-bottom: 1px solid var(--rule); }
.note { flex: 1; min-width: 0; padding: 0; border: 0; border-left: 1px solid transparent; background: linear-gradient(var(--rule), var(--rule)) center bottom / 1px 4px no-repeat; cursor: pointer; }
.note.octave { border-left-color: var(--rule); }
.note.taken { background: color-mix(in srgb, var(--ink) 60%, var(--sheet)); }
.note.twice { background: var(--look); }
/* Where a range sounds at its own pitch. */
.note.root { border-bottom: 3px solid var(--accent); }
.note.out { opacity: 0.45; }
.note.here { box-shadow: inset 0 0 0 2px var(--accent); }
.note.here.taken { background: var(--accent); }
.ruler :deep(.el-input-number) { width: 40px; }
.ruler :deep(.el-button) { margin-left: 0; padding: 5px 7px; }
</style>
