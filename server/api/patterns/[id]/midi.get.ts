import { patternRoutes } from '../../../../contract/patterns'
import { setResponseHeaders } from 'h3'
import { midiFromPattern } from '../../../../core/groove/midi/fromPattern'
import { readPattern } from '../../../patterns/store'
import { attachment } from '../../../studio/attachment'
import { route } from '../../../studio/route'

/** A pattern as a Standard MIDI File of format 1, by the keys of the General MIDI percussion map. */
export default route(patternRoutes.midi, async ({ db }, { params }, event) => {
  const { pattern } = await readPattern(db, params.id)
  setResponseHeaders(event, { 'Content-Type': 'audio/midi', ...attachment(`${pattern.name}.mid`) })
  return Buffer.from(midiFromPattern(pattern, { format: 1, notes: { by: 'percussion' } }).bytes)
})
