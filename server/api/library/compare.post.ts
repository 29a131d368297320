import { route } from '../../studio/route'

export default route(({ jobs }) => jobs.add({ kind: 'compare', title: 'Find near-duplicates' }))
