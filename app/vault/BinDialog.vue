<script setup lang="ts">
import { counted, moment } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import { useVault } from './vault'

/** Deleted presets, until the bin is emptied. */
const open = defineModel<boolean>({ required: true })
const vault = useVault()

async function restore(entry: string): Promise<void> {
  const name = await saying(() => vault.restore(entry))
  if (name) say(`"${name}" was restored to the vault.`)
}

async function empty(): Promise<void> {
  const count = vault.bin.length
  const sure = await ElMessageBox.confirm('Their samples are deleted with them. This cannot be undone.', `Delete ${counted(count, 'preset')} for good?`, {
    confirmButtonText: `Delete ${counted(count, 'preset')} for good`, cancelButtonText: 'Cancel', confirmButtonClass: 'el-button--danger',
  }).catch(() => undefined)
  if (!sure) return
  const deleted = await saying(vault.emptyBin)
  if (deleted !== undefined) say(`${counted(deleted, 'preset')} deleted.`)
}
</script>

<template>
  <el-dialog v-model="open" title="Bin" width="560" append-to-body>
    <p v-if="vault.bin.length === 0" class="quiet">
      The bin is empty.
    </p>
    <div v-for="one in vault.bin" :key="one.entry" class="entry">
      <span class="what"><strong class="cut">{{ one.name }}</strong><span class="quiet">{{ counted(one.revisions, 'revision') }} · deleted {{ moment(one.deletedAt) }}</span></span>
      <el-button size="small" @click="restore(one.entry)">
        Restore
      </el-button>
    </div>
    <template #footer>
      <el-button type="danger" :disabled="vault.bin.length === 0" @click="empty">
        Empty the bin…
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.entry { display: flex; align-items: center; gap: 8px; padding: 6px 0; border-bottom: 1px solid var(--rule); }
.what { flex: 1; display: flex; flex-direction: column; min-width: 0; }
</style>
