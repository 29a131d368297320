import { missingLines } from '../../../library/sourceLists'
import { idSchema, param, route } from '../../../studio/route'
import { sendText } from '../../../studio/textFile'

/** The list of what is missing, as text to keep. */
export default route(({ db }, event) => sendText(event, 'missing.txt', missingLines(db, param(event, 'id', idSchema))))
