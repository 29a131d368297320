import { kindInText } from '../kindFromName'
import { nameTokens } from '../tokens'

/** What folders within a pack are called beside kinds. Source: common practice. */
const WITHIN_PACKS = new Set([
  'acoustic', 'all', 'and', 'audio', 'bpm', 'closed', 'drum', 'drums', 'dry', 'electronic', 'extra', 'extras', 'fills', 'grooves', 'hits', 'hit', 'instruments', 'kit', 'kits', 'hard', 'high', 'layers', 'long', 'loops', 'low', 'mid', 'midi',
  'misc', 'multi', 'new', 'one', 'oneshots', 'open', 'other', 'patterns', 'perc', 'percs', 'percussion', 'presets', 'raw', 'samples', 'short', 'shot', 'shots', 'single', 'singles', 'soft', 'sounds', 'the', 'unsorted', 'various', 'wav', 'wavs', 'wet',
])

/** Whether a folder is called after what lies in it, such as "Kicks", "03 Closed hats" or "One shots", and not after itself. */
export function isCalledByContent(folder: string): boolean {
  const words = nameTokens(folder).map(word => word.toLowerCase())
  return words.length > 0 && words.every(word => /^\d+$/.test(word) || WITHIN_PACKS.has(word) || kindInText(word) !== undefined)
}
