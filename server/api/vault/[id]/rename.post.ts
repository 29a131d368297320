import { z } from 'zod'
import { NAME_LENGTHS } from '../../../../core/nameLengths'
import { syncVault } from '../../../vault/index'
import { renamePreset } from '../../../vault/presets'
import { body, nameSchema, param, route } from '../../../studio/route'

export default route(async ({ db, config, events }, event) => {
  const { name } = await body(event, z.object({ name: z.string().trim().min(1).max(NAME_LENGTHS.preset) }))
  await renamePreset(db, config.vaultDir, param(event, 'id', nameSchema), name)
  await syncVault(db, config.vaultDir)
  events.send({ type: 'vault' })
  return { name }
})
