import { z } from 'zod'
import { readKit } from '../../kits/drafts'
import { param, route } from '../../studio/route'

export default route(({ db }, event) => readKit(db, param(event, 'id', z.uuid())))
