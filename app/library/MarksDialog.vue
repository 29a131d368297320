<script setup lang="ts">
import { soundRoutes, type SoundRow } from '~~/contract/library'
import { api } from '../parts/useApi'
import { counted } from '../parts/useFormat'
import { useMarks, type MarkWish } from './useMarks'
import { useLibrary } from './library'

/** Sets kind, tags, favourite and note of the chosen sounds by hand. What is left as it is stays as it is for each of them. */
const open = defineModel<boolean>({ required: true })
const { ids, single } = defineProps<{ ids: readonly number[], single: SoundRow | undefined }>()

const AS_IS = 'as-is'
const WITNESSES = 'witnesses'
const kindChoices = [{ value: AS_IS, label: 'No change' }, { value: WITNESSES, label: 'Automatic' }]

const library = useLibrary()
const marks = useMarks()
const kind = ref(AS_IS)
const addTags = ref<string[]>([])
const removeTags = ref<string[]>([])
const favourite = ref<'as-is' | 'yes' | 'no'>('as-is')
const note = ref('')
const noteWas = ref('')
const isBusy = ref(false)

/** The tags that could be taken away: of one sound its own, of many all that the list bears. */
const worn = computed(() => [...single ? single.tags : library.facets?.tags.map(tag => tag.name) ?? []].sort())
const isChanged = computed(() => kind.value !== AS_IS || addTags.value.length > 0 || removeTags.value.length > 0 || favourite.value !== 'as-is' || note.value !== noteWas.value)

watch(open, async (isOpen) => {
  if (!isOpen) return
  kind.value = AS_IS
  addTags.value = []
  removeTags.value = []
  favourite.value = 'as-is'
  note.value = noteWas.value = ''
  if (!single) return
  const detail = await api(soundRoutes.read, { params: { hash: single.hash } }).catch(() => undefined)
  if (detail && detail.hash === single?.hash && note.value === '') note.value = noteWas.value = detail.hand.note
}, { immediate: true })

async function set(): Promise<void> {
  if (!isChanged.value || isBusy.value) return
  isBusy.value = true
  const wish: MarkWish = {
    ...(kind.value === AS_IS ? {} : { kind: kind.value === WITNESSES ? null : kind.value }),
    addTags: addTags.value,
    removeTags: removeTags.value,
    ...(favourite.value === 'as-is' ? {} : { favourite: favourite.value === 'yes' }),
    ...(note.value === noteWas.value ? {} : { note: note.value }),
  }
  if (await marks.set(ids, wish)) open.value = false
  isBusy.value = false
}
</script>

<template>
  <el-dialog v-model="open" :title="single ? `Edit details: ${single.name}` : `Edit details: ${counted(ids.length, 'sound')}`" width="520" append-to-body>
    <el-form label-position="top" @submit.prevent="set">
      <el-form-item label="Kind">
        <KindSelect v-model="kind" label="Kind by hand" :others="kindChoices" />
      </el-form-item>
      <el-form-item label="Add tags">
        <TagSelect v-model="addTags" label="Tags to add" placeholder="Type a tag and press Enter" />
      </el-form-item>
      <el-form-item v-if="worn.length > 0" label="Remove tags">
        <el-select-v2 v-model="removeTags" :options="worn.map(tag => ({ value: tag, label: tag }))" multiple filterable aria-label="Tags to remove" placeholder="None" />
      </el-form-item>
      <el-form-item label="Favourite">
        <el-radio-group v-model="favourite">
          <el-radio value="as-is">As it is</el-radio>
          <el-radio value="yes">Yes</el-radio>
          <el-radio value="no">No</el-radio>
        </el-radio-group>
      </el-form-item>
      <el-form-item :label="single ? 'Note' : 'Note, replacing existing notes'">
        <el-input v-model="note" type="textarea" :rows="2" maxlength="4000" aria-label="Note" />
      </el-form-item>
    </el-form>
    <p class="quiet">
      Details set here survive every scan and move with the sound. Ctrl+Z undoes them.
    </p>
    <template #footer>
      <el-button @click="open = false">
        Cancel
      </el-button>
      <el-button type="primary" :disabled="!isChanged" :loading="isBusy" @click="set">
        Set for {{ counted(ids.length, 'sound') }}
      </el-button>
    </template>
  </el-dialog>
</template>
