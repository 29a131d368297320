import { z } from 'zod'
import { text } from '../text'
import { equalRanges, rangeAt } from './ranges'

/** The version of the kit document that this code writes. */
export const KIT_SCHEMA_VERSION = 2
export const PADS_PER_BANK = 16
export const MOST_PADS = 128
export const MOST_LAYERS = 16
/** Characters in a pad's name. */
export const MOST_PAD_NAME = 200
/** Sounds that one pad can choose among. */
export const MOST_ALTERNATES = 128
export const MOST_OUTPUTS = 16
/** Note of the first pad of a new kit (common practice: 16 pads from 36 up). */
export const FIRST_NOTE = 36

export const soundIdSchema = z.string().regex(/^[0-9a-f]{64}$/, 'A sound is named by the SHA-256 of its audio.')

const gainDb = z.number().min(-96).max(24)
const note = z.int().min(0).max(127)

/** What a kit must know of a sound to show it even when its file is away. */
export const soundRefSchema = z.strictObject({
  id: soundIdSchema,
  name: text(400).min(1),
  frames: z.int().min(1),
  sampleRate: z.int().min(1),
  channels: z.int().min(1).max(32),
})

export const layerSchema = z.strictObject({
  sound: soundRefSchema,
  lowVelocity: z.int().min(1).max(127),
  highVelocity: z.int().min(1).max(127),
  /** Velocities from the lowest up over which the layer comes in, and up to the highest over which it goes. */
  fadeInVelocities: z.int().min(0).max(126),
  fadeOutVelocities: z.int().min(0).max(126),
  /** Its place among layers of the same velocities that take turns, from 1; null for one that sounds at every hit. */
  turn: z.int().min(1).max(MOST_LAYERS).nullable(),
  gainDb,
  tuneCents: z.number().min(-4800).max(4800),
  reverse: z.boolean(),
  /** First frame that sounds, in the sound's own rate. */
  startFrame: z.int().min(0),
  /** Frame after the last that sounds. */
  endFrame: z.int().min(1),
  /** Length of the fades at the start and at the end, in frames of the sound's own rate. */
  fadeInFrames: z.int().min(0),
  fadeOutFrames: z.int().min(0),
}).refine(layer => layer.lowVelocity <= layer.highVelocity, 'A layer\'s lowest velocity is above its highest.')
  .refine(layer => layer.startFrame < layer.endFrame && layer.endFrame <= layer.sound.frames, 'A layer\'s start and end lie outside its sound.')

/** How the level of each hit runs. Units: seconds. */
export const envelopeSchema = z.strictObject({
  /** From silence to full level, in a straight line. */
  attackSeconds: z.number().min(0).max(10),
  /** At full level. */
  holdSeconds: z.number().min(0).max(30),
  /** Time to fall by 60 dB after that, evenly in dB; null: it does not fall. */
  decaySeconds: z.number().min(0.001).max(60).nullable(),
  /** The same after the key of a gated pad was let go. */
  releaseSeconds: z.number().min(0.001).max(60),
})

export const filterSchema = z.strictObject({
  type: z.enum(['low-pass', 'high-pass', 'band-pass']),
  cutoffHz: z.number().min(20).max(20_000),
  /** Height of the peak at the cutoff over that of a filter without one. */
  resonanceDb: z.number().min(0).max(30),
})

export const padSchema = z.strictObject({
  name: text(MOST_PAD_NAME),
  role: text(60).nullable(),
  note,
  gainDb,
  /** -1 left, 0 centre, 1 right. */
  pan: z.number().min(-1).max(1),
  tuneCents: z.number().min(-4800).max(4800),
  play: z.enum(['one-shot', 'gated']),
  envelope: envelopeSchema,
  filter: filterSchema.nullable(),
  /** 0 leaves the sound as it is. */
  driveDb: z.number().min(0).max(36),
  /** Pads of one group cut each other off. */
  chokeGroup: z.int().min(1).max(32).nullable(),
  /** Voices of this pad at once at most; null: as many as the kit has. */
  polyphony: z.int().min(1).max(64).nullable(),
  output: z.string(),
  muted: z.boolean(),
  soloed: z.boolean(),
  /** Kept as it is when sounds are put on pads by the program's choice. */
  held: z.boolean(),
  notes: text(2000),
  /** A value that chooses the one layer that sounds, over equal ranges; null: layers sound by velocity and turn. */
  alternate: z.int().min(0).max(127).nullable(),
  layers: z.array(layerSchema).max(MOST_ALTERNATES),
}).refine(pad => pad.alternate !== null || pad.layers.length <= MOST_LAYERS, `A pad has ${MOST_LAYERS} layers at most, and ${MOST_ALTERNATES} alternates.`)

export const outputSchema = z.strictObject({ id: z.string().min(1).max(40), name: text(80).min(1) })

export const kitSchema = z.strictObject({
  schema: z.literal(KIT_SCHEMA_VERSION),
  name: text(120).min(1),
  /** On top of what each pad has. */
  gainDb,
  polyphony: z.int().min(1).max(256),
  /** What it is made for, by the name of its limits; null: nothing in particular. */
  target: z.string().max(60).nullable(),
  outputs: z.array(outputSchema).min(1).max(MOST_OUTPUTS),
  pads: z.array(padSchema).min(PADS_PER_BANK).max(MOST_PADS),
}).refine(kit => kit.pads.length % PADS_PER_BANK === 0, `Pads come in banks of ${PADS_PER_BANK}.`)
  .refine(kit => kit.pads.every(pad => kit.outputs.some(output => output.id === pad.output)), 'A pad goes to an output that the kit does not have.')

export type Envelope = Readonly<z.infer<typeof envelopeSchema>>
export type Filter = Readonly<z.infer<typeof filterSchema>>
export type Output = Readonly<z.infer<typeof outputSchema>>
export type SoundRef = Readonly<z.infer<typeof soundRefSchema>>
export type Layer = Readonly<z.infer<typeof layerSchema>>
export type Pad = Readonly<Omit<z.infer<typeof padSchema>, 'layers'>> & { readonly layers: readonly Layer[] }
export type Kit = Readonly<Omit<z.infer<typeof kitSchema>, 'pads'>> & { readonly pads: readonly Pad[] }

/** A hit at full level from its first frame to its last, let go without a click. */
export const PLAIN_ENVELOPE: Envelope = { attackSeconds: 0, holdSeconds: 0, decaySeconds: null, releaseSeconds: 0.01 }

/** A pad with no sound on it. */
export function emptyPad(padNote: number): Pad {
  return {
    name: '', role: null, note: padNote, gainDb: 0, pan: 0, tuneCents: 0, play: 'one-shot', envelope: PLAIN_ENVELOPE, filter: null, driveDb: 0,
    chokeGroup: null, polyphony: null, output: 'main', muted: false, soloed: false, held: false, notes: '', alternate: null, layers: [],
  }
}

/** A kit of one empty bank. */
export function emptyKit(name: string): Kit {
  return {
    schema: KIT_SCHEMA_VERSION,
    name,
    gainDb: 0,
    polyphony: 64,
    target: null,
    outputs: [{ id: 'main', name: 'Main' }],
    pads: Array.from({ length: PADS_PER_BANK }, (_, i) => emptyPad(FIRST_NOTE + i)),
  }
}

/** A layer that sounds whole, at every velocity. */
export function wholeLayer(sound: SoundRef): Layer {
  return {
    sound, lowVelocity: 1, highVelocity: 127, fadeInVelocities: 0, fadeOutVelocities: 0, turn: null, gainDb: 0, tuneCents: 0, reverse: false,
    startFrame: 0, endFrame: sound.frames, fadeInFrames: 0, fadeOutFrames: 0,
  }
}

/** Every sound that a kit refers to, once each, in the order of its pads. */
export function soundsOf(kit: Pick<Kit, 'pads'>): SoundRef[] {
  return distinct(kit.pads.flatMap(pad => pad.layers))
}

/**
 * The sounds that can be heard as the kit stands: of alternates only the one that is chosen, and those that are asked for.
 *
 * @param asked values asked of pads with alternates, by the index of the pad
 */
export function playingSoundsOf(kit: Kit, asked?: ReadonlyMap<number, ReadonlySet<number>>): SoundRef[] {
  return distinct(kit.pads.flatMap((pad, index) => {
    if (pad.alternate === null) return pad.layers
    const chosen = new Set([pad.alternate, ...asked?.get(index) ?? []].map(value => chosenAlternate(pad, value)))
    return pad.layers.filter((_, layer) => chosen.has(layer))
  }))
}

/** The layer that a pad of alternates plays, by its own value or another; undefined for any other pad. */
export function chosenAlternate(pad: Pad, value = pad.alternate): number | undefined {
  return pad.alternate === null || value === null ? undefined : rangeAt(value, pad.layers.length)
}

/** Values of a pad of alternates that choose the ones beside the chosen one; none for any other pad. */
export function valuesBeside(pad: Pad): number[] {
  const chosen = chosenAlternate(pad)
  if (chosen === undefined) return []
  const ranges = equalRanges(pad.layers.length)
  return [ranges[chosen - 1], ranges[chosen + 1]].flatMap(range => range ? [range.low] : [])
}

function distinct(layers: readonly Layer[]): SoundRef[] {
  const found = new Map<string, SoundRef>()
  for (const { sound } of layers) {
    if (!found.has(sound.id)) found.set(sound.id, sound)
  }
  return [...found.values()]
}
