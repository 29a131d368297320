import { soundRoutes } from '~~/contract/library'
import { useKit } from './kit'
import { useLibrary } from '../library'
import { api } from '../parts/useApi'
import { say, saying } from '../parts/useSay'
import { NO_SOUND_ON_PAD } from '~~/core/kit/words'

/** Goes to the Library for sounds that are like the one on the current pad. */
export function usePadLikes(): () => Promise<void> {
  const kit = useKit()
  const library = useLibrary()
  return async () => {
    const sound = kit.pad.layers[0]?.sound
    if (!sound) return say(NO_SOUND_ON_PAD)
    const detail = await saying(() => api(soundRoutes.read, { params: { hash: sound.id } }))
    if (!detail) return
    library.clearFilters()
    library.setCondition('like', `like=${detail.id}`)
    await navigateTo('/library')
  }
}
