<script setup lang="ts">
import type { Target } from '~~/core/fit/target'
import { METERS, roomOf, type Meter, type Usage } from '~~/core/fit/usage'
import { meterWords, METER_NAMES } from '~~/core/fit/words'

/** What a kit takes of a target: used, free or over, as it is and as it would become. */
const props = defineProps<{ target: Target, before: Usage, after?: Usage, isCompact?: boolean }>()

/** Seconds and bytes are shown even where there is no end of them. */
const ALWAYS: readonly Meter[] = ['seconds', 'bytes']

const meters = computed(() => {
  const room = roomOf(props.target)
  return METERS.filter(meter => room[meter] !== null || ALWAYS.includes(meter)).filter(meter => !props.isCompact || meter !== 'notes').map((meter) => {
    const most = room[meter]
    const [before, after] = [props.before[meter], (props.after ?? props.before)[meter]]
    const say = (value: number) => meterWords(meter, value, props.target)
    const scale = most === null ? Math.max(before, after, 1e-9) : Math.max(most, before)
    return {
      meter, name: METER_NAMES[meter], used: say(after), room: most === null ? null : say(most),
      left: most === null ? '' : after > most ? `${say(after - most)} over` : `${say(most - after)} free`,
      isOver: most !== null && after > most * (1 + 1e-9),
      wasOver: most !== null && before > most * (1 + 1e-9),
      before: say(before), isChanged: say(before) !== say(after),
      usedPart: Math.min(100, after / scale * 100), beforePart: Math.min(100, before / scale * 100), roomPart: most === null ? 100 : most / scale * 100,
    }
  })
})
</script>

<template>
  <dl class="meters" :class="{ compact: isCompact }" :aria-label="`What the kit takes of ${target.name}`">
    <div v-for="meter in meters" :key="meter.meter" class="meter" :class="{ over: meter.isOver }">
      <dt>{{ meter.name }}</dt>
      <dd>
        <span class="track" aria-hidden="true">
          <span class="room" :style="{ width: `${meter.roomPart}%` }" />
          <span v-if="meter.isChanged" class="was" :class="{ beyond: meter.wasOver }" :style="{ width: `${meter.beforePart}%` }" />
          <span class="used" :style="{ width: `${meter.usedPart}%` }" />
        </span>
        <span class="figure">{{ meter.used }}<template v-if="meter.room !== null"> of {{ meter.room }}</template></span>
        <span class="figure rest"><span :class="meter.isOver ? 'lost' : 'quiet'">{{ meter.left }}</span><span v-if="meter.isChanged && !isCompact" class="quiet">{{ meter.left ? ' · ' : '' }}was {{ meter.before }}</span></span>
      </dd>
    </div>
  </dl>
</template>

<style scoped>
.meters { display: grid; grid-template-columns: repeat(auto-fit, minmax(130px, 1fr)); gap: 0; margin: 0; border-bottom: 1px solid var(--rule); background: var(--sheet); }
.meter { min-width: 0; overflow: hidden; padding: 5px 12px 6px; border-right: 1px solid var(--rule); }
dt { font-size: 12px; font-weight: 600; }
dd { display: flex; flex-wrap: wrap; gap: 0 8px; margin: 0; }
.rest { font-size: 11px; white-space: normal; }
.meters:not(.compact) .figure { flex: 1 0 100%; }
.track { position: relative; flex: 1 0 100%; height: 7px; margin: 2px 0 3px; background: color-mix(in srgb, var(--lost) 14%, transparent); }
.track > span { position: absolute; top: 0; bottom: 0; left: 0; }
.room { background: var(--chosen); }
.was { border: 1px solid var(--quiet); }
.was.beyond { border-color: var(--lost); }
.used { background: var(--accent); }
.over .used { background: var(--lost); }
.compact { display: flex; flex-wrap: wrap; }
.compact .meter { display: flex; flex: 0 1 auto; align-items: center; gap: 6px; padding: 2px 10px; }
.compact dd { align-items: center; }
.compact .track { flex: 0 0 54px; margin: 0; }
</style>
