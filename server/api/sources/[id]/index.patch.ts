import { z } from 'zod'
import { NAME_LENGTHS } from '../../../../core/nameLengths'
import { updateSource } from '../../../library/sources'
import { body, idSchema, param, route } from '../../../studio/route'

const patchSchema = z.object({
  name: z.string().trim().min(1).max(NAME_LENGTHS.source).optional(),
  path: z.string().min(1).max(4096).optional(),
  paused: z.boolean().optional(),
}).refine(patch => Object.values(patch).some(value => value !== undefined), 'Nothing to change was given.')

/** Renames, relocates, pauses or resumes a source; the work that this leads to goes on as jobs. */
export default route(async ({ db, config, jobs, events, watch }, event) => {
  const id = param(event, 'id', idSchema)
  const patch = await body(event, patchSchema)
  const source = await updateSource(db, config, id, patch)
  events.send({ type: 'library' })
  if (patch.name !== undefined) await jobs.add({ kind: 'redraw', sourceId: id, folder: '', title: `Rename to ${source.name}` })
  if (patch.path !== undefined || patch.paused === false) await jobs.add({ kind: 'scan', sourceId: id, title: `Scan ${source.name}` })
  await watch.arm()
  return { id, name: source.name, path: source.path, paused: source.paused }
})
