import { keepable } from '../text'
import type { EmbeddedData } from './decoded'

const LONGEST_TEXT = 500

/** What a file says of itself, with its texts as they can be kept: see `keepable`. Some programs write whole documents there; the beginning is kept. */
export function keptEmbedded(embedded: EmbeddedData): EmbeddedData {
  const { info, cues, tags } = embedded
  return {
    ...embedded,
    ...info && { info: keptTexts(info) },
    ...cues && { cues: cues.map(cue => cue.label === undefined ? cue : { ...cue, label: kept(cue.label) }) },
    ...tags && { tags: { ...tags, texts: keptTexts(tags.texts), ...tags.key !== undefined && { key: kept(tags.key) } } },
  }
}

function kept(text: string): string {
  return keepable(text, LONGEST_TEXT).trim()
}

function keptTexts(texts: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(Object.entries(texts).map(([name, text]) => [keepable(name, LONGEST_TEXT), kept(text)]))
}
