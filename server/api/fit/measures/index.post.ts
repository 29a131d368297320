import { fitSpecSchema } from '../../../fit/spec'
import { body, route } from '../../../studio/route'

/** Measures a kit for a target, as long work; what comes of it is fetched by its id. */
export default route(async ({ jobs }, event) => {
  const { kit, target } = await body(event, fitSpecSchema.pick({ kit: true, target: true }))
  return jobs.add({ kind: 'measure', kit, target, title: `Measure for ${target.name}` })
})
