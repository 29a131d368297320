import { z } from 'zod'
import { NAME_LENGTHS } from '../../../../core/nameLengths'
import { EmporionError } from '../../../../core/errors'
import { presetRevision } from '../../../vault/presets'
import { body, nameSchema, param, route } from '../../../studio/route'

/** Stores the latest revision once more under another name. */
export default route(async ({ db, config, jobs }, event) => {
  const { name } = await body(event, z.object({ name: z.string().trim().min(1).max(NAME_LENGTHS.preset) }))
  const { preset, revision } = await presetRevision(db, config.vaultDir, param(event, 'id', nameSchema))
  if (!revision.file) throw new EmporionError('unreadable', { what: `"${preset.name}" cannot be duplicated: ${revision.problem}`, kept: 'Its files are unharmed.' })
  return jobs.add({ kind: 'store', kitId: null, heard: 'all pads', type: revision.file.type, kit: { ...revision.file.kit, name }, name, presetId: null, pattern: revision.file.pattern, title: `Duplicate ${preset.name}` })
})
