import { markRoutes } from '../../../contract/marks'
import { stepMarks } from '../../library/stepMarks'
import { route } from '../../studio/route'

export default route(markRoutes.redo, (studio) => stepMarks(studio, true))
