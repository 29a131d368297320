import { z } from 'zod'
import { text } from '../text'
import { equalRanges, rangeAt } from './ranges'

/** The version of the kit document that this code writes. */
export const KIT_SCHEMA_VERSION = 4
export const PADS_PER_BANK = 16
export const MOST_PADS = 128
/** Layers of a pad, and sounds that one pad can choose among. */
export const MOST_LAYERS = 128
/** Characters in a pad's name. */
export const MOST_PAD_NAME = 200
/** Numbers that choke groups can have: 1 to this. */
export const MOST_GROUPS = 32
export const MOST_ARTICULATIONS = 64
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

/** -1 left, 0 centre, 1 right. */
const pan = z.number().min(-1).max(1)

/** Notes over which a sound can be played, and how its pitch follows them. */
export const noteRangeSchema = z.strictObject({
  low: note,
  high: note,
  /** The note at which it sounds at its own pitch; it may lie outside. */
  root: note,
  /** Cents a key: 100 follows the keys, 0 sounds the same on all. */
  trackCents: z.number().min(-1200).max(1200),
}).refine(range => range.low <= range.high, 'A range\'s lowest note is above its highest.')

export const layerSchema = z.strictObject({
  sound: soundRefSchema,
  /** Its own pan, envelope, filter and notes; null: those of its pad. */
  pan: pan.nullable(),
  envelope: envelopeSchema.nullable(),
  filter: filterSchema.nullable(),
  notes: noteRangeSchema.nullable(),
  lowVelocity: z.int().min(1).max(127),
  highVelocity: z.int().min(1).max(127),
  /** Velocities from the lowest up over which the layer comes in, and up to the highest over which it goes. */
  fadeInVelocities: z.int().min(0).max(126),
  fadeOutVelocities: z.int().min(0).max(126),
  /** Its place among layers of the same velocities that take turns, from 1; null for one that sounds at every hit. */
  turn: z.int().min(1).max(MOST_LAYERS).nullable(),
  /** Of a number from 0 to below 1 that is drawn at each hit, the stretch at which it sounds, its end not meant; null: at any. */
  chance: z.strictObject({ low: z.number().min(0).max(1), high: z.number().min(0).max(1) }).refine(({ low, high }) => low < high, 'A layer\'s chance is none.').nullable(),
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

/** Level at a velocity, as a factor. Between two points it runs straight. */
const curvePointSchema = z.strictObject({ velocity: z.int().min(0).max(127), level: z.number().min(0).max(1) })

const group = z.int().min(1).max(MOST_GROUPS)

export const padSchema = z.strictObject({
  name: text(MOST_PAD_NAME),
  role: text(60).nullable(),
  /** The note that it is played by. */
  note,
  /** All the notes on which it sounds, its own among them, and how its pitch follows; null: on its own alone. */
  range: noteRangeSchema.nullable(),
  gainDb,
  pan,
  tuneCents: z.number().min(-4800).max(4800),
  play: z.enum(['one-shot', 'gated']),
  envelope: envelopeSchema,
  filter: filterSchema.nullable(),
  /** 0 leaves the sound as it is. */
  driveDb: z.number().min(0).max(36),
  /** How far velocity moves the level: 1 as far as its curve goes, 0 not at all, below 0 the other way round. */
  velocityTrack: z.number().min(-1).max(1),
  /** Level over velocity, sorted; from nothing at 0 and to full at 127 where no point says otherwise. Null: (velocity / 127)^2. */
  velocityCurve: z.array(curvePointSchema).min(1).max(128).nullable(),
  /** The group that it cuts as a member. */
  chokeGroup: group.nullable(),
  /** Groups whose hits cut it off; null: those of its own. */
  chokedBy: z.array(group).max(MOST_GROUPS).nullable(),
  /** Time over which it is cut off; 0: at once, without a click. */
  chokeSeconds: z.number().min(0).max(30),
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
  /** A MIDI controller that moves that value. */
  alternateController: z.int().min(0).max(127).nullable(),
  /** The articulation of the kit that it sounds in; null: in all. */
  articulation: z.string().max(40).nullable(),
  layers: z.array(layerSchema).max(MOST_LAYERS),
}).refine(pad => !pad.range || (pad.range.low <= pad.note && pad.note <= pad.range.high), 'A pad\'s own note lies outside its range.')
  .refine(pad => pad.velocityCurve?.every((point, i, all) => i === 0 || all[i - 1]!.velocity < point.velocity) ?? true, 'The points of a velocity curve are out of order.')

/** A way of playing, of which one is in force for the whole kit. */
export const articulationSchema = z.strictObject({
  id: z.string().regex(/^[^/]{1,40}$/, 'An articulation is named by up to 40 signs without a slash.'),
  name: text(80).min(1),
  /** A key that brings it into force. */
  key: note.nullable(),
  /** In force only while its key is held. */
  whileHeld: z.boolean(),
})

export const outputSchema = z.strictObject({ id: z.string().min(1).max(40), name: text(80).min(1) })

export const kitSchema = z.strictObject({
  schema: z.literal(KIT_SCHEMA_VERSION),
  name: text(120).min(1),
  /** On top of what each pad has. */
  gainDb,
  /** What a sound gets that is put on a pad which had none: packs are hotter than a mix wants. */
  newSoundGainDb: gainDb,
  polyphony: z.int().min(1).max(256),
  /** What it is made for, by the name of its limits; null: nothing in particular. */
  target: z.string().max(60).nullable(),
  outputs: z.array(outputSchema).min(1).max(MOST_OUTPUTS),
  articulations: z.array(articulationSchema).max(MOST_ARTICULATIONS),
  /** The one in force before any is chosen; null: the first. */
  articulation: z.string().max(40).nullable(),
  /** A MIDI controller that chooses among them, over equal ranges. */
  articulationController: z.int().min(0).max(127).nullable(),
  /** Voices that the pads of a choke group may have at once, together. */
  groupPolyphony: z.array(z.strictObject({ group, voices: z.int().min(1).max(256) })).max(MOST_GROUPS),
  pads: z.array(padSchema).min(PADS_PER_BANK).max(MOST_PADS),
}).refine(kit => kit.pads.length % PADS_PER_BANK === 0, `Pads come in banks of ${PADS_PER_BANK}.`)
  .refine(kit => kit.pads.every(pad => kit.outputs.some(output => output.id === pad.output)), 'A pad goes to an output that the kit does not have.')
  .refine(kit => [kit.articulation, ...kit.pads.map(pad => pad.articulation)].every(id => id === null || kit.articulations.some(one => one.id === id)), 'A pad belongs to an articulation that the kit does not have.')

export type Envelope = Readonly<z.infer<typeof envelopeSchema>>
export type Filter = Readonly<z.infer<typeof filterSchema>>
export type NoteRange = Readonly<z.infer<typeof noteRangeSchema>>
export type Articulation = Readonly<z.infer<typeof articulationSchema>>
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
    name: '', role: null, note: padNote, range: null, gainDb: 0, pan: 0, tuneCents: 0, play: 'one-shot', envelope: PLAIN_ENVELOPE, filter: null, driveDb: 0,
    velocityTrack: 1, velocityCurve: null, chokeGroup: null, chokedBy: null, chokeSeconds: 0, polyphony: null, output: 'main',
    muted: false, soloed: false, held: false, notes: '', alternate: null, alternateController: null, articulation: null, layers: [],
  }
}

/** A kit of one empty bank. */
export function emptyKit(name: string): Kit {
  return {
    schema: KIT_SCHEMA_VERSION,
    name,
    gainDb: 0,
    newSoundGainDb: 0,
    polyphony: 64,
    target: null,
    outputs: [{ id: 'main', name: 'Main' }],
    articulations: [],
    articulation: null,
    articulationController: null,
    groupPolyphony: [],
    pads: Array.from({ length: PADS_PER_BANK }, (_, i) => emptyPad(FIRST_NOTE + i)),
  }
}

/** A layer that sounds whole, at every velocity. */
export function wholeLayer(sound: SoundRef): Layer {
  return {
    sound, pan: null, envelope: null, filter: null, notes: null,
    lowVelocity: 1, highVelocity: 127, fadeInVelocities: 0, fadeOutVelocities: 0, turn: null, chance: null, gainDb: 0, tuneCents: 0, reverse: false,
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
