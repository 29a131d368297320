import { z } from 'zod'
import { EmporionError, firstIssueOf } from '../../errors'
import { parsePattern, type Pattern } from '../../groove/document'
import { soundIdSchema, soundsOf, type Kit } from '../../kit/document'
import { parseKit } from '../../kit/migrate'
import { staysInside } from './bag'

const sampleSchema = z.strictObject({
  /** Below the folder of `kit.json`. */
  path: z.string().max(400).refine(path => path.startsWith('samples/') && staysInside(path), 'A sample lies outside the samples folder.'),
  bytes: z.int().min(0),
})

/** What a preset is meant as: a kit, one pad to be put into any kit, or roles without sounds. */
export const presetTypeSchema = z.enum(['kit', 'pad', 'blueprint'])
export type PresetType = z.infer<typeof presetTypeSchema>

const fileSchema = z.looseObject({
  format: z.literal('emporion-kit'),
  /** Absent in files of before there were others. */
  type: presetTypeSchema.default('kit'),
  kit: z.unknown(),
  /** The kit's own pattern; absent where it has none. */
  pattern: z.object({ id: z.string().min(1).max(80), document: z.unknown() }).optional(),
  samples: z.record(soundIdSchema, sampleSchema),
})

/** A pattern that belongs to a kit, with the id that it has in the library of patterns. */
export interface OwnPattern {
  readonly id: string
  readonly document: Pattern
}

/** `kit.json`: the kit, its pattern, and where the copy of each of its sounds lies. */
export interface KitFile {
  readonly type: PresetType
  readonly kit: Kit
  readonly pattern?: OwnPattern
  readonly samples: Readonly<Record<string, Readonly<z.infer<typeof sampleSchema>>>>
}

/** The text of `kit.json`, indented, so that a person can read it. */
export function writeKitFile(file: KitFile): string {
  return `${JSON.stringify({ format: 'emporion-kit', ...file }, null, 2)}\n`
}

/**
 * Reads `kit.json`, of this or an older version.
 *
 * @throws EmporionError `invalid` when it is no kit, lacks the place of a sample, or lists one that the kit does not use; `unsupported` when it is newer
 */
export function readKitFile(text: string): KitFile {
  const parsed = fileSchema.safeParse(parseJson(text))
  if (!parsed.success) throw new EmporionError('invalid', `kit.json is not a kit file: ${firstIssueOf(parsed.error)}.`)
  const kit = parseKit(parsed.data.kit)
  const homeless = soundsOf(kit).find(sound => !parsed.data.samples[sound.id])
  if (homeless) throw new EmporionError('invalid', `kit.json does not say where the sample of "${homeless.name}" lies.`)
  const used = new Set(soundsOf(kit).map(sound => sound.id))
  const unused = Object.entries(parsed.data.samples).find(([id]) => !used.has(id))
  if (unused) throw new EmporionError('invalid', `kit.json lists ${unused[1].path}, which the kit does not use.`)
  const { pattern } = parsed.data
  return { type: parsed.data.type, kit, samples: parsed.data.samples, ...(pattern ? { pattern: { id: pattern.id, document: parsePattern(pattern.document) } } : {}) }
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text)
  }
  catch {
    throw new EmporionError('invalid', 'kit.json is damaged: it is not valid JSON.')
  }
}
