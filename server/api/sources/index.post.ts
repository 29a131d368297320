import { sourceRoutes } from '../../../contract/sources'
import { addArchive, addFolder } from '../../library/sources'
import { route } from '../../studio/route'

export default route(sourceRoutes.add, async ({ db, config, jobs }, { body: { path } }) => {
  const archive = await addArchive(db, config, path)
  if (archive && 'copy' in archive) return jobs.add({ kind: 'unpack', archive: archive.copy, name: archive.name, origin: archive.origin })
  if (archive) return jobs.add({ kind: 'scan', sourceId: archive.known.id, title: `Scan ${archive.known.name}` })
  const source = await addFolder(db, config, path)
  return jobs.add({ kind: 'scan', sourceId: source.id, title: `Bring in ${source.name}` })
})
