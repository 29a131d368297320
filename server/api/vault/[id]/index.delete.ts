import { z } from 'zod'
import { deletePreset } from '../../../vault/presets'
import { param, route } from '../../../studio/route'

export default route(async ({ db, config, events }, event) => {
  await deletePreset(db, config.vaultDir, param(event, 'id', z.string()))
  events.send({ type: 'vault' })
  return { deleted: true }
})
