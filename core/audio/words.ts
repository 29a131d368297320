/** What to do with a file that is not read, as it is written in several readers. */

export const CONVERT_CODING = 'Convert it to PCM or float first.'
export const CONVERT_FILE = 'Convert it to WAVE or FLAC first.'
