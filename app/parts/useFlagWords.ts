import type { Flag } from '~~/core/audio/analysis/figures'

/** What a flag says, in a word for a list and in a sentence for who looks closer. */
export const FLAG_WORDS: Readonly<Record<Flag, { readonly word: string, readonly sentence: string }>> = {
  'silent': { word: 'silent', sentence: 'Nothing in it rises above -90 dBFS.' },
  'clipped': { word: 'clipped', sentence: 'It runs into full scale: its tops were cut off.' },
  'dc-offset': { word: 'DC offset', sentence: 'Its middle line lies beside zero; it clicks where it is cut.' },
  'mono-as-stereo': { word: 'mono twice', sentence: 'Both channels hold the same.' },
  'out-of-phase': { word: 'out of phase', sentence: 'Its channels go against each other and cancel out in mono.' },
  'several-hits': { word: 'several hits', sentence: 'There is more than one hit in it.' },
  'late-start': { word: 'late start', sentence: 'More than a tenth of a second of silence comes before it.' },
  'loop': { word: 'loop', sentence: 'Its hits go on through its length.' },
}
