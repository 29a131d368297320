import { vaultRoutes } from '../../../contract/vault'
import { abandonArchive, receivedArchive } from '../../library/uploads'
import { route } from '../../studio/route'

/** Settles what is done with a package whose name is taken. */
export default route(vaultRoutes.importAs, async ({ config, jobs }, { body: { archive, onConflict } }) => {
  const received = receivedArchive(config.uploadsDir, archive)
  if (onConflict === 'give-up') {
    await abandonArchive(received)
    return null
  }
  return jobs.add({ kind: 'import', archive: received, onConflict })
})
