import { z } from 'zod'
import { parseKit } from '../../../core/kit/migrate'
import { saveKit } from '../../kits/drafts'
import { body, param, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  const id = param(event, 'id', z.uuid())
  const asked = await body(event, z.object({ kit: z.unknown(), baseRevision: z.int().min(1), from: z.string() }))
  const revision = await saveKit(db, id, parseKit(asked.kit), asked.baseRevision)
  events.send({ type: 'kit', kitId: id, revision, from: asked.from })
  return { revision }
})
