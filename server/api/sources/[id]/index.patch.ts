import { sourceRoutes } from '../../../../contract/sources'
import { updateSource } from '../../../library/sources'
import { route } from '../../../studio/route'

/** Renames, relocates, pauses or resumes a source; the work that this leads to goes on as jobs. */
export default route(sourceRoutes.change, async ({ db, config, jobs, events, watch }, { params: { id }, body: patch }) => {
  const source = await updateSource(db, config, id, patch)
  events.send({ type: 'library' })
  if (patch.name !== undefined) await jobs.add({ kind: 'redraw', sourceId: id, folder: '', title: `Rename to ${source.name}` })
  if (patch.path !== undefined || patch.paused === false) await jobs.add({ kind: 'scan', sourceId: id, title: `Scan ${source.name}` })
  await watch.arm()
  return { id, name: source.name, path: source.path, paused: source.paused }
})
