/** Words that people write for a kind of sound. */
export interface KindWords {
  readonly path: string
  /** Alternatives; each is a run of words that must follow one another. */
  readonly words: readonly string[]
  /** Words that are often something else (`bell` in `ride bell`) give way to stronger ones. */
  readonly weak?: boolean
  /** Words that say nothing in a folder's name: what lies in `Breaks` are not all loops. */
  readonly inFileNameOnly?: boolean
}

/** The habits of naming drum sounds (common practice), longest wording first within a rule. */
export const KIND_WORDS: readonly KindWords[] = [
  { path: 'hat.closed', words: ['closed hi hat', 'close hat', 'close hats', 'close hh', 'close hihat', 'close hi hat', 'closed hihat', 'hihat cl', 'hi hat cl', 'hats closed', 'closed hats', 'hat c', 'hc', 'ch', 'hi hat closed', 'hihat closed', 'closed hat', 'hat closed', 'hh closed', 'hh cl', 'hh c', 'cl hat', 'cl hh', 'chh', 'ch hat', 'c hat', 'chat', 'hhc', 'hat cl', 'hat tight', 'tight hat', 'hi hat c', 'hihat c', 'clsd hat', 'hat clsd', 'hh clsd', 'hihat clsd', 'hi hat clsd', 'hihat tight', 'hi hat tight', 'hh tight'] },
  { path: 'hat.open', words: ['open hi hat', 'open hihat', 'hihat op', 'hi hat op', 'hats open', 'open hats', 'hat o', 'ho', 'oh', 'hi hat open', 'hihat open', 'open hat', 'hat open', 'hh open', 'hh op', 'hh o', 'op hat', 'op hh', 'ohh', 'oh hat', 'o hat', 'ohat', 'hho', 'hat op', 'hi hat o', 'hihat o', 'half open hat', 'hat half open', 'hh half open', 'hihat half open', 'hh semi open', 'hh semiopen', 'hat semi open', 'hat semiopen', 'hihat semi open', 'hat half', 'hh half', 'hihat half', 'hat loose', 'hh loose', 'hihat loose', 'hat sizzle', 'hh sizzle', 'hihat sizzle'] },
  { path: 'hat.pedal', words: ['pedal hi hat', 'pedal hihat', 'hihat foot', 'hi hat foot', 'foot hi hat', 'foot hihat', 'hihat ped', 'hat p', 'hp', 'hi hat pedal', 'hihat pedal', 'pedal hat', 'hat pedal', 'hh pedal', 'hh ped', 'hh p', 'phh', 'foot hat', 'hat foot', 'hat ped', 'hh foot', 'foot hh', 'pedal hh', 'hhp', 'hats pedal', 'pedal hats', 'hh chick', 'hat chick', 'hihat chick', 'hi hat chick', 'foot chick', 'foot splash'] },
  { path: 'hat', words: ['hi hat', 'hihat', 'hihats', 'hi hats', 'h hat', 'hhat', 'hats', 'hat', 'hh'] },
  { path: 'kick', words: ['bass drum', 'bassdrum', 'kick drum', 'kickdrum', 'kicks', 'kick', 'kik', 'kic', 'kck', 'bd', 'bdrum', 'b drum', 'bass drm', 'gran cassa', 'kdrum', 'bdrm', 'bass drums', 'subkick'] },
  { path: 'hand.bongo', words: ['bongos', 'bongo', 'bng', 'bongoes'] },
  { path: 'hand.conga', words: ['congas', 'conga', 'cng', 'tumbadora', 'tumba', 'quinto'] },
  { path: 'hand.frame', words: ['frame drum', 'framedrum', 'bodhran', 'daf', 'bendir', 'riq'] },
  { path: 'hand.djembe', words: ['djembe', 'jembe'] },
  { path: 'hand.tabla', words: ['tabla'] },
  { path: 'hand.cajon', words: ['cajon'] },
  { path: 'hand.timbale', words: ['timbales', 'timbale'] },
  { path: 'hand', words: ['hand drums', 'hand drum', 'handdrum', 'cuica', 'surdo', 'taiko', 'udu', 'darbuka', 'darabuka', 'derbouka', 'doumbek', 'dumbek', 'tombak', 'kanjira', 'repinique', 'atabaque', 'ashiko', 'dunun', 'talking drum', 'pandeiro', 'tabor', 'mridangam', 'dholak', 'dhol'] },
  { path: 'rim', words: ['side stick', 'sidestick', 'cross stick', 'crossstick', 'rim shot', 'rimshot', 'rim shots', 'rimshots', 'rim click', 'rimclick', 'x stick', 'xstick', 'sidestk', 'side stk', 'rims', 'rim', 'rs', 'stick', 'rim knock', 'sidesticks', 'cross sticks'] },
  { path: 'snare.brush', words: ['brush snare', 'snare brush', 'brushed snare', 'brushes'] },
  { path: 'snare', words: ['snare drum', 'snaredrum', 'snares', 'snare', 'snr', 'snre', 'sn', 'sd', 'sdrum', 's drum', 'sdrm', 'snare drums'] },
  { path: 'clap', words: ['hand clap', 'handclap', 'claps', 'clap', 'clp', 'cp', 'h clap'] },
  { path: 'snap', words: ['finger snap', 'fingersnap', 'snaps', 'snap'] },
  { path: 'tom.low', words: ['floor tom', 'low tom', 'tom low', 'tom lo', 'lo tom', 'tom floor', 'floor', 'floortom', 'ft', 'tom l', 'tl', 'lt', 'floor toms', 'low toms', 'tm lo', 'tm low', 'tm fl', 'flr tom', 'tom flr'] },
  { path: 'tom.mid', words: ['mid tom', 'middle tom', 'tom mid', 'tom m', 'tm', 'mt', 'mid toms'] },
  { path: 'tom.high', words: ['high tom', 'hi tom', 'small tom', 'tom high', 'tom hi', 'tom h', 'rack tom', 'ht', 'high toms', 'hi toms', 'tom rack', 'rack toms', 'tm hi', 'tm high'] },
  { path: 'tom', words: ['toms', 'tom', 'tom tom', 'roto tom', 'roto toms', 'roto', 'concert tom'] },
  { path: 'cymbal.crash', words: ['crashes', 'crash', 'crsh', 'crs'] },
  { path: 'cymbal.ride', words: ['ride bell', 'ride cymbal', 'rides', 'ride', 'rd'] },
  { path: 'cymbal.splash', words: ['splash', 'splsh', 'spl', 'splashes'] },
  { path: 'cymbal.china', words: ['china', 'chinese', 'chn'] },
  { path: 'cymbal', words: ['cymbals', 'cymbal', 'cymb', 'cym', 'cy', 'sizzle'] },
  { path: 'shaker.tambourine', words: ['tambourine', 'tamb', 'tamborine', 'tambo', 'tmb', 'tam', 'jingle', 'jingles', 'tambourines', 'tambourin', 'pandereta'] },
  { path: 'shaker.maracas', words: ['maracas', 'maraca'] },
  { path: 'shaker.cabasa', words: ['cabasa'] },
  { path: 'shaker.sleigh', words: ['sleigh bells', 'sleighbells', 'sleigh', 'jingle bells', 'jingle bell'] },
  { path: 'shaker', words: ['shakers', 'shaker', 'shake', 'shkr', 'shk', 'egg', 'rattle', 'caxixi', 'ganza', 'shekere', 'chekere', 'eggs', 'rainstick'] },
  { path: 'metal.cowbell', words: ['cow bell', 'cowbell', 'cow bells', 'cowbells', 'cowb', 'cow', 'cb', 'cencerro', 'cwbl'] },
  { path: 'metal.triangle', words: ['triangles', 'triangle', 'trgl', 'tri', 'triang'] },
  { path: 'metal.agogo', words: ['agogo', 'agogos'] },
  { path: 'metal.gong', words: ['gong', 'tam tam', 'gongs'] },
  { path: 'metal.bell', words: ['bells', 'bell', 'belltree', 'bell tree', 'chime', 'chimes', 'crotale', 'crotales', 'wind chimes', 'mark tree', 'zill', 'zills'], weak: true },
  { path: 'metal.bell', words: ['finger cymbal', 'finger cymbals'] },
  { path: 'metal', words: ['metals', 'metal', 'metallic', 'anvil', 'anvils', 'brake drum', 'clang', 'steel drum', 'steelpan', 'steel pan', 'handpan', 'glockenspiel', 'vibraphone', 'kalimba', 'mbira'], weak: true },
  { path: 'wood.block', words: ['wood block', 'woodblock', 'wood blk', 'woodblk', 'w block', 'wblock', 'temple block', 'blocks', 'block', 'wb', 'wood blocks', 'temple blocks'] },
  { path: 'wood.claves', words: ['claves', 'clave', 'clav', 'clv'] },
  { path: 'wood.scraper', words: ['scraper', 'guiro', 'reco reco'] },
  { path: 'wood.scraper', words: ['scrape', 'scraped'], weak: true },
  { path: 'wood', words: ['woods', 'wood', 'wooden', 'sticks', 'log drum', 'slit drum', 'castanets', 'castanet', 'vibraslap', 'vibra slap', 'slapstick', 'whip', 'marimba', 'xylophone', 'balafon'], weak: true },
  { path: 'loop', words: ['loops', 'loop', 'drumloop', 'drumloops', 'toploop', 'toploops', 'percloop', 'percloops'] },
  { path: 'voice', words: ['voices', 'voice', 'vocals', 'vocal', 'vox', 'shout', 'chant', 'whisper', 'adlib', 'scream', 'laugh', 'breath', 'vocoder', 'choir'] },
  { path: 'effect', words: ['effects', 'effect', 'sfx', 'fx', 'riser', 'sweep', 'impact', 'noise', 'foley', 'risers', 'uplifter', 'uplifters', 'downlifter', 'downlifters', 'lifter', 'whoosh', 'swoosh', 'zap', 'glitch', 'crackle', 'explosion', 'siren', 'laser', 'atmos', 'ambience', 'impacts', 'sweeps', 'noises'], weak: true },
  { path: 'tone', words: ['tones', 'tone', 'sub', 'bass', 'stab', 'chord', 'blip', 'beep', 'synth', 'piano', 'pluck', 'lead', 'organ', 'arp', 'drone', 'chords', 'stabs'], weak: true },
  { path: 'loop', words: ['lp', 'break', 'breaks', 'beat', 'beats', 'groove', 'grooves', 'fill', 'fills'], weak: true, inFileNameOnly: true },
]

/** The same in German, French, Spanish, Italian and Portuguese, without accents. Known as whole words alone. */
export const KIND_WORDS_ELSEWHERE: readonly KindWords[] = [
  { path: 'hat', words: ['charleston', 'charley', 'chimbal', 'contratempo'] },
  { path: 'kick', words: ['grosse trommel', 'basstrommel', 'grosse caisse', 'bombo', 'bumbo', 'cassa', 'grancassa'] },
  { path: 'hand.frame', words: ['rahmentrommel', 'pandero'] },
  { path: 'hand', words: ['handtrommel'] },
  { path: 'snare.brush', words: ['besen'] },
  { path: 'snare', words: ['kleine trommel', 'caisse claire', 'caja', 'caixa', 'tarola', 'redoblante', 'rullante'] },
  { path: 'clap', words: ['klatschen', 'palmas', 'palmada', 'battimani'] },
  { path: 'snap', words: ['schnipsen', 'schnippen'] },
  { path: 'tom.low', words: ['standtom', 'stand tom', 'tom basse', 'timpano'] },
  { path: 'tom.high', words: ['hangetom'] },
  { path: 'cymbal', words: ['becken', 'cymbale', 'cymbales', 'platillo', 'platillos', 'plato', 'platos', 'prato', 'pratos', 'piatto', 'piatti'] },
  { path: 'shaker.tambourine', words: ['schellenkranz', 'schellenring', 'schellen', 'tamburin', 'tamburello', 'pandeirola'] },
  { path: 'shaker', words: ['rassel', 'rasseln', 'chocalho', 'sonajero'] },
  { path: 'metal.cowbell', words: ['kuhglocke', 'kuhglocken', 'campanaccio'] },
  { path: 'metal.triangle', words: ['triangel', 'triangolo', 'triangulo'] },
  { path: 'metal.bell', words: ['glocke', 'glocken', 'cloche', 'cloches', 'campana', 'campanas', 'sino', 'sinos'], weak: true },
  { path: 'wood.block', words: ['holzblock', 'holzblocke'] },
  { path: 'wood.claves', words: ['klangholz', 'klangholzer'] },
  { path: 'voice', words: ['stimme', 'stimmen', 'voix', 'voz', 'voce'], weak: true },
  { path: 'effect', words: ['rauschen', 'gerausch', 'gerausche', 'bruit', 'ruido', 'rumore'], weak: true },
]

/** Words that say which subkind it is, wherever they stand beside a word for its kind: `Hats/Closed/03`, `Tom 16 floor`. */
export const FINER_WORDS: Readonly<Record<string, ReadonlyMap<string, string>>> = {
  hat: finer({
    'hat.closed': 'closed close clsd cl shut tight geschlossen zu ferme fermee cerrado chiuso fechado',
    'hat.open': 'open opened opn op half loose semi semiopen sizzle offen auf ouvert ouverte abierto aperto aberto',
    'hat.pedal': 'pedal ped foot chick fuss pied',
  }),
  tom: finer({
    'tom.low': 'low lo floor flr tief grave',
    'tom.mid': 'mid middle mittel',
    'tom.high': 'high hi rack small hoch aigu agudo',
  }),
  cymbal: finer({ 'cymbal.crash': 'cr' }),
  snare: finer({ 'snare.brush': 'brush brushes brushed besen' }),
}

function finer(words: Readonly<Record<string, string>>): ReadonlyMap<string, string> {
  return new Map(Object.entries(words).flatMap(([path, list]) => list.split(' ').map(word => [word, path] as const)))
}

/** Two letters as machines are labelled. They are as often a pack's own, so that they say little, and nothing in a folder's name or beside another word. */
export const KIND_LETTERS: ReadonlyMap<string, string> = new Map([['kd', 'kick'], ['cr', 'cymbal.crash'], ['lc', 'hand.conga'], ['mc', 'hand.conga'], ['ma', 'shaker.maracas'], ['cl', 'wood.claves']])
