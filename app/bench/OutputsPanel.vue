<script setup lang="ts">
import { MOST_OUTPUTS } from '~~/core/kit/document'
import { setPads } from '~~/core/kit/edits'
import { addOutput, outputsByKind, removeOutput, renameOutput } from '~~/core/kit/outputs'
import { padLabel } from '~~/core/kit/padLabel'
import { counted } from '../parts/useFormat'
import { useKit } from './kit'

/** The kit's outputs: their names, the pads that go to each, and one output a kind in one step. */
const kit = useKit()

const lines = computed(() => kit.kit.outputs.map((output, i) => ({
  ...output, i, pads: kit.kit.pads.flatMap((pad, index) => pad.output === output.id && pad.layers.length > 0 ? [index] : []),
})))

function send(id: string, name: string): void {
  kit.edit(`Send ${counted(kit.editedPads.length, 'pad')} to ${name}`, state => setPads(state, kit.editedPads, { output: id }))
}

function hear(pads: readonly number[]): void {
  const on = pads.length > 0 && pads.every(index => kit.kit.pads[index]!.soloed)
  kit.edit(on ? 'End solos' : 'Solo an output', (state) => {
    const silent = setPads(state, state.pads.map((_, index) => index), { soloed: false })
    return on ? silent : setPads(silent, pads, { soloed: true })
  })
}
</script>

<template>
  <div class="outputs">
    <div class="tools">
      <el-button size="small" :disabled="kit.kit.outputs.length >= MOST_OUTPUTS" @click="kit.edit('Add an output', state => addOutput(state, 'Output'))">
        Add an output
      </el-button>
      <el-button size="small" :disabled="kit.filledPads === 0" @click="kit.edit('An output for each kind', outputsByKind)">
        One output for each kind
      </el-button>
      <span class="quiet">{{ kit.kit.outputs.length }} of {{ MOST_OUTPUTS }} stereo outputs</span>
    </div>
    <div class="table" role="list" aria-label="Outputs of the kit">
      <div v-for="{ id, name, i, pads } in lines" :key="id" class="line" role="listitem">
        <span class="figure quiet">{{ i + 1 }}</span>
        <el-input size="small" :model-value="name" maxlength="70" :aria-label="`Name of output ${i + 1}`" @change="kit.edit('Name of an output', state => renameOutput(state, id, String($event)))" />
        <span class="cut quiet figure" :title="pads.map(padLabel).join(', ')">{{ pads.length === 0 ? 'no pads' : `${counted(pads.length, 'pad')}: ${pads.map(padLabel).join(', ')}` }}</span>
        <el-button size="small" @click="send(id, name)">
          Send {{ counted(kit.editedPads.length, 'pad') }} here
        </el-button>
        <el-button size="small" :disabled="pads.length === 0" @click="hear(pads)">
          {{ pads.length > 0 && pads.every(index => kit.kit.pads[index]!.soloed) ? 'End solos' : 'Solo' }}
        </el-button>
        <el-button size="small" :disabled="i === 0" @click="kit.edit(`Take ${name} away`, state => removeOutput(state, id))">
          Remove
        </el-button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.outputs { display: flex; flex-direction: column; flex: 1; min-height: 0; }
.tools { display: flex; align-items: center; gap: 8px; padding: 5px 12px; font-size: 12px; }
.tools :deep(.el-button), .line :deep(.el-button) { margin-left: 0; }
.table { flex: 1; min-height: 0; overflow-y: auto; padding: 0 12px; }
.line { display: grid; grid-template-columns: 18px 150px minmax(60px, 1fr) auto auto auto; align-items: center; gap: 8px; min-height: 30px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); font-size: 12px; }
</style>
