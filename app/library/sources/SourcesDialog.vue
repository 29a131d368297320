<script setup lang="ts">
import { sourceRoutes, type SourceView } from '~~/contract/sources'
import { api } from '../../parts/useApi'
import { askName } from '../../parts/useAskName'
import { counted, megabytes, moment, whole } from '../../parts/useFormat'
import { say, saying } from '../../parts/useSay'
import { useDemo } from './demo'
import { useLibrary } from '../library'

/** What was brought in: each source with its figures and what can be done with it, the library by kind and length, and what lies in it twice. */
const open = defineModel<boolean>({ required: true })

const library = useLibrary()
const tab = ref('sources')
const shownId = ref<number>()
const shown = computed(() => library.sources.find(source => source.id === shownId.value) ?? library.sources.find(source => source.unreadable + source.missing > 0) ?? library.sources[0])
const relocating = ref<SourceView>()
const removing = ref<SourceView>()

watch(open, isOpen => isOpen && void saying(library.loadSources), { immediate: true })

async function scan(source: SourceView): Promise<void> {
  await saying(() => api(sourceRoutes.scan, { params: { id: source.id } }))
}

async function change(source: SourceView, patch: { name?: string, paused?: boolean }, message: string): Promise<void> {
  await saying(async () => {
    await api(sourceRoutes.change, { params: { id: source.id }, body: patch })
    await library.loadSources()
    say(message)
  })
}

async function rename(source: SourceView): Promise<void> {
  const name = await askName({ title: `Rename "${source.name}"`, text: 'The folder on the disk keeps its own name.', value: source.name, does: 'Rename the source', of: 'source' })
  if (name && name !== source.name) await change(source, { name }, `The source was renamed to "${name}".`)
}

function act(source: SourceView, what: string | number | object): void {
  shownId.value = source.id
  if (what === 'rename') void rename(source)
  else if (what === 'relocate') relocating.value = source
  else if (what === 'pause') void change(source, { paused: !source.paused }, source.paused ? `"${source.name}" is watched again.` : `"${source.name}" is paused: changes are not read.`)
  else if (what === 'remove') removing.value = source
}

const demo = useDemo()
watch(open, isOpen => isOpen && void demo.load(), { immediate: true })

async function removeDemo(): Promise<void> {
  const sure = await ElMessageBox.confirm('Its sources leave the library, and the sounds that were made for it are deleted. Its kits go to the bin of the vault; those you stored again stay.', 'Remove the demo?', { confirmButtonText: 'Remove the demo', cancelButtonText: 'Cancel' }).then(() => true, () => false)
  const removed = sure ? await saying(demo.remove) : undefined
  if (removed) say(`${counted(removed.sources, 'source')} removed, ${counted(removed.presets, 'preset')} moved to the bin.`)
}
</script>

<template>
  <el-dialog v-model="open" title="Sources" width="1060" top="4vh" append-to-body>
    <!-- The lines of the page lie behind this dialog. -->
    <JobLines />
    <el-tabs v-model="tab" class="tabs">
      <el-tab-pane label="What was brought in" name="sources">
        <p v-if="library.sources.length === 0" class="quiet">
          Nothing has been brought in yet.
        </p>
        <template v-else>
          <p v-if="demo.isHere" class="demo">
            <span>The demo's sounds and kits are here.</span>
            <el-button size="small" :disabled="demo.isBeingMade" @click="removeDemo">
              Remove the demo…
            </el-button>
          </p>
          <div class="list">
            <table class="sources">
              <thead>
                <tr><th>Source</th><th class="right">Files</th><th class="right">Size</th><th class="right">Not read</th><th class="right">Missing</th><th>Last scan</th><th /></tr>
              </thead>
              <tbody>
                <tr v-for="source in library.sources" :key="source.id" :class="{ 'at-hand': source.id === shown?.id }" @click="shownId = source.id">
                  <td class="name">
                    <a href="#" class="cut pick" :aria-current="source.id === shown?.id" @click.prevent="shownId = source.id"><strong>{{ source.name }}</strong></a><span v-if="source.paused" class="look"> · paused</span>
                    <div class="quiet cut" :title="source.path">
                      {{ source.path }}
                    </div>
                    <div v-if="source.overlaps.length > 0" class="quiet cut">
                      shares folders with {{ source.overlaps.join(', ') }}: each sound counts once
                    </div>
                  </td>
                  <td class="figure right">
                    {{ whole(source.files) }}
                  </td>
                  <td class="figure right">
                    {{ megabytes(source.bytes) }}
                  </td>
                  <td class="figure right" :class="{ lost: source.unreadable > 0 }">
                    {{ whole(source.unreadable) }}
                  </td>
                  <td class="figure right" :class="{ look: source.missing > 0 }">
                    {{ whole(source.missing) }}
                  </td>
                  <td class="quiet">
                    {{ source.lastScanAt ? moment(source.lastScanAt) : 'not finished' }}<div v-if="source.otherFiles > 0">
                      {{ counted(source.otherFiles, 'other file') }} left out
                    </div>
                  </td>
                  <td class="right acts">
                    <el-button size="small" @click.stop="scan(source)">
                      Scan again
                    </el-button>
                    <el-dropdown trigger="click" :persistent="false" @command="(what: string | number | object) => act(source, what)">
                      <el-button size="small" :aria-label="`More for ${source.name}`" @click.stop>
                        More
                      </el-button>
                      <template #dropdown>
                        <el-dropdown-menu>
                          <el-dropdown-item command="rename">
                            Rename…
                          </el-dropdown-item>
                          <el-dropdown-item command="relocate">
                            Point to another folder…
                          </el-dropdown-item>
                          <el-dropdown-item command="pause">
                            {{ source.paused ? 'Watch it again' : 'Pause' }}
                          </el-dropdown-item>
                          <el-dropdown-item command="remove">
                            Remove…
                          </el-dropdown-item>
                        </el-dropdown-menu>
                      </template>
                    </el-dropdown>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
          <Deferred>
            <SourceDetail v-if="shown" :key="shown.id" :source="shown" @shown="open = false" />
          </Deferred>
        </template>
      </el-tab-pane>
      <el-tab-pane label="By kind and length" name="kinds" lazy>
        <KindsChart v-if="tab === 'kinds'" />
      </el-tab-pane>
      <el-tab-pane label="Duplicates" name="duplicates" lazy>
        <DuplicatesPanel v-if="tab === 'duplicates'" @shown="open = false" />
      </el-tab-pane>
    </el-tabs>
    <RelocateDialog v-model="relocating" />
    <RemoveSourceDialog v-model="removing" />
  </el-dialog>
</template>

<style scoped>
.demo { display: flex; align-items: center; gap: 10px; margin: 0 0 6px; }
.tabs { height: 74vh; }
.tabs :deep(.el-tabs__content) { height: calc(74vh - 48px); overflow-y: auto; }
.list { max-height: 34vh; overflow-y: auto; }
.sources { width: 100%; border-collapse: collapse; table-layout: fixed; }
.sources th { text-align: left; font-weight: 400; font-size: 12px; color: var(--quiet); border-bottom: 1px solid var(--rule); padding: 4px 6px; }
.sources td { padding: 4px 6px; border-bottom: 1px solid var(--rule); vertical-align: top; }
.sources th:nth-child(n + 2) { width: 76px; } .sources th:nth-child(6) { width: 150px; } .sources th:nth-child(7) { width: 170px; }
.sources tr.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
.pick { color: var(--ink); text-decoration: none; }
.right { text-align: right !important; }
.acts { white-space: nowrap; }
.acts .el-dropdown { margin-left: 8px; vertical-align: middle; }
</style>
