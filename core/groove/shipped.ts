import type { WrittenPattern } from './steps'

const SIX_EIGHT = { beats: 6, unit: 8 } as const
const TWELVE_EIGHT = { beats: 12, unit: 8 } as const
const swing = (percent: number, step: 8 | 16) => ({ percent, step })

/** The patterns that come with the application, all of our own making. */
export const SHIPPED_PATTERNS: readonly WrittenPattern[] = [
  { name: 'Gangway', folder: 'Straight', tags: ['plain', 'backbeat'], tempoBpm: 96, bars: 1, lines: {
    'kick': '9.......8.......', 'snare': '....9.......9...', 'hat.closed': '8.5.7.5.8.5.7.5.' } },
  { name: 'Night watch', folder: 'Straight', tags: ['plain', 'backbeat'], tempoBpm: 92, bars: 2, lines: {
    'kick': '9.....6.8....... 9.....6.8.6.....', 'snare': '....9..2.2..9... ....9..2.2..9..3', 'hat.closed': '8.6.7.6.8.6.7.6.' } },
  { name: 'Cable drum', folder: 'Straight', tags: ['busy', 'sixteenths'], tempoBpm: 104, bars: 2, lines: {
    'kick': '9..7..6...7..... 9..7..6..67.....', 'snare': '....9..3.3..9... ....9..3.3..9.35', 'hat.closed': '8464746484647464' } },
  { name: 'Boiler room door', folder: 'Straight', tags: ['four to the bar'], tempoBpm: 124, bars: 1, lines: {
    'kick': '9...9...9...9...', 'clap': '....8.......8...', 'hat.open': '..7...7...7...7.', 'hat.closed': '5.3.5.3.5.3.5.3.' } },
  { name: 'Propeller shaft', folder: 'Straight', tags: ['four to the bar', 'busy'], tempoBpm: 128, bars: 2, lines: {
    'kick': '9...9...9...9... 9...9...9...9.5.', 'clap': '....8.......8..4', 'hat.closed': '5364536453645364', 'hat.open': '..6...6...6...6.', 'rim': '...5..5....5..5.' } },
  { name: 'Half lit', folder: 'Straight', tags: ['half time', 'sparse'], tempoBpm: 140, bars: 2, lines: {
    'kick': '9.........6..... 9.....7...6.....', 'snare': '........9....... ........9.......', 'hat.closed': '8...6...8...6.4.' } },
  { name: 'Deep fairway', folder: 'Straight', tags: ['half time', 'rolls'], tempoBpm: 142, bars: 2, lines: {
    'kick': '9......7........ 9..7......8.....', 'clap': '........9.......', 'hat.closed': '8.6.8.668.6.8.6. 8.6.86668.6.8.56' } },
  { name: 'Signal lamp', folder: 'Straight', tags: ['broken'], tempoBpm: 172, bars: 2, lines: {
    'kick': '9.........8..... 9.........8.....', 'snare': '....9..3.4..9... ....9..3.4..9.4.', 'cymbal.ride': '7.5.7.5.7.5.7.5.' } },
  { name: 'Wake and foam', folder: 'Straight', tags: ['broken', 'busy'], tempoBpm: 168, bars: 2, lines: {
    'kick': '9.9...........8. ..9.......9.....', 'snare': '....9..3.3..9..3 .3..9..3.3....9.', 'hat.closed': '8.6.8.6.8.6.8.6.' } },
  { name: 'Winch', folder: 'Straight', tags: ['heavy', 'toms'], tempoBpm: 84, bars: 2, lines: {
    'kick': '9..6....8....... 9..6....8...6...', 'snare': '....9.......9...', 'tom.low': '..........6.7... ..............67', 'hat.open': '7.......7.......' } },
  { name: 'Chain locker', folder: 'Straight', tags: ['metal', 'busy'], tempoBpm: 110, bars: 1, lines: {
    'kick': '9..8..8...9..8..', 'snare': '....9.......9...', 'metal.cowbell': '8...7..57...7.5.', 'hat.closed': '..6...6...6...6.' } },
  { name: 'Customs hall', folder: 'Straight', tags: ['claps'], tempoBpm: 100, bars: 1, lines: {
    'kick': '9.....8.........', 'clap': '....9.......9..4', 'snap': '..5...5...5...5.', 'rim': '.......4..4.....' } },

  { name: 'Swell', folder: 'Swung', tags: ['shuffle'], tempoBpm: 108, bars: 2, swing: swing(66.7, 8), lines: {
    'kick': '9.......8....... 9.....7.8.......', 'snare': '....9.......9... ....9.......9.4.', 'hat.closed': '8.5.8.5.8.5.8.5.' } },
  { name: 'Low tide', folder: 'Swung', tags: ['slow', 'lazy'], tempoBpm: 84, bars: 2, swing: swing(58, 16), lines: {
    'kick': '9......68....... 9......6..7.....', 'snare': '....9.......9... ....9..2.2..9...', 'hat.closed': '7.5.7.567.5.7.5.' } },
  { name: 'Engine telegraph', folder: 'Swung', tags: ['lazy', 'sparse'], tempoBpm: 78, bars: 2, swing: swing(62, 16), lines: {
    'kick': '9..5......8..... 9..5......8..6..', 'rim': '....8.......8...', 'hat.closed': '6.4.6.446.4.6.4.' } },
  { name: 'Two by two', folder: 'Swung', tags: ['two-step'], tempoBpm: 132, bars: 2, swing: swing(60, 16), lines: {
    'kick': '9.........8..... 9.....7...8.....', 'clap': '....9.......9...', 'hat.closed': '..7..5..7..5.67. ..7..57...7..5.6', 'rim': '.......4.4.....3' } },
  { name: 'Galley radio', folder: 'Swung', tags: ['ride', 'jazz'], tempoBpm: 152, bars: 2, swing: swing(66.7, 8), lines: {
    'cymbal.ride': '7...8.5.7...8.5.', 'hat.pedal': '....6.......6...', 'kick': '5.......4....... 5.......4.....5.', 'snare': '..........3..... ......3.......4.' } },
  { name: 'Lamplighter', folder: 'Swung', tags: ['brushes', 'slow'], tempoBpm: 72, bars: 2, swing: swing(66.7, 8), lines: {
    'snare': '4.3.6.3.4.3.6.3.', 'cymbal.ride': '6...6.4.6...6.4.', 'kick': '6.......5.......' } },
  { name: 'Crane swing', folder: 'Swung', tags: ['four to the bar'], tempoBpm: 120, bars: 1, swing: swing(57, 16), lines: {
    'kick': '9...9...9...9...', 'clap': '....8.......8...', 'hat.closed': '5.7355735573.577', 'shaker': '3535353535353535' } },
  { name: 'Deck shoes', folder: 'Swung', tags: ['ghosts', 'busy'], tempoBpm: 98, bars: 2, swing: swing(56, 16), lines: {
    'kick': '9.6...8...6..... 9.6....8..6.8...', 'snare': '.2..9..2.2.29..2 .2..9..2.2.29.23', 'hat.closed': '8.6.8.6.8.6.8.6.', 'hat.open': '..............5.' } },

  { name: 'Three cables', folder: 'Other metres', tags: ['3/4'], tempoBpm: 112, bars: 2, metre: { beats: 3, unit: 4 }, steps: 12, lines: {
    'kick': '9........... 9.........6.', 'snare': '....7...7...', 'hat.closed': '7.5.7.5.7.5.' } },
  { name: 'Slow lock', folder: 'Other metres', tags: ['6/8'], tempoBpm: 96, bars: 2, metre: SIX_EIGHT, steps: 12, lines: {
    'kick': '9.........6. 9.....5...6.', 'snare': '......9.....', 'hat.closed': '8.5.5.7.5.5.' } },
  { name: 'Long swell', folder: 'Other metres', tags: ['12/8'], tempoBpm: 132, bars: 1, metre: TWELVE_EIGHT, steps: 12, lines: {
    'kick': '9....67.....', 'snare': '...9.....9..', 'hat.closed': '855755855755' } },
  { name: 'Five berths', folder: 'Other metres', tags: ['5/4'], tempoBpm: 126, bars: 1, metre: { beats: 5, unit: 4 }, steps: 20, lines: {
    'kick': '9.....7.....8.......', 'snare': '........9.......9...', 'cymbal.ride': '7...7.5.7...7...7.5.' } },
  { name: 'Seven steps up', folder: 'Other metres', tags: ['7/8'], tempoBpm: 138, bars: 2, metre: { beats: 7, unit: 8 }, steps: 14, lines: {
    'kick': '9.....7....... 9.....7...6...', 'snare': '....9.....9...', 'hat.closed': '7.5.7.5.7.5.5.' } },
  { name: 'Nine knots', folder: 'Other metres', tags: ['9/8'], tempoBpm: 144, bars: 1, metre: { beats: 9, unit: 8 }, steps: 18, lines: {
    'kick': '9...7...8.........', 'snare': '............9.....', 'shaker': '7.4.7.4.7.4.7.4.4.' } },

  { name: 'Mooring song', folder: 'Hand percussion', tags: ['congas'], tempoBpm: 100, bars: 1, lines: {
    'hand.conga': '4.3.7.3.4.3.8.88', 'shaker': '7.5.7.5.7.5.7.5.', 'wood.claves': '8.....8.....8...' } },
  { name: 'Crossing', folder: 'Hand percussion', tags: ['claves', 'two bars'], tempoBpm: 104, bars: 2, lines: {
    'wood.claves': '8.....8.....8... ....8...8.......', 'hand.conga': '5.3.7.3.5.3.8.8.', 'metal.cowbell': '7.5.7.5.7.5.7.5.', 'hand.bongo': '6.4.5.4.6.4.5.4.' } },
  { name: 'Fish market', folder: 'Hand percussion', tags: ['busy', 'bells'], tempoBpm: 112, bars: 2, lines: {
    'metal.agogo': '8.6.6.8.8.6.6.6. 8.6.6.8.8.6.66..', 'hand.conga': '5.38..3.5.388.3.', 'shaker': '7456745674567456', 'kick': '8.....5.8.....5.' } },
  { name: 'Rope walk', folder: 'Hand percussion', tags: ['frame drum', 'sparse'], tempoBpm: 88, bars: 1, lines: {
    'hand.frame': '9..5..7...5.7...', 'shaker.tambourine': '..4...6...4...6.', 'metal.triangle': '8...............' } },
  { name: 'Hold number two', folder: 'Hand percussion', tags: ['12/8', 'bells'], tempoBpm: 160, bars: 1, metre: TWELVE_EIGHT, steps: 12, lines: {
    'metal.cowbell': '8.8.88.8.8.8', 'hand.conga': '5.37.35.37.3', 'hand.bongo': '..6.5...6.5.', 'shaker': '7..6..7..6..' } },
  { name: 'Tea glasses', folder: 'Hand percussion', tags: ['9/8', 'frame drum'], tempoBpm: 150, bars: 1, metre: { beats: 9, unit: 8 }, steps: 9, lines: {
    'hand.frame': '9.5.7.8.5', 'shaker.tambourine': '..6...6.6', 'clap': '......5.5' } },

  { name: 'Far buoy', folder: 'Sparse', tags: ['slow'], tempoBpm: 66, bars: 2, lines: {
    'kick': '9............... ..........7.....', 'rim': '........7....... ........7.....4.', 'metal.bell': '5............... ................' } },
  { name: 'Fog', folder: 'Sparse', tags: ['slow', 'cymbals'], tempoBpm: 60, bars: 2, lines: {
    'cymbal.ride': '5.......4...3...', 'tom.low': '7............... ......5.........', 'shaker': '..3...3...3...3.' } },
  { name: 'One lamp on the pier', folder: 'Sparse', tags: ['clicks'], tempoBpm: 118, bars: 2, lines: {
    'kick': '9.......9....... 9.......9.....6.', 'wood.block': '...5......6..... ...5......6..4..', 'hat.closed': '....5.......5...' } },
  { name: 'Empty quay', folder: 'Sparse', tags: ['half time'], tempoBpm: 130, bars: 2, lines: {
    'kick': '9............... ......8.........', 'snare': '........8....... ........8.......' } },

  { name: 'Down the ladder', folder: 'Fills', tags: ['toms'], tempoBpm: 100, bars: 1, lines: {
    'snare': '9.67............', 'tom.high': '....9.67........', 'tom.mid': '........9.67....', 'tom.low': '............9.79', 'kick': '9...7...7...7...' } },
  { name: 'Hatch slam', folder: 'Fills', tags: ['snare', 'short'], tempoBpm: 96, bars: 1, lines: {
    'kick': '9.......8.......', 'snare': '....9.....579.99', 'hat.closed': '8.5.7.5.8.......', 'cymbal.crash': '9...............' } },
  { name: 'Rolling stock', folder: 'Fills', tags: ['roll', 'build'], tempoBpm: 124, bars: 2, lines: {
    'snare': '4...4...4...4... 5.5.5.5.66667789', 'kick': '9...9...9...9... 9...9...9.......' } },
  { name: 'Last call', folder: 'Fills', tags: ['broken', 'stops'], tempoBpm: 110, bars: 1, lines: {
    'kick': '9..9..9.........', 'clap': '..8..8..9.......', 'cymbal.crash': '........8.......', 'rim': '..............55' } },
]

/** The name by which a shipped pattern is known in a library, the same at every start. */
export function shippedId(pattern: Pick<WrittenPattern, 'name'>): string {
  return `shipped-${pattern.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`
}
