import { z } from 'zod'
import { EmporionError, firstIssueOf, messageOf } from '../errors'
import { KIT_SCHEMA_VERSION, kitSchema, type Kit } from './document'

/** Turns a document of version `from` into one of version `from + 1`. */
export interface Migration {
  readonly from: number
  readonly up: (document: Record<string, unknown>) => Record<string, unknown>
}

/** One step for each version ever written, oldest first. Steps are never changed once shipped. */
export const MIGRATIONS: readonly Migration[] = [
  {
    // Version 0 was written before pads had outputs and kits a polyphony.
    from: 0,
    up: document => ({
      ...document,
      schema: 1,
      polyphony: 64,
      outputs: [{ id: 'main', name: 'Main' }],
      pads: z.array(z.looseObject({})).parse(document.pads).map(pad => ({ ...pad, output: 'main' })),
    }),
  },
  {
    // Version 1 knew neither turns, alternates, envelopes, filters nor the states of pads, and every hit let go within 10 ms.
    from: 1,
    up: document => ({
      ...document,
      schema: 2,
      gainDb: 0,
      target: null,
      pads: z.array(z.looseObject({ layers: z.array(z.looseObject({})) })).parse(document.pads).map(pad => ({
        ...pad,
        envelope: { attackSeconds: 0, holdSeconds: 0, decaySeconds: null, releaseSeconds: 0.01 },
        filter: null,
        driveDb: 0,
        polyphony: null,
        muted: false,
        soloed: false,
        held: false,
        notes: '',
        alternate: null,
        layers: pad.layers.map(layer => ({ ...layer, fadeInVelocities: 0, fadeOutVelocities: 0, turn: null, fadeInFrames: 0, fadeOutFrames: 0 })),
      })),
    }),
  },
  {
    // Version 2 knew no notes but one a pad, no settings of single layers, and no choke but that of a group within itself.
    from: 2,
    up: document => ({
      ...document,
      schema: 3,
      articulations: [],
      articulation: null,
      articulationController: null,
      groupPolyphony: [],
      pads: z.array(z.looseObject({ layers: z.array(z.looseObject({})) })).parse(document.pads).map(pad => ({
        ...pad,
        range: null,
        velocityTrack: 1,
        velocityCurve: null,
        chokedBy: null,
        chokeSeconds: 0,
        alternateController: null,
        articulation: null,
        layers: pad.layers.map(layer => ({ ...layer, pan: null, envelope: null, filter: null, notes: null, chance: null })),
      })),
    }),
  },
  {
    // Version 3 put every sound on its pad at full level.
    from: 3,
    up: document => ({ ...document, schema: 4, newSoundGainDb: 0 }),
  },
]

/**
 * Reads a kit document of any version, to be shown. Of one that is newer, what this version does not know is left out:
 * such a kit must not be written back.
 *
 * @returns the version of its document where it is newer, else null
 * @throws EmporionError as `parseKit` does; `unsupported` only where what is left makes no whole kit
 */
export function readableKit(value: unknown): { readonly kit: Kit, readonly writtenBy: number | null } {
  const head = versioned.safeParse(value)
  if (!head.success || head.data.schema <= KIT_SCHEMA_VERSION) return { kit: parseKit(value), writtenBy: null }
  const document = structuredClone({ ...head.data, schema: KIT_SCHEMA_VERSION })
  for (const issue of kitSchema.safeParse(document).error?.issues ?? []) {
    if (issue.code !== 'unrecognized_keys') continue
    const holder = issue.path.reduce<unknown>((at, key) => typeof at === 'object' && at !== null ? Reflect.get(at, key) : undefined, document)
    if (typeof holder === 'object' && holder !== null) for (const key of issue.keys) Reflect.deleteProperty(holder, key)
  }
  const kept = kitSchema.safeParse(document)
  return kept.success ? { kit: kept.data, writtenBy: head.data.schema } : { kit: parseKit(value), writtenBy: null }
}

const versioned = z.looseObject({ schema: z.int().min(0) })

/**
 * Reads a kit document of this or any older version.
 *
 * @throws EmporionError `invalid` when it is no kit (says where), `unsupported` when it is from a newer Emporion
 */
export function parseKit(value: unknown): Kit {
  const head = versioned.safeParse(value)
  if (!head.success) throw new EmporionError('invalid', 'This is not a kit: it does not state the version of its document.')
  let document: Record<string, unknown> = head.data
  let version = head.data.schema
  if (version > KIT_SCHEMA_VERSION) {
    throw new EmporionError('unsupported', {
      what: `This kit was written by a newer Emporion (document version ${version}; this one knows ${KIT_SCHEMA_VERSION}).`,
      kept: 'Nothing was changed.',
      next: 'Open it with the newer version.',
    })
  }
  try {
    while (version < KIT_SCHEMA_VERSION) {
      const step = MIGRATIONS.find(migration => migration.from === version)
      if (!step) throw new EmporionError('unsupported', `Kits of document version ${version} can no longer be read.`)
      document = step.up(document)
      version++
    }
    return kitSchema.parse(document)
  }
  catch (thrown) {
    if (!(thrown instanceof z.ZodError)) throw thrown
    throw new EmporionError('invalid', `This is not a valid kit: ${firstIssueOf(thrown)}.`)
  }
}

/** A kit document of any version within something larger that is checked. */
export const kitDocumentSchema = z.custom<Kit>().transform((value: unknown, context): Kit => {
  try {
    return parseKit(value)
  }
  catch (thrown) {
    context.addIssue({ code: 'custom', message: messageOf(thrown) })
    return z.NEVER
  }
})
