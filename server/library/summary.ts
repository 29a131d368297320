import type { Flag } from '../../core/audio/analysis/figures'
import { decideKind } from '../../core/search/decideKind'
import type { KindGuess } from '../../core/search/kindFromName'
import { naturalKey } from '../../core/search/naturalKey'
import { loopByTempo, tempoOf, type TempoGuess } from '../../core/search/tempo'
import { searchText } from '../../core/search/tokens'

/** An index holds no more. */
const LONGEST_SORT_KEY = 640
/** A sound that lies in more files is found by the first of them. */
const MOST_WORDED = 16

/** A file that holds a sound, and what it says of its kind. */
export interface PlaceOfSound {
  readonly soundId: number | null
  readonly sourceId: number
  readonly source: string
  readonly path: string
  readonly kind: string | null
  readonly kindConfidence: number | null
  readonly kindEvidence: string | null
  readonly tagKind: string | null
  readonly tagConfidence: number | null
  readonly tagEvidence: string | null
}

/** What a sound's tempo is told by beside its files. */
export interface TimedSound {
  readonly lengthSeconds: number
  /** Stated by its tags. */
  readonly tagBpm: number | null
}

/** What is known of a sound beside its files. */
export interface KnownSound extends TimedSound {
  readonly id: number
  readonly flags: readonly Flag[]
  readonly audioKind: string | null
  readonly audioConfidence: number | null
  readonly audioEvidence: string | null
  readonly handKind: string | null
  readonly handTags: readonly string[]
  readonly handNote: string
  readonly kind: string | null
  readonly kindConfidence: number | null
  readonly kindEvidence: string | null
  readonly tempo: number | null
}

export interface FolderRule {
  readonly sourceId: number
  /** Below the source's folder; empty for all of it. */
  readonly folder: string
  readonly kind: string | null
  readonly tags: readonly string[]
}

/** The witnesses of a sound's kind; of several files the one that is surest speaks. */
export function witnessesOf(sound: Pick<KnownSound, 'audioKind' | 'audioConfidence' | 'audioEvidence'>, places: readonly PlaceOfSound[]) {
  return {
    file: surest(places.map(place => guess(place.tagKind, place.tagConfidence, place.tagEvidence))),
    name: surest(places.map(place => guess(place.kind, place.kindConfidence, place.kindEvidence))),
    audio: guess(sound.audioKind, sound.audioConfidence, sound.audioEvidence),
  }
}

/** What is stated of a sound's tempo. */
export function tempoOfSound(sound: TimedSound, kind: string | null, places: readonly Pick<PlaceOfSound, 'path'>[]): TempoGuess | undefined {
  return tempoOf(timeWitnesses(sound, places), kind)
}

function timeWitnesses({ lengthSeconds, tagBpm }: TimedSound, places: readonly Pick<PlaceOfSound, 'path'>[]) {
  return { paths: places.slice(0, MOST_WORDED).map(place => place.path), tagBpm: tagBpm ?? undefined, lengthSeconds }
}

/** What the row of a sound says, drawn together from all that is known of it. A sound whose files are gone keeps its name, kind and tempo. */
export function summaryOf(sound: KnownSound, places: readonly PlaceOfSound[], rules: readonly FolderRule[]) {
  const lead = places[0]
  const name = lead && stem(lead.path)
  const folder = lead && [lead.source, ...lead.path.split('/').slice(0, -1)].join('/')
  const holding = rulesFor(places, rules)
  const kind = kindOf(sound, places, holding)
  const tags = [...new Set([...sound.handTags, ...holding.flatMap(rule => rule.tags)])]
  return {
    id: sound.id,
    name,
    folder,
    sort_key: name !== undefined ? naturalKey(`${name} ${folder}`).slice(0, LONGEST_SORT_KEY) : undefined,
    kind: kind?.path,
    kind_confidence: kind?.confidence,
    kind_evidence: kind?.evidence,
    tempo: lead ? tempoOfSound(sound, kind?.path ?? null, places)?.bpm : sound.tempo,
    tags,
    words: [...new Set([...places.slice(0, MOST_WORDED).map(place => `${place.source}/${place.path}`), ...tags, sound.handNote].map(searchText).filter(Boolean))].join(' | '),
    folders: [...new Set(places.map(place => [place.sourceId, ...place.path.split('/').slice(0, -1)].join('/')))],
    source_ids: [...new Set(places.map(place => place.sourceId))],
    file_count: places.length,
  }
}

function kindOf(sound: KnownSound, places: readonly PlaceOfSound[], rules: readonly FolderRule[]): KindGuess | undefined {
  if (sound.handKind !== null) return { path: sound.handKind, confidence: 1, evidence: 'your own word' }
  const rule = rules.find(candidate => candidate.kind !== null)
  if (rule?.kind) return { path: rule.kind, confidence: 1, evidence: `your rule for ${rule.folder === '' ? 'the whole source' : `the folder "${rule.folder}"`}` }
  if (places.length === 0) return guess(sound.kind, sound.kindConfidence, sound.kindEvidence) ?? undefined
  return decideKind(witnessesOf(sound, places), sound.flags, loopByTempo(timeWitnesses(sound, places), sound.flags))
}

/** Rules of the folders that hold a sound, the nearest first. */
function rulesFor(places: readonly PlaceOfSound[], rules: readonly FolderRule[]): FolderRule[] {
  return rules.filter(rule => places.some(place => place.sourceId === rule.sourceId && (rule.folder === '' || place.path.startsWith(`${rule.folder}/`))))
    .toSorted((a, b) => b.folder.length - a.folder.length)
}

function guess(path: string | null, confidence: number | null, evidence: string | null): KindGuess | null {
  return path === null ? null : { path, confidence: confidence ?? 0, evidence: evidence ?? '' }
}

function surest(guesses: readonly (KindGuess | null)[]): KindGuess | null {
  return guesses.reduce((best, next) => next && next.confidence > (best?.confidence ?? 0) ? next : best, null)
}

/** The name of a file without its folders and its ending. */
export function stem(path: string): string {
  const name = path.slice(path.lastIndexOf('/') + 1)
  const dot = name.lastIndexOf('.')
  return dot > 0 ? name.slice(0, dot) : name
}
