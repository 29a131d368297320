<script setup lang="ts">
import { patternRoutes, type PatternRevision } from '~~/contract/patterns'
import type { Pattern } from '~~/core/groove/document'
import { moment } from '../parts/useFormat'
import { api } from '../parts/useApi'
import { say, saying } from '../parts/useSay'
import { useGrooves } from './grooves'
import { newest } from '../parts/newest'

/** Steps of the pattern, and the states of it that were kept. */
const grooves = useGrooves()
const kept = shallowRef<readonly PatternRevision[]>([])

const load = newest(async (id: string | undefined) => id ? await saying(() => api(patternRoutes.revisions, { params: { id } })) : [], found => kept.value = found ?? [])
watch(() => grooves.id, id => load(id), { immediate: true })

async function keep(): Promise<void> {
  const { id } = grooves
  if (!id) return
  await saying(async () => {
    await grooves.settled()
    await api(patternRoutes.keepRevision, { params: { id } })
    say('State saved.')
  })
  await load(id)
}

function goBack(number: number, pattern: Pattern): void {
  grooves.edit(`Back to the state of revision ${number}`, now => ({ ...pattern, name: now.name }))
}
</script>

<template>
  <StepList :steps="grooves.steps" label="Steps of this pattern, the latest first" @step="grooves.stepTo" />
  <div class="kept">
    <h3>Saved states</h3>
    <p v-for="one in kept" :key="one.number" class="one">
      <span class="figure">{{ one.number }}</span><span class="cut">{{ moment(one.savedAt) }}</span>
      <el-button size="small" @click="goBack(one.number, one.pattern)">
        Restore
      </el-button>
    </p>
    <p v-if="kept.length === 0" class="quiet">
      None yet. The state before a pause of ten minutes is saved automatically.
    </p>
    <el-button size="small" :disabled="grooves.isShipped" @click="keep">
      Save this state
    </el-button>
  </div>
</template>

<style scoped>
.kept { max-height: 40%; overflow-y: auto; padding: 6px 12px; border-top: 1px solid var(--rule); font-size: 12px; }
.one { display: grid; grid-template-columns: 36px minmax(0, 1fr) auto; gap: 6px; align-items: center; margin: 2px 0; }
p { margin: 2px 0; }
</style>
