import { tagsInUse } from '../../library/marks'
import { route } from '../../studio/route'

export default route(({ db }) => tagsInUse(db))
