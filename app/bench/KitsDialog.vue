<script setup lang="ts">
import { holdsWords } from '~~/core/search/holdsWords'
import { counted, moment, whole } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { useKit } from './kit'

/** Open kits: every one that was begun and not put away. */
const open = defineModel<boolean>({ required: true })

const kit = useKit()
const kits = shallowRef<Awaited<ReturnType<typeof kit.list>>>([])

async function load(): Promise<void> {
  await kit.settled()
  kits.value = await saying(kit.list) ?? []
}

const words = ref('')
const MOST_SHOWN = 100
const found = computed(() => kits.value.filter(one => holdsWords(one.name, words.value)))

watch(open, isOpen => isOpen && void load(), { immediate: true })

async function choose(id: string): Promise<void> {
  await saying(() => kit.open(id))
  open.value = false
}

async function remove(id: string, name: string): Promise<void> {
  const sure = await ElMessageBox.confirm('Presets stored from it stay in the vault.', `Delete "${name}"?`, { confirmButtonText: 'Delete this kit', cancelButtonText: 'Cancel' }).catch(() => undefined)
  if (!sure) return
  await saying(() => kit.remove(id))
  await load()
}
</script>

<template>
  <el-dialog v-model="open" title="Open kits" width="560" append-to-body>
    <el-input v-if="kits.length > 8" v-model="words" clearable placeholder="Words of the name" aria-label="Find open kits" />
    <div v-for="one in found.slice(0, MOST_SHOWN)" :key="one.id" class="kit">
      <button type="button" class="choose" @click="choose(one.id)">
        <strong class="cut">{{ one.label }}</strong><span class="quiet">{{ counted(one.pads, 'pad') }} · {{ moment(one.updatedAt) }}<template v-if="one.id === kit.id"> · current</template></span>
      </button>
      <el-button size="small" :aria-label="`Delete ${one.label}`" @click="remove(one.id, one.label)">
        Delete…
      </el-button>
    </div>
    <p v-if="found.length > MOST_SHOWN || found.length < kits.length" class="quiet">
      {{ whole(Math.min(found.length, MOST_SHOWN)) }} of {{ counted(kits.length, 'open kit') }} shown, most recently edited first.
    </p>
  </el-dialog>
</template>

<style scoped>
.kit { display: flex; align-items: center; gap: 8px; border-bottom: 1px solid var(--rule); }
.choose { flex: 1; display: flex; flex-direction: column; min-width: 0; padding: 6px 4px; border: 0; background: none; color: inherit; font: inherit; text-align: left; cursor: pointer; }
.choose:hover { background: var(--chosen); }
</style>
