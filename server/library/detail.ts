import { eq } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import { schema, type Database } from '../db/open'

const { files, sounds, sources } = schema

export type SoundDetail = Awaited<ReturnType<typeof soundDetail>>

/** All that is known of one sound, with every file that holds it. */
export async function soundDetail(db: Database, hash: string) {
  const [sound] = await db.select().from(sounds).where(eq(sounds.hash, hash))
  if (!sound) throw new EmporionError('not-found', { what: 'This sound is not in the library.', next: 'Bring in the folder that holds it.' })
  const places = await db.select({ source: sources.name, root: sources.path, path: files.path, size: files.size, missing: files.missing })
    .from(files).innerJoin(sources, eq(files.sourceId, sources.id)).where(eq(files.soundId, sound.id)).orderBy(files.id)
  return {
    hash: sound.hash,
    name: sound.name,
    container: sound.container,
    codec: sound.codec,
    kind: sound.kind,
    kindConfidence: sound.kindConfidence,
    kindEvidence: sound.kindEvidence,
    embedded: sound.embedded,
    warnings: sound.warnings,
    figures: sound.figures,
    lengthSeconds: sound.lengthSeconds,
    sampleRate: sound.sampleRate,
    bitDepth: sound.bitDepth,
    channels: sound.channels,
    frames: sound.frames,
    places,
  }
}
