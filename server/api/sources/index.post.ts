import { z } from 'zod'
import { addArchive, addFolder } from '../../library/sources'
import { body, route } from '../../studio/route'

export default route(async ({ db, config, jobs }, event) => {
  const { path } = await body(event, z.object({ path: z.string().min(1).max(4096) }))
  const archive = await addArchive(db, config, path)
  if (archive && 'copy' in archive) return jobs.add({ kind: 'unpack', archive: archive.copy, name: archive.name, origin: archive.origin, title: `Unpack ${archive.name}` })
  if (archive) return jobs.add({ kind: 'scan', sourceId: archive.known.id, title: `Scan ${archive.known.name}` })
  const source = await addFolder(db, config, path)
  return jobs.add({ kind: 'scan', sourceId: source.id, title: `Bring in ${source.name}` })
})
