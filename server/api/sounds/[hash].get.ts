import { soundIdSchema } from '../../../core/kit/document'
import { soundDetail } from '../../library/detail'
import { param, route } from '../../studio/route'

export default route(({ db }, event) => soundDetail(db, param(event, 'hash', soundIdSchema)))
