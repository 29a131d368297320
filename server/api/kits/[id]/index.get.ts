import { z } from 'zod'
import { soundsOf } from '../../../../core/kit/document'
import { readKit } from '../../../kits/drafts'
import { expectSounds } from '../../../library/locate'
import { param, route } from '../../../studio/route'

export default route(async ({ db }, event) => {
  const view = await readKit(db, param(event, 'id', z.uuid()))
  await expectSounds(db, soundsOf(view.kit).map(sound => sound.id))
  return view
})
