import { fitRoutes } from '../../../contract/fit'
import { route } from '../../studio/route'

/** Renders a kit before and after, as long work. */
export default route(fitRoutes.hear, async ({ jobs }, { body: spec }) => {
  return jobs.add({ kind: 'hear', spec })
})
