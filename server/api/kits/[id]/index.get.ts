import { kitRoutes } from '../../../../contract/kits'
import { soundsOf } from '../../../../core/kit/document'
import { readKit } from '../../../kits/drafts'
import { expectSounds } from '../../../library/locate'
import { route } from '../../../studio/route'

export default route(kitRoutes.read, async ({ db }, { params }) => {
  const view = await readKit(db, params.id)
  await expectSounds(db, soundsOf(view.kit).map(sound => sound.id))
  return view
})
