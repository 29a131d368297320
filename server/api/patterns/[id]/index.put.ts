import { z } from 'zod'
import { patternDeltaSchema } from '../../../../core/groove/delta'
import { savePattern } from '../../../patterns/store'
import { body, nameSchema, param, route } from '../../../studio/route'

export default route(async ({ db, events }, event) => {
  const patternId = param(event, 'id', nameSchema)
  const { delta, baseRevision, from } = await body(event, z.object({ delta: patternDeltaSchema, baseRevision: z.int().min(1), from: z.string() }))
  const revision = await savePattern(db, patternId, delta, baseRevision)
  events.send({ type: 'pattern', patternId, revision, from })
  return { revision }
})
