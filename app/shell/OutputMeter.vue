<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { toDb } from '~~/core/audio/level'
import { METER_FRAMES, useOutput } from '../sound'
import { useFramesWhile } from '../parts/useFramesWhile'

const LOWEST_DB = -60
const FALL_DB_PER_SECOND = 36
const HOLD_MS = 1500
/** How often is looked whether silence has ended. */
const LISTEN_MS = 50
/** Looked at twice, since the clock and the samples are not read at one moment. */
const OVERLAP_FRAMES = 1024

const level = ref(LOWEST_DB)
const held = ref(LOWEST_DB)
const samples = new Float32Array(METER_FRAMES)
let heldSince = 0
let seenUntil = 0
let heard = 0

/** Notes the peak of what left Emporion since the last time. Where the page was held up, what came meanwhile counts too. */
function listen(): void {
  const { context, meter } = useOutput()
  if (context.state !== 'running') return
  meter.getFloatTimeDomainData(samples)
  const fresh = Math.ceil((context.currentTime - seenUntil) * context.sampleRate) + OVERLAP_FRAMES
  for (let i = Math.max(0, samples.length - fresh); i < samples.length; i++) heard = Math.max(heard, Math.abs(samples[i]!))
  seenUntil = context.currentTime
}

/** Shows the peak, and holds the highest for a while. */
const show = useFramesWhile((delta, timestamp) => {
  listen()
  const now = Math.max(LOWEST_DB, toDb(heard))
  heard = 0
  const shown = Math.max(now, level.value - FALL_DB_PER_SECOND * delta / 1000)
  if (Math.abs(shown - level.value) > 0.05) level.value = shown
  if (now >= held.value || timestamp - heldSince >= HOLD_MS) {
    if (now !== held.value) held.value = now
    heldSince = timestamp
  }
  return level.value > LOWEST_DB || held.value > LOWEST_DB
})

useIntervalFn(() => {
  listen()
  if (toDb(heard) > LOWEST_DB) show()
}, LISTEN_MS)

const part = (db: number) => Math.max(0, Math.min(1, (db - LOWEST_DB) / -LOWEST_DB))
</script>

<template>
  <div class="meter" role="meter" aria-label="Output level" :aria-valuenow="Math.round(level)" :aria-valuemin="LOWEST_DB" aria-valuemax="0">
    <div class="track"><div class="level" :class="{ over: level > -0.1 }" :style="{ transform: `scaleX(${part(level)})` }" /><div class="held" :style="{ transform: `translateX(${part(held) * 100}%)` }" /></div>
    <span class="figure quiet">{{ held > LOWEST_DB ? `${held.toFixed(1)} dBFS` : '-inf dBFS' }}</span>
  </div>
</template>

<style scoped>
.meter { width: 104px; text-align: right; }
.track { position: relative; height: 8px; overflow: hidden; background: var(--paper); border: 1px solid var(--rule); }
/* Moved on layers of their own: nothing else is laid out or painted again with each frame. */
.level, .held { will-change: transform; }
.level { height: 100%; background: var(--ink); transform-origin: left; }
.level.over { background: var(--lost); }
.held { position: absolute; inset: 0; border-left: 1px solid var(--accent); }
.figure { font-size: 11px; }
</style>
