<script setup lang="ts">
import type { Finding } from '~~/core/kit/diagnose'
import { useFindings } from './useFindings'
import { counted } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { useKit } from './kit'
import { useStandIns } from './standIns'

/** Why pads are silent or sound wrong, each with what mends it. */
const kit = useKit()
const standIns = useStandIns()
const findings = useFindings()
const mendable = computed(() => findings.value.filter(finding => finding.mend))

function mend(finding: Finding): void {
  if (finding.mend) kit.edit(finding.mend.label, finding.mend.edit)
}

/** One after the other, since a mend may mend more than one. */
function mendAll(): void {
  kit.edit(`Fix ${counted(mendable.value.length, 'finding')}`, (state) => {
    let now = state
    for (const { mend: one } of mendable.value) if (one) now = one.edit(now)
    return now
  })
}
</script>

<template>
  <div class="findings">
    <p v-if="findings.length === 0" class="quiet">
      Nothing found: every pad with a sound plays at every velocity.
    </p>
    <template v-else>
      <div class="tools">
        <el-button size="small" :disabled="mendable.length === 0" @click="mendAll">
          Fix all {{ mendable.length }}
        </el-button>
        <span class="quiet">One undo reverts them all.</span>
      </div>
      <ul>
        <li v-for="(finding, i) in findings" :key="i">
          <button type="button" class="what" @click="kit.select(finding.padIndex)">
            {{ finding.what }}
          </button>
          <el-button v-if="finding.mend" size="small" @click="mend(finding)">
            {{ finding.mend.label }}
          </el-button>
          <el-button v-else-if="finding.cause === 'missing sample'" size="small" @click="saying(standIns.open)">
            Replace sound…
          </el-button>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.findings { flex: 1; min-height: 0; overflow-y: auto; padding: 5px 12px; font-size: 12px; }
.tools { display: flex; align-items: center; gap: 8px; margin-bottom: 4px; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; align-items: center; justify-content: space-between; gap: 10px; min-height: 30px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.what { min-width: 0; padding: 0; border: 0; background: none; color: var(--ink); font: inherit; text-align: left; cursor: pointer; }
.what:hover { color: var(--accent); }
</style>
