/** One kind in the tree: its path and its word. */
export interface Kind {
  readonly path: string
  readonly label: string
}

const TREE: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  kick: {},
  snare: { brush: 'Brushed snare' },
  rim: {},
  clap: {},
  snap: {},
  hat: { closed: 'Closed hat', open: 'Open hat', pedal: 'Pedal hat' },
  tom: { low: 'Low tom', mid: 'Mid tom', high: 'High tom' },
  cymbal: { crash: 'Crash', ride: 'Ride', splash: 'Splash', china: 'China' },
  hand: { bongo: 'Bongo', conga: 'Conga', frame: 'Frame drum', djembe: 'Djembe', tabla: 'Tabla', cajon: 'Cajon', timbale: 'Timbale' },
  shaker: { maracas: 'Maracas', tambourine: 'Tambourine', cabasa: 'Cabasa', sleigh: 'Sleigh bells' },
  metal: { cowbell: 'Cowbell', triangle: 'Triangle', bell: 'Bell', gong: 'Gong', agogo: 'Agogo' },
  wood: { block: 'Wood block', claves: 'Claves', scraper: 'Scraper' },
  voice: {},
  effect: {},
  tone: {},
  loop: {},
}

/** Every kind, parents before their children, in the order in which they are shown. */
export const KINDS: readonly Kind[] = Object.entries(TREE).flatMap(([top, children]) => [
  { path: top, label: capital(top) },
  ...Object.entries(children).map(([child, label]) => ({ path: `${top}.${child}`, label })),
])

const LABELS = new Map(KINDS.map(kind => [kind.path, kind.label]))

/** The word for a kind's path, or the path itself when it is not in the tree. */
export function kindLabel(path: string): string {
  return LABELS.get(path) ?? path
}

/** True for a path of the tree. */
export function isKind(path: string): boolean {
  return LABELS.has(path)
}

/** The first part of a kind's path: `hat` of `hat.closed`. */
export function topKind(path: string): string {
  return path.split('.', 1)[0]!
}

function capital(word: string): string {
  return word.charAt(0).toUpperCase() + word.slice(1)
}
