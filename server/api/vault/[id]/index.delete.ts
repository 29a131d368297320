import { deletePreset } from '../../../vault/presets'
import { nameSchema, param, route } from '../../../studio/route'

export default route(async ({ db, config, events }, event) => {
  await deletePreset(db, config.vaultDir, param(event, 'id', nameSchema))
  events.send({ type: 'vault' })
  return { deleted: true }
})
