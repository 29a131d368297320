import { sourceRoutes } from '../../../../contract/sources'
import { missingLines } from '../../../library/sourceLists'
import { route } from '../../../studio/route'
import { sendText } from '../../../studio/textFile'

/** The list of what is missing, as text to keep. */
export default route(sourceRoutes.missingAsText, ({ db }, { params }, event) => sendText(event, 'missing.txt', missingLines(db, params.id)))
