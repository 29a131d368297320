/** Endings of the files that a scan opens. What a file really is, is told by its bytes. */
export const AUDIO_EXTENSIONS: readonly string[] = ['wav', 'wave', 'w64', 'aif', 'aiff', 'aifc', 'caf', 'au', 'flac', 'wv', 'm4a', 'mp3', 'ogg', 'oga', 'opus']

/** What the names of such files look like. */
export const AUDIO_NAME = new RegExp(`\\.(${AUDIO_EXTENSIONS.join('|')})$`, 'i')
