import { z } from 'zod'

/** The version of the kit document that this code writes. */
export const KIT_SCHEMA_VERSION = 1
export const PADS_PER_BANK = 16
export const MOST_PADS = 128
export const MOST_LAYERS = 16
/** Note of the first pad of a new kit (common practice: 16 pads from 36 up). */
export const FIRST_NOTE = 36

export const soundIdSchema = z.string().regex(/^[0-9a-f]{64}$/, 'A sound is named by the SHA-256 of its audio.')

const gainDb = z.number().min(-96).max(24)
const note = z.int().min(0).max(127)

/** What a kit must know of a sound to show it even when its file is away. */
export const soundRefSchema = z.strictObject({
  id: soundIdSchema,
  name: z.string().min(1).max(400),
  frames: z.int().min(1),
  sampleRate: z.int().min(1),
  channels: z.int().min(1).max(32),
})

export const layerSchema = z.strictObject({
  sound: soundRefSchema,
  lowVelocity: z.int().min(1).max(127),
  highVelocity: z.int().min(1).max(127),
  gainDb,
  tuneCents: z.number().min(-4800).max(4800),
  reverse: z.boolean(),
  /** First frame that sounds, in the sound's own rate. */
  startFrame: z.int().min(0),
  /** Frame after the last that sounds. */
  endFrame: z.int().min(1),
}).refine(layer => layer.lowVelocity <= layer.highVelocity, 'A layer\'s lowest velocity is above its highest.')
  .refine(layer => layer.startFrame < layer.endFrame && layer.endFrame <= layer.sound.frames, 'A layer\'s start and end lie outside its sound.')

export const padSchema = z.strictObject({
  name: z.string().max(200),
  role: z.string().max(60).nullable(),
  note,
  gainDb,
  /** -1 left, 0 centre, 1 right. */
  pan: z.number().min(-1).max(1),
  tuneCents: z.number().min(-4800).max(4800),
  play: z.enum(['one-shot', 'gated']),
  /** Pads of one group cut each other off. */
  chokeGroup: z.int().min(1).max(32).nullable(),
  output: z.string(),
  layers: z.array(layerSchema).max(MOST_LAYERS),
})

export const outputSchema = z.strictObject({ id: z.string().min(1).max(40), name: z.string().min(1).max(80) })

export const kitSchema = z.strictObject({
  schema: z.literal(KIT_SCHEMA_VERSION),
  name: z.string().min(1).max(120),
  polyphony: z.int().min(1).max(256),
  outputs: z.array(outputSchema).min(1).max(16),
  pads: z.array(padSchema).min(PADS_PER_BANK).max(MOST_PADS),
}).refine(kit => kit.pads.length % PADS_PER_BANK === 0, `Pads come in banks of ${PADS_PER_BANK}.`)
  .refine(kit => kit.pads.every(pad => kit.outputs.some(output => output.id === pad.output)), 'A pad goes to an output that the kit does not have.')

export type SoundRef = Readonly<z.infer<typeof soundRefSchema>>
export type Layer = Readonly<z.infer<typeof layerSchema>>
export type Pad = Readonly<Omit<z.infer<typeof padSchema>, 'layers'>> & { readonly layers: readonly Layer[] }
export type Kit = Readonly<Omit<z.infer<typeof kitSchema>, 'pads'>> & { readonly pads: readonly Pad[] }

/** A pad with no sound on it. */
export function emptyPad(padNote: number): Pad {
  return { name: '', role: null, note: padNote, gainDb: 0, pan: 0, tuneCents: 0, play: 'one-shot', chokeGroup: null, output: 'main', layers: [] }
}

/** A kit of one empty bank. */
export function emptyKit(name: string): Kit {
  return {
    schema: KIT_SCHEMA_VERSION,
    name,
    polyphony: 64,
    outputs: [{ id: 'main', name: 'Main' }],
    pads: Array.from({ length: PADS_PER_BANK }, (_, i) => emptyPad(FIRST_NOTE + i)),
  }
}

/** A layer that sounds whole, at every velocity. */
export function wholeLayer(sound: SoundRef): Layer {
  return { sound, lowVelocity: 1, highVelocity: 127, gainDb: 0, tuneCents: 0, reverse: false, startFrame: 0, endFrame: sound.frames }
}

/** Every sound that a kit refers to, once each, in the order of its pads. */
export function soundsOf(kit: Kit): SoundRef[] {
  const found = new Map<string, SoundRef>()
  for (const pad of kit.pads) {
    for (const layer of pad.layers) {
      if (!found.has(layer.sound.id)) found.set(layer.sound.id, layer.sound)
    }
  }
  return [...found.values()]
}
