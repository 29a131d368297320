import { nameTokens } from './tokens'

/** What a name says of a sound's kind. */
export interface KindGuess {
  readonly path: string
  /** 0 to 1. A word in the file's own name weighs more than one in a folder's. */
  readonly confidence: number
  /** The words it rests on, as a person would be shown them. */
  readonly evidence: string
}

interface Rule {
  readonly path: string
  /** Alternatives; each is a run of tokens that must follow one another. */
  readonly words: readonly string[]
  /** Words that are often something else (`bell` in `ride bell`) give way to stronger ones. */
  readonly weak?: boolean
}

/** The habits of naming drum sounds (common practice), longest wording first within a rule. */
const RULES: readonly Rule[] = [
  { path: 'hat.closed', words: ['closed hi hat', 'closed hihat', 'hi hat closed', 'hihat closed', 'closed hat', 'hat closed', 'hh closed', 'hh cl', 'hh c', 'cl hat', 'cl hh', 'chh', 'ch hat', 'c hat', 'chat', 'hhc', 'hat cl', 'hat tight', 'tight hat'] },
  { path: 'hat.open', words: ['open hi hat', 'open hihat', 'hi hat open', 'hihat open', 'open hat', 'hat open', 'hh open', 'hh op', 'hh o', 'op hat', 'op hh', 'ohh', 'oh hat', 'o hat', 'ohat', 'hho', 'hat op'] },
  { path: 'hat.pedal', words: ['pedal hi hat', 'pedal hihat', 'hi hat pedal', 'hihat pedal', 'pedal hat', 'hat pedal', 'hh pedal', 'hh ped', 'hh p', 'phh', 'foot hat', 'hat foot', 'hat ped'] },
  { path: 'hat', words: ['hi hat', 'hihat', 'hats', 'hat', 'hh'] },
  { path: 'kick', words: ['bass drum', 'bassdrum', 'kick drum', 'kickdrum', 'kicks', 'kick', 'kik', 'kck', 'bd', 'bdrum'] },
  { path: 'rim', words: ['side stick', 'sidestick', 'cross stick', 'crossstick', 'rim shot', 'rimshot', 'rims', 'rim', 'rs', 'stick'] },
  { path: 'snare.brush', words: ['brush snare', 'snare brush', 'brushed snare', 'brushes'] },
  { path: 'snare', words: ['snare drum', 'snaredrum', 'snares', 'snare', 'snr', 'sn', 'sd', 'sdrum'] },
  { path: 'clap', words: ['hand clap', 'handclap', 'claps', 'clap', 'clp', 'cp'] },
  { path: 'snap', words: ['finger snap', 'fingersnap', 'snaps', 'snap'] },
  { path: 'tom.low', words: ['floor tom', 'low tom', 'tom low', 'tom lo', 'lo tom', 'tom floor', 'tom l', 'tl', 'lt'] },
  { path: 'tom.mid', words: ['mid tom', 'middle tom', 'tom mid', 'tom m', 'tm', 'mt'] },
  { path: 'tom.high', words: ['high tom', 'hi tom', 'tom high', 'tom hi', 'tom h', 'rack tom', 'ht'] },
  { path: 'tom', words: ['toms', 'tom'] },
  { path: 'cymbal.crash', words: ['crashes', 'crash', 'crsh', 'crs'] },
  { path: 'cymbal.ride', words: ['ride bell', 'ride cymbal', 'rides', 'ride', 'rd'] },
  { path: 'cymbal.splash', words: ['splash', 'splsh'] },
  { path: 'cymbal.china', words: ['china', 'chinese', 'chn'] },
  { path: 'cymbal', words: ['cymbals', 'cymbal', 'cym', 'cy'] },
  { path: 'hand.bongo', words: ['bongos', 'bongo', 'bng'] },
  { path: 'hand.conga', words: ['congas', 'conga', 'cng'] },
  { path: 'hand.frame', words: ['frame drum', 'framedrum', 'bodhran', 'daf'] },
  { path: 'hand.djembe', words: ['djembe', 'jembe'] },
  { path: 'hand.tabla', words: ['tabla'] },
  { path: 'hand.cajon', words: ['cajon'] },
  { path: 'hand.timbale', words: ['timbales', 'timbale'] },
  { path: 'hand', words: ['hand drums', 'hand drum', 'handdrum'] },
  { path: 'shaker.tambourine', words: ['tambourine', 'tamb', 'tamborine'] },
  { path: 'shaker.maracas', words: ['maracas', 'maraca'] },
  { path: 'shaker.cabasa', words: ['cabasa'] },
  { path: 'shaker.sleigh', words: ['sleigh bells', 'sleighbells', 'sleigh'] },
  { path: 'shaker', words: ['shakers', 'shaker', 'shkr', 'shk', 'egg'] },
  { path: 'metal.cowbell', words: ['cow bell', 'cowbell', 'cowb', 'cb'] },
  { path: 'metal.triangle', words: ['triangles', 'triangle', 'trgl', 'tri'] },
  { path: 'metal.agogo', words: ['agogo'] },
  { path: 'metal.gong', words: ['gong', 'tam tam'] },
  { path: 'metal.bell', words: ['bells', 'bell', 'chime', 'chimes'], weak: true },
  { path: 'metal', words: ['metals', 'metal', 'anvil', 'clang'], weak: true },
  { path: 'wood.block', words: ['wood block', 'woodblock', 'temple block', 'blocks', 'block', 'wb'] },
  { path: 'wood.claves', words: ['claves', 'clave', 'clv'] },
  { path: 'wood.scraper', words: ['scraper', 'guiro', 'scrape'] },
  { path: 'wood', words: ['woods', 'wood'], weak: true },
  { path: 'loop', words: ['loops', 'loop', 'lp'] },
  { path: 'voice', words: ['voices', 'voice', 'vocals', 'vocal', 'vox', 'shout', 'chant', 'whisper'] },
  { path: 'effect', words: ['effects', 'effect', 'sfx', 'fx', 'riser', 'sweep', 'impact', 'noise', 'foley'], weak: true },
  { path: 'tone', words: ['tones', 'tone', 'sub', 'bass', 'stab', 'chord', 'blip', 'beep'], weak: true },
  { path: 'hand', words: ['perc', 'percussion'], weak: true },
]

interface Wording {
  readonly path: string
  readonly tokens: readonly string[]
  readonly text: string
  readonly strength: number
}

const WORDINGS: readonly Wording[] = RULES
  .flatMap(rule => rule.words.map((text) => {
    const tokens = text.split(' ')
    return { path: rule.path, tokens, text, strength: (rule.weak ? 0 : 10) + tokens.length * 2 + (text.length > 2 ? 1 : 0) }
  }))

/**
 * Infers a kind from a file's name and the folders it lies in, nearest folder first. `loop` in a folder's name
 * outweighs instruments in the file's name, since a "kick loop" is a loop.
 *
 * @param path relative, with `/` between its parts
 * @returns undefined when no word of the trade was found
 */
export function kindFromName(path: string): KindGuess | undefined {
  const parts = path.split('/').filter(Boolean)
  const file = (parts.pop() ?? '').replace(/\.[^.]*$/, '')
  const folders = parts.reverse()
  const places = [{ text: file, confidence: 0.9, place: 'name' }, ...folders.map((text, i) => ({ text, confidence: Math.max(0.4, 0.75 - i * 0.1), place: 'folder' }))]
  const found = places.flatMap((place) => {
    const wording = strongest(nameTokens(place.text))
    return wording ? [{ ...place, wording }] : []
  })
  const loop = found.find(entry => entry.wording.path === 'loop')
  const best = loop ?? found[0]
  if (!best) return undefined
  const refined = found.find(entry => entry.wording.path.startsWith(`${best.wording.path}.`)) ?? best
  return {
    path: refined.wording.path,
    confidence: best.wording.strength < 10 ? best.confidence - 0.25 : best.confidence,
    evidence: `"${best.wording.text}" in the ${best.place === 'name' ? 'file name' : `folder name "${best.text}"`}`,
  }
}

function strongest(tokens: readonly string[]): Wording | undefined {
  let best: Wording | undefined
  for (const wording of WORDINGS) {
    if ((!best || wording.strength > best.strength || wording.path === 'loop') && contains(tokens, wording.tokens)) best = wording
    if (best?.path === 'loop') break
  }
  return best
}

function contains(tokens: readonly string[], run: readonly string[]): boolean {
  for (let i = 0; i + run.length <= tokens.length; i++) {
    if (run.every((word, j) => tokens[i + j] === word)) return true
  }
  return false
}
