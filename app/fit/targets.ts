import { targetRoutes, type TargetView } from '~~/contract/fit'
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { SHIPPED_TARGETS } from '~~/core/fit/shipped'
import { limitsOf as limitsOfTarget, type Target } from '~~/core/fit/target'
import type { Limits } from '~~/core/kit/limits'
import { api } from '../parts/useApi'
import { newest } from '../parts/newest'

/** What kits can be fitted to: the targets that come with Emporion, and the user's own. */
export const useTargets = defineStore('targets', () => {
  const views = shallowRef<readonly TargetView[]>(SHIPPED_TARGETS.map(target => ({ target, isOwn: false })))
  const problems = shallowRef<readonly string[]>([])
  const all = computed(() => views.value.map(view => view.target))

  const load = newest(() => api(targetRoutes.list), (found) => {
    views.value = found.targets
    problems.value = found.problems
  })

  function byId(id: string | null): Target | undefined {
    return all.value.find(target => target.id === id)
  }

  function limitsOf(id: string | null): Limits | undefined {
    const target = byId(id)
    return target && limitsOfTarget(target)
  }

  async function save(target: Target): Promise<void> {
    await api(targetRoutes.save, { params: { id: target.id }, body: target })
    await load()
  }

  async function remove(id: string): Promise<void> {
    await api(targetRoutes.remove, { params: { id } })
    await load()
  }

  return { views, all, problems, load, byId, limitsOf, save, remove }
})
