import { LRUCache } from 'lru-cache'
import { and, gt, isNotNull, sql } from 'drizzle-orm'
import { monoOf } from '../../core/audio/analysis/colour'
import { FEATURES } from '../../core/audio/analysis/features'
import { featureDistance, NEAR_DISTANCE, signatures } from '../../core/audio/analysis/sameness'
import { isOneRecording, matchWaveforms, Prepared } from '../../core/audio/analysis/waveformMatch'
import { connected } from '../../core/connected'
import { schema } from '../db/open'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import type { CompareResult } from '../../contract/jobs'
import { decodeFile } from './analyse'
import { locateSound } from './locate'

const { nearDuplicates, sounds } = schema

/** Neighbours in a bucket that a sound is held against: a bucket of thousands is of one kind, not of one recording. */
const MOST_NEIGHBOURS = 64
const MOST_DECODED = 256
const REPORT_EVERY_MS = 200

interface Vector {
  readonly id: number
  readonly hash: string
  readonly features: Uint8Array
  readonly startSeconds: number
}

/**
 * Finds recordings that lie in the library more than once at another level, rate or length: those whose vectors are near
 * (found through signatures, so that not every pair is tried) and whose waveforms fit over each other. What was found
 * before is replaced.
 */
export async function compareSounds(context: JobContext): Promise<CompareResult> {
  const { db } = context
  const measured = await db.select({
    id: sounds.id, hash: sounds.hash, features: sounds.features, startSeconds: sql<number>`coalesce((${sounds.figures}->'timing'->>'leadSeconds')::float8, 0)`,
  }).from(sounds).where(and(gt(sounds.fileCount, 0), isNotNull(sounds.features)))
  const vectors: Vector[] = measured.flatMap(row => row.features?.length === FEATURES ? [{ ...row, features: new Uint8Array(row.features) }] : [])
  const pairs = nearPairs(vectors)
  const meter = new ProgressMeter('pairs')
  meter.setTotal(pairs.length)
  const audio = audioCache(context)
  const found: Omit<typeof nearDuplicates.$inferInsert, 'groupId'>[] = []
  let reported = 0
  for (const [first, second] of pairs) {
    context.signal.throwIfAborted()
    const [a, b] = [await audio(first), await audio(second)]
    if (a && b) {
      const match = matchWaveforms(a, b)
      if (isOneRecording(match)) found.push({ firstId: first.id, secondId: second.id, correlation: match.correlation, levelDb: match.levelDb })
    }
    meter.add(1, 0, 0)
    if (performance.now() - reported > REPORT_EVERY_MS) {
      reported = performance.now()
      context.report(meter.progress(''))
    }
  }
  const groups = connected(found.map(pair => [pair.firstId, pair.secondId]))
  const rows = found.map(pair => ({ ...pair, groupId: groups.get(pair.firstId)! }))
  await db.transaction(async (tx) => {
    await tx.delete(nearDuplicates)
    for (let i = 0; i < rows.length; i += 500) await tx.insert(nearDuplicates).values(rows.slice(i, i + 500))
    await tx.execute(MARK_STROKES)
  })
  context.changed('library')
  return { sounds: vectors.length, compared: pairs.length, found: found.length }
}

/** Says of all pairs at once which are strokes of one family by their names. */
const MARK_STROKES = sql`
  UPDATE near_duplicates n SET strokes = true WHERE EXISTS (
    SELECT FROM files a JOIN files b ON b.source_id = a.source_id AND b.family = a.family AND NOT b.missing
    WHERE a.sound_id = n.first_id AND NOT a.missing AND b.sound_id = n.second_id)`

/** Pairs whose vectors are near, each once, those with the lower id first. */
function nearPairs(vectors: readonly Vector[]): [Vector, Vector][] {
  const centre = Float64Array.from({ length: FEATURES }, (_, i) => vectors.reduce((sum, vector) => sum + vector.features[i]!, 0) / Math.max(1, vectors.length))
  const pairs = new Map<string, [Vector, Vector]>()
  const buckets = new Map<number, Vector[]>()
  for (const vector of vectors) {
    signatures(vector.features, centre).forEach((signature, table) => {
      const key = table * 2 ** 20 + signature
      const bucket = buckets.get(key)
      if (!bucket) {
        buckets.set(key, [vector])
        return
      }
      for (const other of bucket.slice(-MOST_NEIGHBOURS)) {
        const [first, second] = other.id < vector.id ? [other, vector] : [vector, other]
        const pair = `${first.id} ${second.id}`
        if (!pairs.has(pair) && featureDistance(first.features, second.features) < NEAR_DISTANCE) pairs.set(pair, [first, second])
      }
      bucket.push(vector)
    })
  }
  return [...pairs.values()]
}

/** Beginnings of the sounds asked for last; undefined for a sound whose file is away or broken. */
function audioCache({ db, config }: JobContext): (sound: Vector) => Promise<Prepared | undefined> {
  const kept = new LRUCache<number, { readonly prepared: Prepared | undefined }>({ max: MOST_DECODED })
  return async (sound) => {
    const known = kept.get(sound.id)
    if (known) return known.prepared
    const file = await locateSound(db, config, sound.hash)
    const decoded = file && await decodeFile(file.path, config.roots).catch(() => undefined)
    const prepared = decoded && new Prepared({ mono: monoOf(decoded.channels), sampleRate: decoded.sampleRate, startSeconds: sound.startSeconds })
    kept.set(sound.id, { prepared })
    return prepared
  }
}
