import { stepMarks } from '../../library/stepMarks'
import { route } from '../../studio/route'

export default route(studio => stepMarks(studio, false))
