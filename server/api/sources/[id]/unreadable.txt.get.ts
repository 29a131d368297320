import { sourceRoutes } from '../../../../contract/sources'
import { unreadableLines } from '../../../library/sourceLists'
import { route } from '../../../studio/route'
import { sendText } from '../../../studio/textFile'

/** The list of what could not be read, as text to keep or to send on. */
export default route(sourceRoutes.unreadableAsText, ({ db }, { params }, event) => sendText(event, 'not-read.txt', unreadableLines(db, params.id)))
