import { Readable } from 'node:stream'
import { setResponseHeaders } from 'h3'
import { z } from 'zod'
import { soundIdSchema } from '../../../core/kit/document'
import { soundParcels } from '../../library/parcels'
import { body, route } from '../../studio/route'
import { sendStreamed } from '../../studio/streamed'

const askedSchema = z.object({ hashes: z.array(soundIdSchema).min(1).max(64) })

/** The files of several sounds at once, one after the other: a large kit asks for hundreds, and each question takes its time. */
export default route(async ({ db, config }, event) => {
  const { hashes } = await body(event, askedSchema)
  setResponseHeaders(event, { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'no-store' })
  return sendStreamed(event, Readable.from(soundParcels(db, config, hashes), { objectMode: false }))
})
