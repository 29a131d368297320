<script setup lang="ts">
import { BAKED, type Baked } from '~~/core/fit/units'
import { emptyWords, loweredWords, shortfallWords } from '~~/core/fit/words'
import { padLabel } from '~~/core/kit/padLabel'
import { useFit } from './fit'

/** What the target has no words for, pad by pad, before anything is written. */
const fit = useFit()
const warnings = computed(() => fit.plan?.warnings ?? [])
const baked = computed(() => {
  const pads = fit.plan?.pads ?? []
  const of = (what: Baked | 'pan') => pads.filter(pad => what === 'pan' ? pad.bakesPan : pad.baked.has(what)).map(pad => padLabel(pad.padIndex))
  return [...BAKED, 'pan' as const].map(what => ({ what, pads: of(what) })).filter(({ pads: some }) => some.length > 0)
})
</script>

<template>
  <div class="report">
    <template v-if="fit.plan">
      <p v-for="shortfall in fit.plan.shortfalls" :key="shortfall.meter" class="lost">
        {{ shortfallWords(shortfall, fit.target) }}
      </p>
      <p>{{ emptyWords(fit.target, fit.plan.after) }}</p>
      <p v-if="fit.plan.loweredDb < -0.005" class="look">
        {{ loweredWords(fit.plan.loweredDb) }}
      </p>
      <h2>Not supported by {{ fit.target.name }}</h2>
      <p v-if="warnings.length === 0" class="quiet">
        Nothing else is lost.
      </p>
      <ul>
        <li v-for="one in warnings" :key="`${one.padIndex} ${one.feature}`">
          <strong v-if="one.padIndex !== null" class="figure">{{ padLabel(one.padIndex) }}</strong> {{ one.what }}
        </li>
      </ul>
      <template v-if="baked.length > 0">
        <h2>Rendered into the samples</h2>
        <ul>
          <li v-for="{ what, pads } in baked" :key="what">
            {{ what }} of <span class="figure wraps">{{ pads.join(', ') }}</span>
          </li>
        </ul>
      </template>
    </template>
  </div>
</template>

<style scoped>
.report { padding: 8px 12px; overflow-y: auto; font-size: 12px; }
.report p { margin: 4px 0; }
h2 { margin-top: 10px; }
ul { margin: 4px 0; padding-left: 16px; }
.wraps { white-space: normal; }
</style>
