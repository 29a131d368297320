import { vaultRoutes } from '../../../../contract/vault'
import { setResponseHeaders } from 'h3'
import { packageStream } from '../../../vault/exportZip'
import { revisionPath } from '../../../vault/layout'
import { presetRevision } from '../../../vault/presets'
import { route } from '../../../studio/route'
import { sendStreamed } from '../../../studio/streamed'

export default route(vaultRoutes.package, async ({ db, config }, { params }, event) => {
  const { preset, revision } = await presetRevision(db, config.vaultDir, params.id)
  const { stream, fileName } = await packageStream(revisionPath(config.vaultDir, preset.folder, revision.number), preset.name, revision.storedAt)
  setResponseHeaders(event, {
    'Content-Type': 'application/zip',
    'Content-Disposition': `attachment; filename="${fileName}"`,
  })
  return sendStreamed(event, stream)
})
