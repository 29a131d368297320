import { z } from 'zod'
import { parseKit } from '../../../../core/kit/migrate'
import { deltaSchema, saveDelta, saveKit } from '../../../kits/drafts'
import { body, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const id = param(event, 'id', z.uuid())
  const asked = await body(event, z.object({ kit: z.unknown().optional(), delta: deltaSchema.optional(), baseRevision: z.int().min(1), from: z.string() }))
  const { revision, usesOthers } = asked.delta
    ? await saveDelta(db, id, asked.delta, asked.baseRevision)
    : await saveKit(db, id, parseKit(asked.kit), asked.baseRevision)
  events.send({ type: 'kit', kitId: id, revision, from: asked.from, usesOthers })
  return { revision }
})
