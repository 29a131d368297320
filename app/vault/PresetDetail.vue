<script setup lang="ts">
import { vaultRoutes, type PresetDetail, type PresetView } from '~~/contract/vault'
import { padLabel } from '~~/core/kit/padLabel'
import { noteLabel } from '~~/core/audio/notes'
import { api } from '../parts/useApi'
import { counted, megabytes, moment } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { useSettings } from '../parts/settings'

/** What a preset holds, by revision. */
const props = defineProps<{ preset: PresetView, vaultPath: string }>()
const emit = defineEmits<{ open: [revision: number] }>()

const settings = useSettings()
const number = ref(props.preset.revision)
const detail = shallowRef<PresetDetail>()

watch(() => [props.preset.id, props.preset.revision], () => {
  number.value = props.preset.revision
}, { immediate: true })

watch(() => [props.preset.id, number.value], async () => {
  const asked = `${props.preset.id} ${number.value}`
  const found = await saying(() => api(vaultRoutes.read, { params: { id: props.preset.id }, query: { revision: number.value } }))
  if (found && asked === `${props.preset.id} ${number.value}`) detail.value = found
}, { immediate: true })

const pads = computed(() => detail.value?.revision.file?.kit.pads.flatMap((pad, index) => pad.layers.length > 0 ? [{ pad, index }] : []) ?? [])
</script>

<template>
  <section class="detail" aria-label="Current preset">
    <h2 class="cut" :title="preset.name">
      {{ preset.name }}
    </h2>
    <p v-if="detail?.revision.problem" class="lost" role="alert">
      {{ detail.revision.problem }}
    </p>
    <div v-if="detail" class="line">
      <el-select v-model="number" size="small" aria-label="Revision" class="revision">
        <el-option v-for="one in detail.numbers.toReversed()" :key="one" :value="one" :label="`Revision ${one}`" />
      </el-select>
      <el-button size="small" :disabled="!detail.revision.file" @click="emit('open', number)">
        Open revision {{ number }}
      </el-button>
    </div>
    <p v-if="detail" class="quiet">
      Stored {{ moment(detail.revision.storedAt) }} · {{ counted(detail.revision.pads, 'pad') }} · {{ counted(detail.revision.samples, 'sample') }} · {{ megabytes(detail.revision.bytes) }}
    </p>
    <p class="quiet path">
      {{ vaultPath }}/{{ preset.folder }}/revision-{{ number }}
    </p>
    <Deferred>
      <table class="pads">
        <tbody>
          <tr v-for="{ pad, index } in pads" :key="index">
            <td class="figure">
              {{ padLabel(index) }}
            </td><td class="figure quiet">
              {{ noteLabel(pad.note, settings.middleC) }}
            </td><td><KindStamp :kind="pad.role" /></td><td class="cut name">
              {{ pad.name }}
            </td>
          </tr>
        </tbody>
      </table>
    </Deferred>
  </section>
</template>

<style scoped>
.detail { width: 320px; flex: none; padding: 10px 12px; border-left: 1px solid var(--rule); overflow-y: auto; }
.detail p { margin: 6px 0; }
.line { display: flex; gap: 8px; margin-top: 8px; }
.revision { width: 120px; }
.path { font-size: 12px; overflow-wrap: anywhere; }
.pads { width: 100%; border-collapse: collapse; table-layout: fixed; }
.pads td { height: 24px; padding: 0 4px 0 0; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.pads td:nth-child(1) { width: 32px; } .pads td:nth-child(2) { width: 66px; } .pads td:nth-child(3) { width: 22px; }
</style>
