import type { EmbeddedData } from '../audio/decoded'
import { kindInText, type KindGuess } from './kindFromName'

/** Fields by how much they are about the sound itself; a genre or an album says least. */
const FIELDS: readonly { readonly names: readonly string[], readonly called: string, readonly confidence: number }[] = [
  { names: ['INAM', 'NAME', 'title'], called: 'title', confidence: 0.85 },
  { names: ['ISBJ', 'IKEY', 'keywords', 'subtitle'], called: 'subject', confidence: 0.8 },
  { names: ['ICMT', 'ANNO', 'comment', 'description'], called: 'comment', confidence: 0.65 },
  { names: ['IGNR', 'genre', 'grouping', 'IPRD', 'album'], called: 'genre or album', confidence: 0.6 },
]

/** What a file's own tags say of its kind: chunk texts of WAVE and AIFF, ID3 tags, Vorbis comments. */
export function kindFromTags(embedded: EmbeddedData): KindGuess | undefined {
  const texts: Readonly<Record<string, string>> = { ...embedded.info, ...embedded.tags?.texts }
  for (const { names, called, confidence } of FIELDS) {
    for (const name of names) {
      const guess = texts[name] === undefined ? undefined : kindInText(texts[name])
      if (guess) return { path: guess.path, confidence: guess.isWeak ? confidence - 0.25 : confidence, evidence: `"${guess.word}" in its ${called} (${name})` }
    }
  }
  return undefined
}
