import { turnMarks } from '../../library/turnMarks'
import { route } from '../../studio/route'

export default route(studio => turnMarks(studio, true))
