import { soundRoutes } from '../../../contract/library'
import { Readable } from 'node:stream'
import { setResponseHeaders } from 'h3'
import { soundParcels } from '../../library/parcels'
import { route } from '../../studio/route'
import { sendStreamed } from '../../studio/streamed'

/** The files of several sounds at once, one after the other: a large kit asks for hundreds, and each question takes its time. */
export default route(soundRoutes.audioOfSeveral, async ({ db, config }, { body: { hashes } }, event) => {
  setResponseHeaders(event, { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'no-store' })
  return sendStreamed(event, Readable.from(soundParcels(db, config, hashes), { objectMode: false }))
})
