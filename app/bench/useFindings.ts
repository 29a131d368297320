import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import { diagnose } from '~~/core/kit/diagnose'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'
import { useTargets } from '../fit'

/** What is wrong with the current kit, looked over once for all who show it. */
export const useFindings = createSharedComposable(() => {
  const kit = useKit()
  const settings = useSettings()
  const targets = useTargets()
  return computed(() => diagnose(kit.kit, {
    missing: new Set(kit.missingSounds.map(sound => sound.id)),
    limits: targets.limitsOf(kit.kit.target),
    middleC: settings.middleC,
  }))
})
