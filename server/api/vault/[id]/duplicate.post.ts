import { z } from 'zod'
import { EmporionError } from '../../../../core/errors'
import { createKit } from '../../../kits/drafts'
import { presetRevision } from '../../../vault/presets'
import { body, param, route } from '../../../studio/route'

/** Stores the latest revision once more under another name. */
export default route(async ({ db, config, jobs }, event) => {
  const { name } = await body(event, z.object({ name: z.string().trim().min(1).max(120) }))
  const { preset, revision } = await presetRevision(db, config.vaultDir, param(event, 'id', z.string()))
  if (!revision.file) throw new EmporionError('unreadable', { what: `"${preset.name}" cannot be duplicated: ${revision.problem}`, kept: 'Its files are unharmed.' })
  const draft = await createKit(db, { ...revision.file.kit, name })
  return jobs.add({ kind: 'store', kitId: draft.id, kit: draft.kit, name, presetId: null, title: `Duplicate ${preset.name}` })
})
