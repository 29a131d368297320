import { demoRoutes, type DemoRemoved } from '~~/contract/sources'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api } from '../../parts/useApi'
import { onReconnected, onServerEvent } from '../../parts/useServerEvents'
import { useJobs } from '../../parts/jobs'
import { newest } from '../../parts/newest'

/** The demo's sounds and kits: made on the spot, and taken away in one step. */
export const useDemo = defineStore('demo', () => {
  const jobs = useJobs()
  const sources = ref(0)
  const isHere = computed(() => sources.value > 0)
  const isBeingMade = computed(() => jobs.active.some(job => job.kind === 'demo'))

  const load = newest(() => api(demoRoutes.state).catch(() => ({ sources: sources.value })), found => sources.value = found.sources)
  onServerEvent((event) => {
    if (event.type === 'library') void load()
  })
  onReconnected(() => void load())

  async function add(): Promise<void> {
    await api(demoRoutes.add)
  }

  async function remove(): Promise<DemoRemoved> {
    const removed = await api(demoRoutes.remove)
    await load()
    return removed
  }

  return { isHere, isBeingMade, load, add, remove }
})
