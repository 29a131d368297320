import { hearSpecSchema } from '../../fit/spec'
import { body, route } from '../../studio/route'

/** Renders a kit before and after, as long work. */
export default route(async ({ jobs }, event) => {
  const spec = await body(event, hearSpecSchema)
  return jobs.add({ kind: 'hear', spec, title: `Hear what ${spec.target.name} makes of it` })
})
