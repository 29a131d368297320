import { velocityRanges } from '../core/kit/ranges'
import { groupBy } from '../core/groupBy'
import { allPacks } from './packs/packs'

/** A kit of the demo: an SFZ file beside the packs, with the paths of its samples below it. */
export interface DemoKit {
  readonly path: string
  readonly text: string
}

const FIRST_NOTE = 36
const HATS = 1
const STROKES = ['soft', 'mid', 'hard']
/** How the pads of a family lie between the ears, one after the other. */
const PANS: Readonly<Record<string, readonly number[]>> = { 'Floor Tom': [60, 45], 'Mid Tom': [10, -5], 'High Tom': [-35, -50], 'Frame Drum': [-70, 0, 70], 'Tamb': [30, 40, 50] }

/** The whole crew at once: every instrument of the night ferry in three strokes, and the hats and chinas of the engine room. */
export function allKits(seed: number): DemoKit[] {
  const paths = allPacks(seed).map(file => file.path)
  const strokes = groupBy(paths.filter(path => / (soft|mid|hard)\.wav$/.test(path)), path => path.replace(/ (soft|mid|hard)\.wav$/, ''))
  const hands = [...strokes].map(([instrument, files]) => ({ name: instrument.slice(instrument.lastIndexOf('/') + 1), regions: layered(files), extra: '' }))
  const takes = (name: string) => paths.filter(path => path.includes(` - ${name} - take `))
  const hats = ['hi-hat closed', 'hi-hat open'].map(name => ({ name, regions: inTurn(takes(name)), extra: ` group=${HATS} off_by=${HATS}` }))
  const chinas = takes('china').map((path, i) => ({ name: `china ${i + 1}`, regions: [`<region> sample=${path}`], extra: '' }))
  const counts = new Map<string, number>()
  const groups = [...hands, ...hats, ...chinas].map(({ name, regions, extra }, i) => {
    const family = name.replace(/ \d+$/, '')
    const at = counts.get(family) ?? 0
    counts.set(family, at + 1)
    const pan = PANS[family]?.[at]
    const note = FIRST_NOTE + i
    return [`<group> key=${note} pitch_keycenter=${note} loop_mode=one_shot${pan === undefined ? '' : ` pan=${pan}`}${extra}`, `group_label=${name}`, ...regions].join('\n')
  })
  return [{ path: 'All hands on the night ferry.sfz', text: `// All hands on the night ferry\n\n${groups.join('\n\n')}\n` }]
}

function layered(files: readonly string[]): string[] {
  const ranges = velocityRanges(STROKES.length)
  return STROKES.flatMap((stroke, i) => {
    const file = files.find(path => path.endsWith(` ${stroke}.wav`))
    return file ? [`<region> lovel=${ranges[i]!.low} hivel=${ranges[i]!.high} sample=${file}`] : []
  })
}

function inTurn(files: readonly string[]): string[] {
  return files.map((path, i) => `<region> seq_length=${files.length} seq_position=${i + 1} sample=${path}`)
}
