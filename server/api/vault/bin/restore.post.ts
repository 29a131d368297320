import { z } from 'zod'
import { body, route } from '../../../studio/route'
import { syncVault } from '../../../vault/index'
import { restorePreset } from '../../../vault/presets'

export default route(async ({ db, config, events }, event) => {
  const { entry } = await body(event, z.object({ entry: z.string().min(1).max(255) }))
  const name = await restorePreset(db, config.vaultDir, entry)
  await syncVault(db, config.vaultDir)
  events.send({ type: 'vault' })
  return { name }
})
