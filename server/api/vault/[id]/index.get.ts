import { z } from 'zod'
import { presetRevision } from '../../../vault/presets'
import { idSchema, nameSchema, param, query, route } from '../../../studio/route'

export default route(async ({ db, config }, event) => {
  const { revision: number } = query(event, z.object({ revision: idSchema.optional() }))
  const { preset, revision, numbers } = await presetRevision(db, config.vaultDir, param(event, 'id', nameSchema), number)
  return { id: preset.id, name: preset.name, folder: preset.folder, numbers, revision }
})
