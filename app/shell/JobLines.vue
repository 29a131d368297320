<script setup lang="ts">
import type { JobView } from '~~/contract/jobs'
import { megabytes, timeLeft, whole } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { useJobs } from '../parts/jobs'

/** Long work under way: how far it is, how fast, how long still, and a way to stop it. */
const jobs = useJobs()

function figures(job: JobView): string {
  const progress = job.progress
  if (job.state === 'waiting') return 'waiting'
  if (!progress) return 'begins'
  const parts = [progress.total === null ? `${whole(progress.done)} ${progress.unit}` : `${whole(progress.done)} of ${whole(progress.total)} ${progress.unit}`]
  if (progress.bytes > 0) parts.push(megabytes(progress.bytes))
  if (progress.rate > 0) parts.push(`${whole(Math.round(progress.rate))} ${progress.unit}/s`)
  if (progress.secondsLeft !== null && progress.done > 0) parts.push(timeLeft(progress.secondsLeft))
  if (progress.problems > 0) parts.push(`${whole(progress.problems)} could not be read`)
  return parts.join(' · ')
}

/** For a screen reader: told at each quarter, not with every file. */
function heard(job: JobView): string {
  return job.progress?.total ? `${job.title}: ${Math.floor(part(job) / 25) * 25} %` : job.title
}

function part(job: JobView): number {
  const progress = job.progress
  return progress?.total ? Math.round(progress.done / progress.total * 100) : 0
}
</script>

<template>
  <div v-for="job in jobs.active" :key="job.id" class="job" role="group" :aria-label="job.title">
    <span class="visually-hidden" role="status">{{ heard(job) }}</span>
    <strong class="cut">{{ job.title }}</strong>
    <el-progress class="progress" :percentage="part(job)" :indeterminate="job.progress?.total === null" :stroke-width="6" :show-text="false" :aria-label="job.title" />
    <span class="figure">{{ figures(job) }}</span>
    <span class="quiet cut at">{{ job.progress?.at }}</span>
    <el-button size="small" @click="saying(() => jobs.cancel(job.id))">
      Cancel
    </el-button>
  </div>
</template>

<style scoped>
.job { display: flex; align-items: center; gap: 10px; height: 34px; padding: 0 12px; border-bottom: 1px solid var(--rule); background: var(--sheet); }
.progress { width: 140px; flex: none; }
.at { flex: 1; min-width: 0; font-size: 12px; direction: rtl; text-align: left; }
</style>
