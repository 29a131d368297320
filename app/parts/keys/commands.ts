import { VIEWS, type ViewId } from '../../views'

/** Where a key holds. Keys of one place, and those that hold everywhere, never mean two things. */
export type CommandPlace = 'everywhere' | 'tray' | 'compare' | ViewId

const [first, ...others] = VIEWS.map(({ id, keysTitle }): { readonly place: CommandPlace, readonly title: string } => ({ place: id, title: keysTitle }))

/** The places in the order in which their keys are listed, with what they are called. */
export const PLACES: readonly { readonly place: CommandPlace, readonly title: string }[] = [
  first!,
  { place: 'everywhere', title: 'Everywhere' },
  { place: 'tray', title: 'On the tray' },
  { place: 'compare', title: 'While comparing' },
  ...others,
]

/** Something that a key does. */
export interface Command {
  readonly id: string
  readonly place: CommandPlace
  /** As the foot line and the list of keys say it. */
  readonly does: string
  /** What it is called by as long as nobody chose otherwise. */
  readonly keys: readonly string[]
  /** Arrows and the like, which lists have everywhere. */
  readonly isFixed?: boolean
}

const command = (place: CommandPlace) => (id: string, does: string, keys: string | readonly string[], more: Pick<Command, 'isFixed'> = {}): Command =>
  ({ id, place, does, keys: typeof keys === 'string' ? [keys] : keys, ...more })
const everywhere = command('everywhere')
const library = command('library')
const tray = command('tray')
const compare = command('compare')
const bench = command('bench')
const grooves = command('grooves')
const fit = command('fit')
const vault = command('vault')
const fixed = { isFixed: true }

/** Every key that can be chosen otherwise, in the order in which they are listed. */
export const COMMANDS: readonly Command[] = [
  library('next', 'next (plays)', 'ArrowDown', fixed),
  library('previous', 'previous', 'ArrowUp', fixed),
  library('extendNext', 'extend selection', 'Shift+ArrowDown', fixed),
  library('extendPrevious', 'extend selection up', 'Shift+ArrowUp', fixed),
  library('pageNext', '16 down', 'PageDown', fixed),
  library('pagePrevious', '16 up', 'PageUp', fixed),
  library('extendPageNext', 'extend selection 16 down', 'Shift+PageDown', fixed),
  library('extendPagePrevious', 'extend selection 16 up', 'Shift+PageUp', fixed),
  library('first', 'first', 'Home', fixed),
  library('last', 'last', 'End', fixed),
  library('extendFirst', 'extend selection to the first', 'Shift+Home', fixed),
  library('extendLast', 'extend selection to the last', 'Shift+End', fixed),
  library('chooseAll', 'select all found', 'Ctrl+a'),
  library('play', 'play or stop', ' '),
  library('toTray', 'add to tray', 'Enter'),
  library('toPad', 'place on pad', 'p'),
  library('placing', 'place on pads…', 'Shift+P'),
  library('tryOut', 'try out in a pattern', 'v'),
  library('mark', 'mark', 'c'),
  library('compare', 'compare marked', 'Shift+C'),
  library('like', 'more like this', 'l'),
  library('same', 'same recording', 'Shift+L'),
  library('family', 'strokes of one instrument', 'Shift+F'),
  library('aside', 'set aside', 'x'),
  library('favourite', 'favourite', 'f'),
  library('byHand', 'edit details', 'e'),
  library('soundMenu', 'menu of the sound', ['ContextMenu', 'Shift+F10'], fixed),
  library('undo', 'undo details', 'Ctrl+z'),
  library('redo', 'redo', ['Ctrl+y', 'Ctrl+Shift+Z']),
  library('narrow', 'search this folder only', 'n'),
  library('widen', 'search wider', 'w'),
  library('filters', 'filters', 'g'),
  library('search', 'search', '/'),
  library('clear', 'clear search', 'Escape'),
  library('saveSearch', 'save this search', 'Ctrl+s'),
  library('figures', 'figures', 'i'),
  library('bringIn', 'bring in', 'b'),
  library('sources', 'sources', 's'),
  library('match', 'match levels', 'm'),
  library('nextHit', 'next hit', 'ArrowRight'),
  library('previousHit', 'previous hit', 'ArrowLeft'),
  library('firstHit', 'first hit only', 'o'),
  library('loop', 'loop', 'r'),
  library('reverse', 'reverse', 'd'),
  library('higher', 'up a semitone', ['+', '=']),
  library('lower', 'down a semitone', '-'),
  library('ownPitch', 'original pitch', '0'),
  library('held', 'hold the last 16 sounds', 'h'),
  everywhere('tray', 'tray', 't'),
  everywhere('pattern', 'play the pattern', 'Shift+ '),
  everywhere('keys', 'all keys', '?'),
  tray('trayNext', 'next on the tray (plays)', 'ArrowDown', fixed),
  tray('trayPrevious', 'previous', 'ArrowUp', fixed),
  tray('trayDown', 'move down', 'Alt+ArrowDown'),
  tray('trayUp', 'move up', 'Alt+ArrowUp'),
  tray('trayPlay', 'play or stop', ' '),
  tray('trayToPad', 'place on current pad', 'Enter'),
  tray('trayAll', 'place all on free pads', 'Shift+Enter'),
  tray('trayPlacing', 'place on pads…', 'Shift+P'),
  tray('trayOff', 'remove from tray', 'Delete'),
  tray('trayNote', 'edit note', 'e'),
  tray('trayMenu', 'menu of the sound', ['ContextMenu', 'Shift+F10'], fixed),
  tray('trayBack', 'back to the view', 'Escape', fixed),
  compare('compareNext', 'next (plays)', 'ArrowRight', fixed),
  compare('comparePrevious', 'previous', 'ArrowLeft', fixed),
  compare('comparePlay', 'play or stop', ' '),
  compare('compareLoop', 'loop', 'r'),
  compare('compareBlind', 'hide the names', 'b'),
  compare('compareChoose', 'choose this one', 'Enter'),
  compare('compareDrop', 'remove', 'Delete'),
  bench('padNext', 'next pad', 'ArrowDown', fixed),
  bench('padPrevious', 'previous', 'ArrowUp', fixed),
  bench('padExtendNext', 'extend selection', 'Shift+ArrowDown', fixed),
  bench('padExtendPrevious', 'extend selection up', 'Shift+ArrowUp', fixed),
  bench('padPlay', 'play the pad', ' '),
  bench('padMoveDown', 'move the pad down', 'Alt+ArrowDown'),
  bench('padMoveUp', 'move the pad up', 'Alt+ArrowUp'),
  bench('bankNext', 'next bank', 'PageDown', fixed),
  bench('bankPrevious', 'previous bank', 'PageUp', fixed),
  bench('padSettings', 'pad settings', 'Enter'),
  bench('padLike', 'find similar sounds', 'l'),
  bench('padClear', 'clear', 'Delete'),
  bench('padMute', 'mute', 'q'),
  bench('padSolo', 'solo', 'w'),
  bench('padHold', 'hold', 'e'),
  bench('padCopy', 'copy', 'Ctrl+c'),
  bench('padCut', 'cut', 'Ctrl+x'),
  bench('padPaste', 'paste', 'Ctrl+v'),
  bench('padPasteSettings', 'paste settings only', 'Ctrl+Shift+V'),
  bench('padDuplicate', 'duplicate', 'Ctrl+d'),
  bench('padSwap', 'swap two pads', 'y'),
  bench('padMenu', 'menu of the pad', ['ContextMenu', 'Shift+F10'], fixed),
  bench('chooseBank', 'select all pads with sounds', 'Ctrl+a'),
  bench('freeNote', 'next free note', 'i'),
  bench('softer', 'play softer', '['),
  bench('harder', 'play harder', ']'),
  bench('octaveDown', 'octave down', '{'),
  bench('octaveUp', 'octave up', '}'),
  bench('padFind', 'find a pad', '/'),
  bench('learnNote', 'learn the next MIDI note', 'r'),
  bench('panelNext', 'panel below', 'p'),
  bench('panelClose', 'close panel', 'Shift+P'),
  bench('kitNew', 'new kit', 'Alt+n'),
  bench('kitUndo', 'undo', 'Ctrl+z'),
  bench('kitRedo', 'redo', ['Ctrl+y', 'Ctrl+Shift+Z']),
  bench('kitStore', 'store', 'Ctrl+s'),
  bench('benchBack', 'silence all', 'Escape', fixed),
  grooves('groovePlay', 'play or stop', ' '),
  grooves('grooveRecord', 'record', 'r'),
  grooves('stepNext', 'next step', 'ArrowRight', fixed),
  grooves('stepPrevious', 'previous step', 'ArrowLeft', fixed),
  grooves('stepExtendNext', 'select hits', 'Shift+ArrowRight', fixed),
  grooves('stepExtendPrevious', 'select hits back', 'Shift+ArrowLeft', fixed),
  grooves('rowNext', 'row below', 'ArrowDown', fixed),
  grooves('rowPrevious', 'row above', 'ArrowUp', fixed),
  grooves('rowExtendNext', 'select hits below', 'Shift+ArrowDown', fixed),
  grooves('rowExtendPrevious', 'select hits above', 'Shift+ArrowUp', fixed),
  grooves('barNext', 'next bar', 'PageDown', fixed),
  grooves('barPrevious', 'previous bar', 'PageUp', fixed),
  grooves('stepDraw', 'draw or erase', 'Enter'),
  grooves('hitErase', 'erase', 'Delete'),
  grooves('hitLater', 'move by a step', 'Alt+ArrowRight'),
  grooves('hitEarlier', 'move back by a step', 'Alt+ArrowLeft'),
  grooves('hitTickLater', 'move by ten ticks', 'Ctrl+ArrowRight'),
  grooves('hitTickEarlier', 'move back by ten ticks', 'Ctrl+ArrowLeft'),
  grooves('hitDown', 'move to the pad below', 'Alt+ArrowDown'),
  grooves('hitUp', 'move to the pad above', 'Alt+ArrowUp'),
  grooves('hitLouder', 'harder', ['+', '=']),
  grooves('hitSofter', 'softer', '-'),
  grooves('hitAll', 'select all hits', 'Ctrl+a'),
  grooves('hitRow', 'select the row', 'e'),
  grooves('hitCopy', 'copy', 'Ctrl+c'),
  grooves('hitCut', 'cut', 'Ctrl+x'),
  grooves('hitPaste', 'paste', 'Ctrl+v'),
  grooves('barRepeat', 'copy the bar to the next', 'Ctrl+d'),
  grooves('hitQuantize', 'quantize', 'y'),
  grooves('hitAsPlayed', 'as played', 'Shift+Y'),
  grooves('grooveLoop', 'loop these bars', 'l'),
  grooves('grooveMetronome', 'metronome', 'u'),
  grooves('grooveTap', 'tap the tempo', 'i'),
  grooves('grooveMute', 'mute', 'q'),
  grooves('grooveSolo', 'solo', 'w'),
  grooves('grooveAlone', 'selected rows only', '0'),
  grooves('grooveTryOut', 'try-out', 'o'),
  grooves('groovePanel', 'next panel', 'p'),
  grooves('grooveZoomIn', 'zoom in', '9'),
  grooves('grooveZoomOut', 'zoom out', '8'),
  grooves('grooveSofter', 'play softer', '['),
  grooves('grooveHarder', 'play harder', ']'),
  grooves('grooveUndo', 'undo', 'Ctrl+z'),
  grooves('grooveRedo', 'redo', ['Ctrl+y', 'Ctrl+Shift+Z']),
  grooves('grooveOut', 'export', 'Ctrl+s'),
  grooves('grooveBack', 'deselect, silence', 'Escape', fixed),
  fit('fitNext', 'next', 'ArrowDown', fixed),
  fit('fitPrevious', 'previous', 'ArrowUp', fixed),
  fit('fitFirst', 'first', 'Home', fixed),
  fit('fitLast', 'last', 'End', fixed),
  fit('fitPageNext', '16 down', 'PageDown', fixed),
  fit('fitPagePrevious', '16 up', 'PageUp', fixed),
  fit('fitPlay', 'play or stop', ' '),
  fit('fitSwitch', 'switch before and after', 'x'),
  fit('fitDifference', 'hear the difference', 'd'),
  fit('fitWhole', 'play the whole kit', 'k'),
  fit('fitLoop', 'loop', 'r'),
  fit('holdStereo', 'hold both sides', 's'),
  fit('holdLength', 'hold the length', 'l'),
  fit('holdBandwidth', 'hold the top', 'h'),
  fit('holdLayers', 'hold the layers', 'y'),
  fit('holdPad', 'never leave out', 'n'),
  fit('fitImportance', 'importance', 'i'),
  fit('fitFree', 'release all holds', 'f'),
  fit('fitPanel', 'next panel', 'b'),
  fit('fitTargets', 'targets', 'g'),
  fit('fitRead', 'import a kit', 'o'),
  fit('fitWrite', 'export', 'w'),
  fit('fitBack', 'stop', 'Escape'),
  vault('presetNext', 'next preset (plays)', 'ArrowDown', fixed),
  vault('presetPrevious', 'previous', 'ArrowUp', fixed),
  vault('presetFirst', 'first', 'Home', fixed),
  vault('presetLast', 'last', 'End', fixed),
  vault('presetPageNext', '16 down', 'PageDown', fixed),
  vault('presetPagePrevious', '16 up', 'PageUp', fixed),
  vault('presetFind', 'find', '/'),
  vault('presetPlay', 'play preview', ' '),
  vault('presetOpen', 'open on the bench', 'Enter'),
  vault('presetRename', 'rename', 'F2'),
  vault('presetDuplicate', 'duplicate', 'd'),
  vault('presetExport', 'export', 'e'),
  vault('presetImport', 'import', 'i'),
  vault('presetDelete', 'delete', 'Delete'),
  vault('presetMenu', 'menu of the preset', ['ContextMenu', 'Shift+F10'], fixed),
]

/** The name of a key press: `Ctrl+Shift+Z`, `n`, `?`. A letter with Shift is a capital. */
export function chordOf(event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string {
  const isLetter = /^\p{L}$/u.test(event.key)
  const key = isLetter ? (event.shiftKey ? event.key.toUpperCase() : event.key.toLowerCase()) : event.key
  // Signs that need Shift on some keyboards are named by themselves.
  const isSign = event.key.length === 1 && !isLetter && event.key !== ' '
  return [event.ctrlKey || event.metaKey ? 'Ctrl+' : '', event.altKey ? 'Alt+' : '', event.shiftKey && !isSign ? 'Shift+' : '', key].join('')
}

const SAID: Readonly<Record<string, string>> = { ' ': 'Space', 'ArrowDown': '↓', 'ArrowUp': '↑', 'ArrowLeft': '←', 'ArrowRight': '→', 'Escape': 'Esc', 'Delete': 'Del', 'PageDown': 'PgDn', 'PageUp': 'PgUp', 'ContextMenu': 'Menu' }

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
