/** Where a key holds. Keys of one place, and those that hold everywhere, never mean two things. */
export type CommandPlace = 'everywhere' | 'library' | 'tray' | 'compare' | 'bench' | 'grooves' | 'fit' | 'vault'

/** Something that a key does. */
export interface Command {
  readonly id: string
  readonly place: CommandPlace
  /** As the foot line and the list of keys say it. */
  readonly does: string
  /** What it is called by as long as nobody chose otherwise. */
  readonly keys: readonly string[]
  /** Printed in the foot line; the others are listed under `?` alone. */
  readonly isPrinted?: boolean
  /** Arrows and the like, which lists have everywhere. */
  readonly isFixed?: boolean
}

const command = (place: CommandPlace) => (id: string, does: string, keys: string | readonly string[], more: Pick<Command, 'isPrinted' | 'isFixed'> = {}): Command =>
  ({ id, place, does, keys: typeof keys === 'string' ? [keys] : keys, ...more })
const everywhere = command('everywhere')
const library = command('library')
const tray = command('tray')
const compare = command('compare')
const bench = command('bench')
const grooves = command('grooves')
const fit = command('fit')
const vault = command('vault')
const printed = { isPrinted: true }
const fixed = { isFixed: true }

/** Every key that can be chosen otherwise, in the order in which they are listed. */
export const COMMANDS: readonly Command[] = [
  library('next', 'next, played', 'ArrowDown', { ...printed, ...fixed }),
  library('previous', 'the one before', 'ArrowUp', fixed),
  library('extendNext', 'choose several', 'Shift+ArrowDown', { ...printed, ...fixed }),
  library('extendPrevious', 'choose several upwards', 'Shift+ArrowUp', fixed),
  library('pageNext', 'sixteen further', 'PageDown', fixed),
  library('pagePrevious', 'sixteen back', 'PageUp', fixed),
  library('extendPageNext', 'choose sixteen further', 'Shift+PageDown', fixed),
  library('extendPagePrevious', 'choose sixteen back', 'Shift+PageUp', fixed),
  library('first', 'the first', 'Home', fixed),
  library('last', 'the last', 'End', fixed),
  library('extendFirst', 'choose all to the first', 'Shift+Home', fixed),
  library('extendLast', 'choose all to the last', 'Shift+End', fixed),
  library('chooseAll', 'choose all that was found', 'Ctrl+a'),
  library('play', 'play or stop', ' ', printed),
  library('toTray', 'to the tray', 'Enter', printed),
  library('toPad', 'to the pad', 'p', printed),
  library('placing', 'to pads in some way', 'Shift+P', printed),
  library('tryOut', 'try in a pattern', 'v', printed),
  library('mark', 'mark', 'c', printed),
  library('compare', 'compare the marked', 'Shift+C', printed),
  library('like', 'more like this', 'l', printed),
  library('same', 'the same recording', 'Shift+L'),
  library('family', 'strokes of one instrument', 'Shift+F'),
  library('aside', 'set aside', 'x', printed),
  library('favourite', 'favourite', 'f', printed),
  library('byHand', 'set by hand', 'e', printed),
  library('undo', 'take back what was set', 'Ctrl+z'),
  library('redo', 'do again', ['Ctrl+y', 'Ctrl+Shift+Z']),
  library('narrow', 'in this place only', 'n', printed),
  library('widen', 'wider', 'w', printed),
  library('filters', 'filters', 'g', printed),
  library('search', 'search', '/', printed),
  library('clear', 'all', 'Escape', printed),
  library('saveSearch', 'keep this search', 'Ctrl+s'),
  library('figures', 'figures', 'i', printed),
  library('bringIn', 'bring in', 'b'),
  library('sources', 'sources', 's'),
  library('match', 'match levels', 'm', printed),
  library('nextHit', 'next hit', 'ArrowRight', printed),
  library('previousHit', 'the hit before', 'ArrowLeft'),
  library('firstHit', 'the first hit only', 'o'),
  library('loop', 'again and again', 'r'),
  library('reverse', 'backwards', 'd'),
  library('higher', 'a semitone higher', ['+', '=']),
  library('lower', 'a semitone lower', '-'),
  library('ownPitch', 'at its own pitch', '0'),
  library('held', 'hold the last 16', 'h', printed),
  everywhere('tray', 'tray', 't', printed),
  everywhere('pattern', 'play the pattern', 'Shift+ ', printed),
  everywhere('keys', 'all keys', '?', printed),
  tray('trayNext', 'next on the tray, played', 'ArrowDown', { ...printed, ...fixed }),
  tray('trayPrevious', 'the one before', 'ArrowUp', fixed),
  tray('trayDown', 'move down', 'Alt+ArrowDown'),
  tray('trayUp', 'move up', 'Alt+ArrowUp'),
  tray('trayPlay', 'play or stop', ' '),
  tray('trayToPad', 'to the pad at hand', 'Enter', printed),
  tray('trayAll', 'all to free pads', 'Shift+Enter', printed),
  tray('trayPlacing', 'to pads in some way', 'Shift+P'),
  tray('trayOff', 'off the tray', 'Delete', printed),
  tray('trayNote', 'note something', 'e'),
  tray('trayBack', 'back to the view', 'Escape', { ...printed, ...fixed }),
  compare('compareNext', 'next of them, played', 'ArrowRight', { ...printed, ...fixed }),
  compare('comparePrevious', 'the one before', 'ArrowLeft', fixed),
  compare('comparePlay', 'play or stop', ' ', printed),
  compare('compareLoop', 'again and again', 'r', printed),
  compare('compareBlind', 'hide the names', 'b', printed),
  compare('compareChoose', 'choose this one', 'Enter', printed),
  compare('compareDrop', 'take it out', 'Delete', printed),
  bench('padNext', 'next pad', 'ArrowDown', { ...printed, ...fixed }),
  bench('padPrevious', 'the one before', 'ArrowUp', fixed),
  bench('padExtendNext', 'choose several', 'Shift+ArrowDown', { ...printed, ...fixed }),
  bench('padExtendPrevious', 'choose several upwards', 'Shift+ArrowUp', fixed),
  bench('padPlay', 'play the pad', ' ', printed),
  bench('padMoveDown', 'move the pad down', 'Alt+ArrowDown'),
  bench('padMoveUp', 'move the pad up', 'Alt+ArrowUp'),
  bench('bankNext', 'next bank', 'PageDown', { ...printed, ...fixed }),
  bench('bankPrevious', 'the bank before', 'PageUp', fixed),
  bench('padSettings', 'to its settings', 'Enter', printed),
  bench('padLike', 'more like its sound', 'l'),
  bench('padClear', 'clear', 'Delete', printed),
  bench('padMute', 'mute', 'q', printed),
  bench('padSolo', 'solo', 'w', printed),
  bench('padHold', 'hold', 'e'),
  bench('padCopy', 'copy', 'Ctrl+c'),
  bench('padCut', 'cut', 'Ctrl+x'),
  bench('padPaste', 'paste', 'Ctrl+v'),
  bench('padPasteSettings', 'paste settings only', 'Ctrl+Shift+V'),
  bench('padDuplicate', 'duplicate', 'Ctrl+d'),
  bench('padSwap', 'swap two', 'y'),
  bench('chooseBank', 'choose all pads with sounds', 'Ctrl+a'),
  bench('freeNote', 'next free note', 'i'),
  bench('softer', 'play softer', '['),
  bench('harder', 'play harder', ']'),
  bench('learnNote', 'take the next MIDI note', 'r'),
  bench('panelNext', 'parts below', 'p', printed),
  bench('panelClose', 'close it', 'Shift+P'),
  bench('kitNew', 'new kit', 'Alt+n'),
  bench('kitUndo', 'undo', 'Ctrl+z', printed),
  bench('kitRedo', 'redo', ['Ctrl+y', 'Ctrl+Shift+Z']),
  bench('kitStore', 'store', 'Ctrl+s', printed),
  bench('benchBack', 'silence', 'Escape', { ...printed, ...fixed }),
  grooves('groovePlay', 'play or stop', ' ', printed),
  grooves('grooveRecord', 'record', 'r', printed),
  grooves('stepNext', 'next step', 'ArrowRight', { ...printed, ...fixed }),
  grooves('stepPrevious', 'the step before', 'ArrowLeft', fixed),
  grooves('stepExtendNext', 'choose hits', 'Shift+ArrowRight', { ...printed, ...fixed }),
  grooves('stepExtendPrevious', 'choose hits before', 'Shift+ArrowLeft', fixed),
  grooves('rowNext', 'the row below', 'ArrowDown', fixed),
  grooves('rowPrevious', 'the row above', 'ArrowUp', fixed),
  grooves('rowExtendNext', 'choose hits below', 'Shift+ArrowDown', fixed),
  grooves('rowExtendPrevious', 'choose hits above', 'Shift+ArrowUp', fixed),
  grooves('barNext', 'next bar', 'PageDown', { ...printed, ...fixed }),
  grooves('barPrevious', 'the bar before', 'PageUp', fixed),
  grooves('stepDraw', 'draw or erase', 'Enter', printed),
  grooves('hitErase', 'erase', 'Delete', printed),
  grooves('hitLater', 'move by a step', 'Alt+ArrowRight', printed),
  grooves('hitEarlier', 'move back by a step', 'Alt+ArrowLeft'),
  grooves('hitTickLater', 'move by ten ticks', 'Ctrl+ArrowRight'),
  grooves('hitTickEarlier', 'move back by ten ticks', 'Ctrl+ArrowLeft'),
  grooves('hitDown', 'move to the pad below', 'Alt+ArrowDown'),
  grooves('hitUp', 'move to the pad above', 'Alt+ArrowUp'),
  grooves('hitLouder', 'harder', ['+', '='], printed),
  grooves('hitSofter', 'softer', '-'),
  grooves('hitAll', 'choose all hits', 'Ctrl+a'),
  grooves('hitRow', 'choose the row', 'e'),
  grooves('hitCopy', 'copy', 'Ctrl+c'),
  grooves('hitCut', 'cut', 'Ctrl+x'),
  grooves('hitPaste', 'paste', 'Ctrl+v'),
  grooves('barRepeat', 'copy the bar to the next', 'Ctrl+d'),
  grooves('hitQuantize', 'quantize', 'y', printed),
  grooves('hitAsPlayed', 'as played', 'Shift+Y'),
  grooves('grooveLoop', 'loop these bars', 'l', printed),
  grooves('grooveMetronome', 'metronome', 'u', printed),
  grooves('grooveTap', 'tap the tempo', 'i'),
  grooves('grooveMute', 'mute', 'q', printed),
  grooves('grooveSolo', 'solo', 'w', printed),
  grooves('grooveAlone', 'chosen rows alone', '0'),
  grooves('grooveTryOut', 'try-out', 'o', printed),
  grooves('groovePanel', 'parts beside', 'p', printed),
  grooves('grooveZoomIn', 'nearer', '9'),
  grooves('grooveZoomOut', 'further', '8'),
  grooves('grooveSofter', 'play softer', '['),
  grooves('grooveHarder', 'play harder', ']'),
  grooves('grooveUndo', 'undo', 'Ctrl+z', printed),
  grooves('grooveRedo', 'do again', ['Ctrl+y', 'Ctrl+Shift+Z']),
  grooves('grooveOut', 'take out', 'Ctrl+s', printed),
  grooves('grooveBack', 'let go, silence', 'Escape', { ...printed, ...fixed }),
  fit('fitNext', 'next, before and after', 'ArrowDown', { ...printed, ...fixed }),
  fit('fitPrevious', 'the one before', 'ArrowUp', fixed),
  fit('fitFirst', 'the first', 'Home', fixed),
  fit('fitLast', 'the last', 'End', fixed),
  fit('fitPageNext', 'sixteen further', 'PageDown', fixed),
  fit('fitPagePrevious', 'sixteen back', 'PageUp', fixed),
  fit('fitPlay', 'play or stop', ' ', printed),
  fit('fitSwitch', 'before or after', 'x', printed),
  fit('fitDifference', 'the difference', 'd', printed),
  fit('fitWhole', 'the whole kit', 'k', printed),
  fit('fitLoop', 'again and again', 'r'),
  fit('holdStereo', 'hold both sides', 's', printed),
  fit('holdLength', 'hold the length', 'l', printed),
  fit('holdBandwidth', 'hold the top', 'h'),
  fit('holdLayers', 'hold the layers', 'y'),
  fit('holdPad', 'never leave out', 'n', printed),
  fit('fitImportance', 'how much it matters', 'i', printed),
  fit('fitFree', 'let go of what is held', 'f'),
  fit('fitPanel', 'what is beside', 'b', printed),
  fit('fitTargets', 'targets', 'g'),
  fit('fitRead', 'read a kit', 'o'),
  fit('fitWrite', 'write', 'w', printed),
  fit('fitBack', 'stop', 'Escape', printed),
  vault('presetNext', 'next preset, played', 'ArrowDown', { ...printed, ...fixed }),
  vault('presetPrevious', 'the one before', 'ArrowUp', fixed),
  vault('presetFirst', 'the first', 'Home', fixed),
  vault('presetLast', 'the last', 'End', fixed),
  vault('presetPageNext', 'sixteen further', 'PageDown', fixed),
  vault('presetPagePrevious', 'sixteen back', 'PageUp', fixed),
  vault('presetFind', 'find', '/', printed),
  vault('presetPlay', 'play again', ' ', printed),
  vault('presetOpen', 'open on the bench', 'Enter', printed),
  vault('presetRename', 'rename', 'F2', printed),
  vault('presetDuplicate', 'duplicate', 'd', printed),
  vault('presetExport', 'export', 'e', printed),
  vault('presetImport', 'import', 'i', printed),
  vault('presetDelete', 'delete', 'Delete', printed),
]

/** The name of a key press: `Ctrl+Shift+Z`, `n`, `?`. A letter with Shift is a capital. */
export function chordOf(event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string {
  const isLetter = /^\p{L}$/u.test(event.key)
  const key = isLetter ? (event.shiftKey ? event.key.toUpperCase() : event.key.toLowerCase()) : event.key
  // Signs that need Shift on some keyboards are named by themselves.
  const isSign = event.key.length === 1 && !isLetter && event.key !== ' '
  return [event.ctrlKey || event.metaKey ? 'Ctrl+' : '', event.altKey ? 'Alt+' : '', event.shiftKey && !isSign ? 'Shift+' : '', key].join('')
}

const SAID: Readonly<Record<string, string>> = { ' ': 'Space', 'ArrowDown': '↓', 'ArrowUp': '↑', 'ArrowLeft': '←', 'ArrowRight': '→', 'Escape': 'Esc', 'Delete': 'Del', 'PageDown': 'PgDn', 'PageUp': 'PgUp' }

/** A key as it is printed: `Ctrl Z`, `Shift ↓`. */
export function chordLabel(chord: string): string {
  const parts = chord === '+' ? ['+'] : chord.split('+')
  return parts.map(part => SAID[part] ?? (part.length === 1 ? part.toUpperCase() : part)).join(' ')
}

/** The commands that a place's own keys and those that hold everywhere call. */
export function commandsOf(place: CommandPlace): Command[] {
  return COMMANDS.filter(candidate => candidate.place === place)
}

/** Two commands that the same key would call in one place. */
export function clashes(keysOf: (command: Command) => readonly string[]): [Command, Command][] {
  const found: [Command, Command][] = []
  COMMANDS.forEach((one, i) => {
    for (const other of COMMANDS.slice(i + 1)) {
      const meet = one.place === other.place || [one.place, other.place].includes('everywhere')
      if (meet && keysOf(one).some(key => keysOf(other).includes(key))) found.push([one, other])
    }
  })
  return found
}
