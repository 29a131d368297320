import { groupBy } from '../groupBy'
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
  { path: 'hat.closed', words: ['closed hi hat', 'closed hihat', 'hihat cl', 'hi hat cl', 'hats closed', 'closed hats', 'hat c', 'hc', 'ch', 'hi hat closed', 'hihat closed', 'closed hat', 'hat closed', 'hh closed', 'hh cl', 'hh c', 'cl hat', 'cl hh', 'chh', 'ch hat', 'c hat', 'chat', 'hhc', 'hat cl', 'hat tight', 'tight hat', 'hi hat c', 'hihat c', 'clsd hat', 'hat clsd', 'hh clsd', 'hihat clsd', 'hi hat clsd', 'hihat tight', 'hi hat tight', 'hh tight'] },
  { path: 'hat.open', words: ['open hi hat', 'open hihat', 'hihat op', 'hi hat op', 'hats open', 'open hats', 'hat o', 'ho', 'oh', 'hi hat open', 'hihat open', 'open hat', 'hat open', 'hh open', 'hh op', 'hh o', 'op hat', 'op hh', 'ohh', 'oh hat', 'o hat', 'ohat', 'hho', 'hat op', 'hi hat o', 'hihat o', 'half open hat', 'hat half open', 'hh half open', 'hihat half open', 'hh semi open', 'hh semiopen', 'hat semi open', 'hat semiopen', 'hihat semi open', 'hat half', 'hh half', 'hihat half', 'hat loose', 'hh loose', 'hihat loose', 'hat sizzle', 'hh sizzle', 'hihat sizzle'] },
  { path: 'hat.pedal', words: ['pedal hi hat', 'pedal hihat', 'hihat foot', 'hi hat foot', 'foot hi hat', 'foot hihat', 'hihat ped', 'hat p', 'hp', 'hi hat pedal', 'hihat pedal', 'pedal hat', 'hat pedal', 'hh pedal', 'hh ped', 'hh p', 'phh', 'foot hat', 'hat foot', 'hat ped', 'hh foot', 'foot hh', 'pedal hh', 'hhp', 'hats pedal', 'pedal hats', 'hh chick', 'hat chick', 'hihat chick', 'hi hat chick', 'foot chick'] },
  { path: 'hat', words: ['hi hat', 'hihat', 'hihats', 'hi hats', 'h hat', 'hhat', 'hats', 'hat', 'hh'] },
  { path: 'kick', words: ['bass drum', 'bassdrum', 'kick drum', 'kickdrum', 'kicks', 'kick', 'kik', 'kic', 'kck', 'bd', 'bdrum', 'b drum', 'bass drm', 'gran cassa', 'kdrum'] },
  { path: 'rim', words: ['side stick', 'sidestick', 'cross stick', 'crossstick', 'rim shot', 'rimshot', 'rim shots', 'rimshots', 'rim click', 'rimclick', 'x stick', 'xstick', 'sidestk', 'side stk', 'rims', 'rim', 'rs', 'stick', 'rim knock'] },
  { path: 'snare.brush', words: ['brush snare', 'snare brush', 'brushed snare', 'brushes'] },
  { path: 'snare', words: ['snare drum', 'snaredrum', 'snares', 'snare', 'snr', 'snre', 'sn', 'sd', 'sdrum', 's drum'] },
  { path: 'clap', words: ['hand clap', 'handclap', 'claps', 'clap', 'clp', 'cp', 'h clap'] },
  { path: 'snap', words: ['finger snap', 'fingersnap', 'snaps', 'snap'] },
  { path: 'tom.low', words: ['floor tom', 'low tom', 'tom low', 'tom lo', 'lo tom', 'tom floor', 'floor', 'floortom', 'ft', 'tom l', 'tl', 'lt', 'floor toms', 'low toms'] },
  { path: 'tom.mid', words: ['mid tom', 'middle tom', 'tom mid', 'tom m', 'tm', 'mt', 'mid toms'] },
  { path: 'tom.high', words: ['high tom', 'hi tom', 'small tom', 'tom high', 'tom hi', 'tom h', 'rack tom', 'ht', 'high toms', 'hi toms', 'tom rack', 'rack toms'] },
  { path: 'tom', words: ['toms', 'tom', 'tom tom', 'roto tom', 'roto toms', 'roto', 'concert tom'] },
  { path: 'cymbal.crash', words: ['crashes', 'crash', 'crsh', 'crs'] },
  { path: 'cymbal.ride', words: ['ride bell', 'ride cymbal', 'rides', 'ride', 'rd'] },
  { path: 'cymbal.splash', words: ['splash', 'splsh', 'spl', 'splashes'] },
  { path: 'cymbal.china', words: ['china', 'chinese', 'chn'] },
  { path: 'cymbal', words: ['cymbals', 'cymbal', 'cymb', 'cym', 'cy', 'sizzle'] },
  { path: 'hand.bongo', words: ['bongos', 'bongo', 'bng', 'bongoes'] },
  { path: 'hand.conga', words: ['congas', 'conga', 'cng', 'tumbadora', 'tumba', 'quinto'] },
  { path: 'hand.frame', words: ['frame drum', 'framedrum', 'bodhran', 'daf', 'bendir', 'riq'] },
  { path: 'hand.djembe', words: ['djembe', 'jembe'] },
  { path: 'hand.tabla', words: ['tabla'] },
  { path: 'hand.cajon', words: ['cajon'] },
  { path: 'hand.timbale', words: ['timbales', 'timbale'] },
  { path: 'hand', words: ['hand drums', 'hand drum', 'handdrum', 'cuica', 'surdo', 'taiko', 'udu', 'darbuka', 'darabuka', 'derbouka', 'doumbek', 'dumbek', 'tombak', 'kanjira', 'repinique', 'atabaque', 'ashiko', 'dunun', 'talking drum', 'pandeiro', 'tabor', 'mridangam', 'dholak', 'dhol'] },
  { path: 'shaker.tambourine', words: ['tambourine', 'tamb', 'tamborine', 'tambo', 'tmb', 'tam', 'jingle', 'jingles', 'tambourines', 'tambourin', 'pandereta'] },
  { path: 'shaker.maracas', words: ['maracas', 'maraca'] },
  { path: 'shaker.cabasa', words: ['cabasa'] },
  { path: 'shaker.sleigh', words: ['sleigh bells', 'sleighbells', 'sleigh', 'jingle bells'] },
  { path: 'shaker', words: ['shakers', 'shaker', 'shake', 'shkr', 'shk', 'egg', 'rattle', 'caxixi', 'ganza', 'shekere', 'chekere', 'eggs', 'rainstick'] },
  { path: 'metal.cowbell', words: ['cow bell', 'cowbell', 'cow bells', 'cowbells', 'cowb', 'cow', 'cb', 'cencerro', 'cwbl'] },
  { path: 'metal.triangle', words: ['triangles', 'triangle', 'trgl', 'tri', 'triang'] },
  { path: 'metal.agogo', words: ['agogo', 'agogos'] },
  { path: 'metal.gong', words: ['gong', 'tam tam', 'gongs'] },
  { path: 'metal.bell', words: ['bells', 'bell', 'belltree', 'bell tree', 'chime', 'chimes', 'crotale', 'crotales', 'wind chimes', 'mark tree', 'finger cymbal', 'finger cymbals', 'zill', 'zills'], weak: true },
  { path: 'metal', words: ['metals', 'metal', 'anvil', 'anvils', 'brake drum', 'clang'], weak: true },
  { path: 'wood.block', words: ['wood block', 'woodblock', 'wood blk', 'woodblk', 'w block', 'wblock', 'temple block', 'blocks', 'block', 'wb', 'wood blocks', 'temple blocks'] },
  { path: 'wood.claves', words: ['claves', 'clave', 'clav', 'clv'] },
  { path: 'wood.scraper', words: ['scraper', 'guiro', 'scrape', 'reco reco'] },
  { path: 'wood', words: ['woods', 'wood', 'sticks', 'log drum', 'slit drum', 'castanets', 'castanet', 'vibraslap', 'vibra slap', 'slapstick', 'whip'], weak: true },
  { path: 'loop', words: ['loops', 'loop', 'lp'] },
  { path: 'voice', words: ['voices', 'voice', 'vocals', 'vocal', 'vox', 'shout', 'chant', 'whisper'] },
  { path: 'effect', words: ['effects', 'effect', 'sfx', 'fx', 'riser', 'sweep', 'impact', 'noise', 'foley'], weak: true },
  { path: 'tone', words: ['tones', 'tone', 'sub', 'bass', 'stab', 'chord', 'blip', 'beep'], weak: true },
]

interface Wording {
  readonly path: string
  readonly tokens: readonly string[]
  readonly text: string
  readonly strength: number
}

const WORDINGS: readonly Wording[] = RULES.flatMap(rule => rule.words.flatMap((text) => {
  const tokens = text.split(' ')
  const strength = (rule.weak ? 0 : 10) + tokens.length * 2 + (text.length > 2 ? 1 : 0)
  const glued = tokens.join('')
  const wording = { path: rule.path, tokens, text, strength }
  return tokens.length > 1 && glued.length > 4 ? [wording, { ...wording, tokens: [glued] }] : [wording]
}))

/** Words that are known within a longer one: `deepkick`, `snareroll`. Short ones would be found in anything. */
const WITHIN = WORDINGS.filter(wording => wording.tokens.length === 1 && wording.tokens[0]!.length >= 4 && wording.strength > 10 && wording.path !== 'loop')
  .filter(wording => !['ride', 'rides', 'floor', 'egg', 'jingle', 'shake', 'china', 'stick', 'tamb', 'cowb', 'clav', 'block', 'blocks', 'chat', 'rims', 'toms', 'hats', 'roto', 'eggs', 'sticks', 'hihat c', 'hihat o', 'hi hat c', 'hi hat o'].includes(wording.text))

/** Two letters as machines are labelled. They are as often a pack's own, so that they say little, and nothing in a folder's name or beside another word. */
const LETTERS: Readonly<Record<string, string>> = { kd: 'kick', cr: 'cymbal.crash', lc: 'hand.conga', mc: 'hand.conga', ma: 'shaker.maracas', cl: 'wood.claves' }
const LETTERS_CONFIDENCE = 0.45

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
  if (!best) return kindFromLetters(file)
  const refined = found.find(entry => entry.wording.path.startsWith(`${best.wording.path}.`)) ?? best
  return {
    path: refined.wording.path,
    confidence: best.wording.strength < 10 ? best.confidence - 0.25 : best.confidence,
    evidence: `"${best.wording.text}" in the ${best.place === 'name' ? 'file name' : `folder name "${best.text}"`}`,
  }
}

function kindFromLetters(file: string): KindGuess | undefined {
  const words = nameTokens(file).filter(token => !/^\d+$/.test(token))
  const path = words.length === 1 ? LETTERS[words[0]!] : undefined
  return path ? { path, confidence: LETTERS_CONFIDENCE, evidence: `"${words[0]}" in the file name, which may be something else` } : undefined
}

/** The strongest word of the trade in any text. */
export function kindInText(text: string): { path: string, word: string, isWeak: boolean } | undefined {
  const wording = strongest(nameTokens(text))
  return wording && { path: wording.path, word: wording.text, isWeak: wording.strength < 10 }
}

/** Wordings by their first word, so that a name is not held against each of hundreds. */
const BY_FIRST_WORD = groupBy(WORDINGS.map((wording, order) => ({ ...wording, order })), wording => wording.tokens[0]!)

/** The strongest wording in a name, of equal ones the first of the list; a loop before all. */
function strongest(tokens: readonly string[]): Wording | undefined {
  let best: (Wording & { readonly order: number }) | undefined
  for (let i = 0; i < tokens.length; i++) {
    for (const wording of BY_FIRST_WORD.get(tokens[i]!) ?? []) {
      if (!isAt(tokens, i, wording.tokens)) continue
      if (wording.path === 'loop') return wording
      if (!best || wording.strength > best.strength || (wording.strength === best.strength && wording.order < best.order)) best = wording
    }
  }
  return best ?? within(tokens)
}

function within(tokens: readonly string[]): Wording | undefined {
  const found = WITHIN.find(wording => tokens.some(token => token.startsWith(wording.tokens[0]!) || token.endsWith(wording.tokens[0]!)))
  // Less sure than a word that stands alone.
  return found && { ...found, strength: 0 }
}

function isAt(tokens: readonly string[], place: number, run: readonly string[]): boolean {
  return run.every((word, i) => tokens[place + i] === word)
}
