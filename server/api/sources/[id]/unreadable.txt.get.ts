import { unreadableLines } from '../../../library/sourceLists'
import { idSchema, param, route } from '../../../studio/route'
import { sendText } from '../../../studio/textFile'

/** The list of what could not be read, as text to keep or to send on. */
export default route(({ db }, event) => sendText(event, 'not-read.txt', unreadableLines(db, param(event, 'id', idSchema))))
